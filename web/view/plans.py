"""What a user can do with plans: save, change, delete, put back. And what a plan says."""

from __future__ import annotations

from django.db import transaction
from django.http import QueryDict

from web.bag.kept import NOTE_LIMIT, hand_over
from web.people.models import Owner
from web.people.owners import copies, moves
from web.view.forms import scene_query
from web.view.models import Look, Plan, PlanMark
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


def query_of(plan: Plan) -> QueryDict:
    """The plan as a link would say it: reading it gives the scene that was saved."""
    gear = {
        **plan.gear_texts,
        "place": plan.place,
        "camera_height": plan.camera_height_text,
        "tilt_deg": plan.tilt_text,
        "slope_deg": plan.slope_text,
        "moved": plan.moved_text,
        "look": plan.look,
        "choose": plan.choose,
        "ring": plan.ring_text,
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
        plan.refuse_if_changed(seen)
    plan = plan or Plan(owner=owner)
    scene = reading.scene
    plan.name = name
    plan.note = note[:NOTE_LIMIT]
    plan.take_gear(scene.setup, scene.format, scene.pixels_across, reading.texts)
    plan.place = scene.school
    plan.camera_height_text = reading.linked_camera_height
    plan.tilt_text = reading.texts["tilt_deg"]
    plan.slope_text = reading.texts["slope_deg"]
    plan.moved_text = reading.linked_moved
    plan.look, plan.choose = reading.texts["look"] or Look.EVERYTHING, scene.choose
    plan.folded = reading.folded
    plan.ring_text = reading.linked_ring
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
    plan.made_another()
    plan.save()
    for mark in marks:
        mark.pk, mark.plan = None, plan
    PlanMark.objects.bulk_create(marks)
    return plan


@copies
def copy(source: Owner, target: Owner) -> None:
    """Copy every plan of one owner to another, with their marks and dates."""
    for plan in Plan.objects.filter(owner=source).prefetch_related("marks").order_by("updated_at"):
        marks = list(plan.marks.all())
        changed = plan.updated_at
        plan.made_another(owner=target)
        plan.save()
        Plan.objects.filter(pk=plan.pk).update(updated_at=changed)
        for mark in marks:
            mark.pk, mark.plan = None, plan
        PlanMark.objects.bulk_create(marks)


@moves
def move(guest: Owner, owner: Owner) -> None:
    """Hand over the plans a guest made, or changed: untouched copies of the sample's stay."""
    hand_over(Plan, guest, owner)
