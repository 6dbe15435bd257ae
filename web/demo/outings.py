"""The sample world's outings: one at Sallow Pit, one in Tinder Row, one at Hallin Top."""

from __future__ import annotations

import base64
from datetime import UTC, date, datetime, timedelta
from functools import cache
from typing import Any

from web.demo.came_home import frames
from web.hand.asker import ANYBODY
from web.kept.kinds import known
from web.kept.models import Kept
from web.outings.found import found_of
from web.outings.models import Entry, Frame, Item, Look, Outing, What
from web.outings.taken_out import TakenOut
from web.people.models import Owner
from web.view.forms import scene_query
from web.view.sample import GEAR

_WHEEL = "Sallow Pit, the wheel alone"
_OUTINGS: tuple[dict[str, Any], ...] = (
    {
        "name": "Tinder Row, before the rain", "place": "Tinder Row", "on": date(2026, 3, 12),
        "grounds": ["people", "road"], "waits_for": "Nothing: what comes by.",
        "better": "Shoot at 1/250 s or shorter.",
        "out": (("plan", "Tinder Row, under the wires"), ("set", "Tinder Row")),
    },
    {
        "name": "Hallin Top, new moon", "place": "Hallin Top", "on": date(2026, 3, 18),
        "grounds": ["night", "edges"], "waits_for": "Dark by half past eight.",
        "better": "Try 10 s first, and magnify a corner.",
        "out": (("plan", "Hallin Top, the hut"), ("night", "Hallin Top")),
    },
    {
        "name": "Sallow Pit, low sun", "place": "Sallow Pit", "on": date(2026, 3, 7),
        "grounds": ["water", "edges"], "waits_for": "Sun under the cloud, no wind.",
        "better": "Magnify the ridge too; stay at f/11.",
        "out": (("plan", "Sallow Pit"), ("plan", _WHEEL)), "again_waves": 3,
    },
)  # fmt: skip
_LOGGED: tuple[tuple[str, datetime, str, str, dict[str, str]], ...] = (
    ("Sallow Pit, low sun", datetime(2026, 3, 7, 16, 28, tzinfo=UTC), "Sallow Pit", "checked",
     {"end": "nearest", "word": "holds"}),
    ("Sallow Pit, low sun", datetime(2026, 3, 7, 16, 29, tzinfo=UTC), "Sallow Pit", "checked",
     {"end": "farthest", "word": "just"}),
    ("Sallow Pit, low sun", datetime(2026, 3, 7, 16, 48, tzinfo=UTC), "Sallow Pit", "knocked", {}),
    ("Sallow Pit, low sun", datetime(2026, 3, 7, 17, 4, tzinfo=UTC), "Sallow Pit", "wind", {}),
    ("Hallin Top, new moon", datetime(2026, 3, 18, 21, 38, tzinfo=UTC), "Hallin Top", "note",
     {"text": "Colder than thought: ring taped, focused again."}),
)  # fmt: skip


def go_out(owner: Owner) -> None:
    """Give an owner the sample's outings, with their log and what came home."""
    kept = list(Kept.objects.filter(owner=owner))
    when = datetime(2026, 3, 20, tzinfo=UTC)
    there: dict[tuple[str, str], Item] = {}
    made: dict[str, Outing] = {}
    for said in _OUTINGS:
        fields = {name: value for name, value in said.items() if name != "out"}
        outing = Outing.objects.create(owner=owner, changed=when, begun=when, **fields)
        made[outing.name] = outing
        for at, (kind, name) in enumerate(said["out"]):
            one = next((k for k in kept if (k.kind, k.name) == (kind, name)), None) or _wheel(name)
            there[outing.name, name] = Item(
                outing=outing, at=at, kept=one.pk, kind=one.kind, name=name, link=one.link,
                lens=one.lens, says=list(_says(one.kind, one.link)),
            )  # fmt: skip
    for item in there.values():
        item.save()
    _log(made, there)
    _bring_home(made, there)


def _wheel(name: str) -> Kept:
    """A plan that was kept no longer than for its day."""
    texts = {**GEAR, "f_number": "22", "place": "subject", "circle_mm": "0.012"}
    link = scene_query(texts, (("Winch wheel", "4.2 m", "must"),)).urlencode()
    return Kept(kind="plan", name=name, link=link, lens=GEAR["lens"])


@cache
def _out(kind: str, link: str) -> TakenOut:
    """Something taken out, whoever it is of: answered once."""
    of = known(kind)
    assert of is not None
    item = Item(kind=kind, link=link, lens=GEAR["lens"])
    return TakenOut(item, of, ANYBODY, None, begun=True)


def _says(kind: str, link: str) -> list[str]:
    return _out(kind, link).says


def _log(made: dict[str, Outing], there: dict[tuple[str, str], Item]) -> None:
    """What was logged: a frame taken for each that came home, and the rest."""
    entries = []
    for at, frame in enumerate(frames()):
        item = there[frame["outing"], frame["plan"]]
        time = _time(frame["taken"]) + timedelta(seconds=8)
        entries.append(Entry(outing=made[frame["outing"]], key=f"5a17e000-{at:04d}",
                             device="phone 5a17", at=time, what=What.TAKEN, item=item))  # fmt: skip
    for at, (name, time, plan, what, says) in enumerate(_LOGGED):
        item = there[name, plan]
        subject = f"check:{item.pk}:{says['end']}" if "end" in says else ""
        entries.append(Entry(outing=made[name], key=f"5a17e001-{at:04d}", device="phone 5a17",
                             at=time, what=what, item=item, subject=subject,
                             says=says))  # fmt: skip
    Entry.objects.bulk_create(entries)


def _time(text: str) -> datetime:
    return datetime.strptime(text, "%Y:%m:%d %H:%M:%S").replace(tzinfo=UTC)


def _bring_home(made: dict[str, Outing], there: dict[tuple[str, str], Item]) -> None:
    """The frames, each of its plan, and what is found in them."""
    Look.objects.bulk_create(
        (
            Look(digest=said["digest"], small=base64.b64decode(said["small"]), whole=said["whole"])
            for said in frames()
        ),
        ignore_conflicts=True,
    )
    looks = Look.objects.defer("small", "whole").in_bulk(
        [said["digest"] for said in frames()], field_name="digest"
    )
    fresh = []
    for said in frames():
        item, at = there[said["outing"], said["plan"]], _time(said["taken"])
        frame = Frame(
            outing=made[said["outing"]], look=looks[said["digest"]], at=at, item=item, sure=True,
            order=int(at.timestamp() * 1000), why="By time, focal length, aperture.",
            **{name: said[name] for name in _COPIED},
        )  # fmt: skip
        frame.found = {**_found(said["name"], item.kind, item.link), "lens": item.lens}
        frame.settle()
        fresh.append(frame)
    Frame.objects.bulk_create(fresh)


@cache
def _found(name: str, kind: str, link: str) -> dict[str, Any]:
    """What is found in a frame, as the application finds it: worked out once."""
    said = next(one for one in frames() if one["name"] == name)
    frame = Frame(look=Look(whole=said["whole"]), **{name: said[name] for name in _COPIED})
    return found_of(frame, _out(kind, link))


_COPIED = (
    "name", "bytes", "f_number", "focal_length_mm", "exposure_s", "iso", "body", "lens", "focus_mm",
    "pitch_mm", "width", "height", "marks",
)  # fmt: skip
