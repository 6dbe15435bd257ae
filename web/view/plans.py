"""What a user can do with plans: save, change, delete, put back. And what a plan says."""

from __future__ import annotations

from datetime import timedelta

from django.db import transaction
from django.http import QueryDict
from django.utils import timezone

from web.people.models import Owner
from web.people.owners import copies, moves
from web.view.forms import scene_query
from web.view.models import Plan, PlanMark
from web.view.reading import Reading
from web.view.sample import FOLDED

_COLUMNS = {
    "how": "how",
    "error": "error_text",
    "share": "share_text",
    "stands": "stands_text",
    "at": "at_text",
    "speed": "speed_text",
}
"""Where what is said of a mark is kept, in the order of ``SAID_OF_A_MARK``."""

NOTE_LIMIT = 2000
UNDO_FOR = timedelta(days=30)
"""How long a deleted plan can be put back."""


def query_of(plan: Plan) -> QueryDict:
    """The plan as a link would say it: reading it gives the scene that was saved."""
    gear = {
        "lens": plan.lens,
        "format": plan.format,
        "pixels_across": "" if plan.pixels_across is None else str(plan.pixels_across),
        "focal_length_mm": f"{plan.focal_length_mm:.12g}",
        "f_number": f"{plan.f_number:.12g}",
        "circle_mm": f"{plan.circle_mm:.12g}",
        "diffraction": "1" if plan.counts_diffraction else "",
        "place": plan.place,
        "camera_height": plan.camera_height_text,
        "tilt_deg": plan.tilt_text,
        "upright": "1" if plan.upright else "",
        "slope_deg": plan.slope_text,
        "moved": plan.moved_text,
        "look": plan.look,
        "choose": plan.choose,
        "ring": plan.ring_text,
        "units": plan.units,
    }
    gear |= {name: str(plan.folded[name]) for name in FOLDED if name in plan.folded}
    marks = (
        (
            mark.name,
            mark.distance_text,
            mark.role,
            *(getattr(mark, column) for column in _COLUMNS.values()),
        )
        for mark in plan.marks.all()
    )
    return scene_query(gear, marks)


class ChangedMeanwhile(Exception):
    """The plan is not what it was when the one who saves it opened it."""


@transaction.atomic
def save(
    owner: Owner,
    name: str,
    reading: Reading,
    plan: Plan | None = None,
    seen: str = "",
    note: str = "",
) -> Plan:
    """Keep a scene under a name: as a new plan of ``owner``, or in place of what ``plan`` was.

    ``reading`` must be valid. ``seen``: the ``Plan.version`` that was opened, if it is known.
    Raises ChangedMeanwhile if ``plan`` has another by now; nothing is written then.
    """
    if plan is not None:
        plan.refresh_from_db()
        if seen and seen != plan.version:
            raise ChangedMeanwhile
    plan = plan or Plan(owner=owner)
    scene = reading.scene
    plan.name = name
    plan.note = note[:NOTE_LIMIT]
    plan.lens = reading.texts["lens"]
    plan.format = scene.format.key
    plan.pixels_across = scene.pixels_across
    plan.focal_length_mm = float(scene.setup.focal_length)
    plan.f_number = float(scene.setup.f_number)
    plan.circle_mm = float(scene.setup.coc)
    plan.counts_diffraction = scene.setup.diffraction
    plan.place = scene.place
    plan.camera_height_text = reading.linked_camera_height
    plan.tilt_text = reading.texts["tilt_deg"]
    plan.upright = bool(reading.texts["upright"])
    plan.slope_text = reading.texts["slope_deg"]
    plan.moved_text = reading.linked_moved
    plan.look, plan.choose = scene.look, scene.choose
    plan.folded = reading.folded
    plan.ring_text = reading.linked_ring
    plan.units = scene.system
    plan.save()
    plan.marks.all().delete()
    kept = [row for row in reading.rows if not row.blank]
    PlanMark.objects.bulk_create(
        PlanMark(
            plan=plan,
            position=at,
            name=row.name,
            distance_text=row.linked,
            role=row.role,
            **{column: getattr(row, name) for name, column in _COLUMNS.items()}
            | {"stands_text": row.linked_stands},
        )
        for at, row in enumerate(kept)
    )
    return plan


@transaction.atomic
def duplicate(plan: Plan) -> Plan:
    """Another plan like it, at the top of the list."""
    marks = list(plan.marks.all())
    plan.pk, plan._state.adding = None, True
    plan.name = f"{plan.name[: _NAME_LIMIT - len(_COPY)]}{_COPY}"
    plan.created_at, plan.copied_from = timezone.now(), None
    plan.save()
    for mark in marks:
        mark.pk, mark.plan = None, plan
    PlanMark.objects.bulk_create(marks)
    return plan


_COPY = ", copy"
_NAME_LIMIT = 80


def delete(plan: Plan) -> None:
    """Take a plan off the list; it can be put back. What was deleted long ago goes for good."""
    now = timezone.now()
    plan.deleted_at = now
    plan.save(update_fields=["deleted_at"])
    Plan.with_deleted.filter(deleted_at__lt=now - UNDO_FOR).delete()


def restore(plan: Plan) -> None:
    """Put a deleted plan back on the list."""
    plan.deleted_at = None
    plan.save(update_fields=["deleted_at"])


@copies
def copy(source: Owner, target: Owner) -> None:
    """Copy every plan of one owner to another, with their marks and dates."""
    for plan in Plan.objects.filter(owner=source).prefetch_related("marks").order_by("updated_at"):
        marks = list(plan.marks.all())
        key, changed = plan.pk, plan.updated_at
        plan.pk, plan._state.adding = None, True
        plan.owner, plan.copied_from = target, key
        plan.save()
        Plan.objects.filter(pk=plan.pk).update(updated_at=changed)
        for mark in marks:
            mark.pk, mark.plan = None, plan
        PlanMark.objects.bulk_create(marks)


@moves
def move(guest: Owner, owner: Owner) -> None:
    """Hand over the plans a guest made, or changed: untouched copies of the sample's stay."""
    own = Plan.with_deleted.filter(owner=guest)
    untouched = own.filter(copied_from__in=Plan.objects.filter(owner__is_sample=True)).filter(
        updated_at__in=Plan.objects.filter(owner__is_sample=True).values("updated_at")
    )
    own.exclude(pk__in=untouched.values("pk")).update(owner=owner, copied_from=None)
