"""Saying of frames what is to be said, where their plan, their marks or the lens are others now."""

from __future__ import annotations

from collections.abc import Sequence

from django.db.models import QuerySet

from imaging.alike import alike
from web.outings.found import found_of
from web.outings.models import Frame, Look, Outing, State
from web.outings.taken_out import TakenOut

AT_ONCE = 60
"""Frames of which it is said in one go, so that a page never waits for a thousand."""


def tell_all(outing: Outing, there: Sequence[TakenOut], frames: Sequence[Frame] = ()) -> int:
    """Say of frames that belong to a plan what is not said yet; of how many it was."""
    by_key = {one.item.pk: one for one in there}
    asked = list(frames) or list(untold(outing).select_related("look")[:AT_ONCE])
    done = []
    for frame in asked:
        one = by_key.get(frame.item_id) if frame.item_id else None
        if one is None or not frame.sure or frame.look is None or frame.wrong:
            continue
        if not frame.marks:
            frame.marks = marks_before(outing, frame)
        frame.found = found_of(frame, one)
        frame.settle()
        done.append(frame)
    Frame.objects.bulk_update(done, ["found", "marks", "state"], batch_size=100)
    return len(done)


def untold(outing: Outing) -> QuerySet[Frame]:
    """The frames of which nothing is said yet, and something could be."""
    return outing.frames.filter(state=State.UNTOLD)


def marks_before(outing: Outing, frame: Frame) -> dict[str, list[float]]:
    """Where the marks stood in the frame before of the same plan, if it shows the same view: a
    camera on its legs sees them there again; one that was moved does not."""
    before = (
        outing.frames.filter(item=frame.item_id, order__lte=frame.order)
        .filter(width=frame.width, height=frame.height)
        .exclude(pk=frame.pk)
        .exclude(marks={})
        .exclude(look=None)
        .select_related("look")
        .order_by("-order", "-pk")
        .first()
    )
    if before is None or not _same_view(before.look, frame.look):
        return {}
    return dict(before.marks)


_ALIKE = 0.7
"""Views that are that much alike are the same one: others come to 0.3 at the most."""


def _same_view(one: Look | None, other: Look | None) -> bool:
    small = [bytes(look.small) for look in (one, other) if look is not None and look.small]
    return len(small) == 2 and alike(*small) >= _ALIKE
