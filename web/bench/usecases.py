"""What can be done on the bench: begin a test, give it frames, keep what it found, or nothing."""

from __future__ import annotations

import math
from typing import Any

from django.db.models import BooleanField, ExpressionWrapper, Q
from django.http import Http404

from optics import Kit
from web.bag import findings, usecases
from web.bag.models import Attachment, Body, InHand, Lens, Standard
from web.bag.soundness import sound
from web.bench.kinds.base import Job, Result
from web.bench.models import MOST_READINGS, MOST_TESTS, Frame, Reading, Test, Thumbnail, plain
from web.hand import panel
from web.hand.fields import FIELDS, USUAL
from web.people.models import Owner
from web.people.owners import find
from web.people.quota import Full


def lenses(owner: Owner) -> list[Lens]:
    """The lenses that can be tested."""
    return sound(Lens.objects.filter(owner=owner))


def attachments(owner: Owner) -> list[Attachment]:
    """What can stand behind a lens while it is tested."""
    return sound(Attachment.objects.filter(owner=owner))


def lens_in_hand(owner: Owner) -> int | None:
    """The key of the lens that was last in hand."""
    return InHand.objects.filter(owner=owner).values_list("lens_id", flat=True).first()


def begin(owner: Owner, lens: Lens, kind: str, adapter: str = "") -> Test:
    """Begin a test of a lens, on the body that was last in hand. ``adapter``: the name of what is
    behind the lens. Raises Full."""
    if Test.objects.filter(owner=owner).count() >= MOST_TESTS:
        raise Full(f"{MOST_TESTS} tests are under way: keep or give up some of them first.")
    chosen = InHand.objects.filter(owner=owner).select_related("body").first()
    body: Body | None = None if chosen is None else chosen.body
    pitch = None if body is None else body.pitch
    length = lens.shortest_mm if not lens.is_zoom else None
    behind = next((one for one in attachments(owner) if one.name == adapter), None)
    if behind is not None:
        length = None if length is None else length * behind.factor
    return Test.objects.create(
        owner=owner, lens=lens, kind=kind, adapter="" if behind is None else behind.name,
        body="" if body is None else body.name,
        focal_length_mm=length, pitch_mm=pitch,
    )  # fmt: skip


def of(owner: Owner, key: int) -> Test:
    """A test under way of an owner; a 404 for none of theirs."""
    test: Test = find(Test, owner, key, "")
    return test


def frames_of(test: Test) -> list[Frame]:
    """Its frames, in the order of their apertures, those that tell nothing last."""
    small = ExpressionWrapper(Q(small__isnull=False), output_field=BooleanField())
    frames = list(test.frames.defer("small").annotate(has_small=small))
    return sorted(frames, key=lambda f: (bool(f.wrong), f.f_number or math.inf, f.pk))


def kit_for(owner: Owner, test: Test) -> Kit:
    """The lens under test, ideal, with the standard that is in hand."""
    lens = test.lens
    texts = panel.gear_of(owner, USUAL)
    circle = FIELDS["circle_mm"].clean(texts["circle_mm"])
    widest = float(lens.widest)
    smallest = max(float(lens.smallest_or_assumed.value), widest)
    length = test.focal_length_mm or lens.shortest_mm
    return Kit(float(length), float(circle), apertures=(widest, smallest))


def say(test: Test, frame: Frame | None, values: dict[str, float]) -> None:
    """Say of a frame, or of all, what files did not."""
    if frame is not None and "f_number" in values:
        frame.f_number = values["f_number"]
        frame.save(update_fields=["f_number"])
    for name in ("focal_length_mm", "pitch_mm"):
        if name in values:
            setattr(test, name, values[name])
    test.save(update_fields=["focal_length_mm", "pitch_mm"])


def job_of(owner: Owner, test: Test, distance: float) -> Job:
    """A test with all that its result comes from. ``distance``: that somebody would focus on,
    mm."""
    behind = None
    if test.adapter:
        behind = Attachment.objects.filter(owner=owner, name=test.adapter).first()
    return Job(
        test, tuple(frames_of(test)), tuple(test.readings.all()), kit_for(owner, test), behind,
        distance, owner.units,
    )  # fmt: skip


def read_once(test: Test, values: dict[str, Any]) -> None:
    """Take a reading down. Raises Full."""
    if test.readings.count() >= MOST_READINGS:
        raise Full(f"A test has room for {MOST_READINGS} readings: take some out first.")
    Reading.objects.create(test=test, values=plain(values))


def keep(job: Job, result: Result) -> None:
    """Keep what a test found with its lens, and end the test. Raises Full; Http404 where there is
    nothing to keep."""
    if not result.ready:
        raise Http404
    lens, test, owner = job.lens, job.test, job.test.owner
    new = result.found(job)
    if len(lens.findings) + len(new) > findings.MOST:
        raise Full(f"A lens has room for {findings.MOST} findings: take some out first.")
    result.into(lens)
    lens.findings = [one.plain for one in findings.read([*lens.findings, *(f.plain for f in new)])]
    lens.save()
    there = {one.key for each in Lens.objects.filter(owner=owner) for one in each.found}
    Thumbnail.objects.filter(owner=owner).exclude(finding__in=there).delete()
    small = list(test.frames.filter(seen__isnull=False, small__isnull=False))
    Thumbnail.objects.bulk_create(
        Thumbnail(owner=owner, finding=one.key, name=f.name, f_number=f.f_number, small=f.small)
        for one in new
        for f in small
        if one.way in ("", f.way)
    )
    test.delete()


def keep_standard(job: Job, result: Result) -> Standard:
    """Keep a circle as a standard of its own in the bag, and end the test. Raises Full; Http404
    where there is none."""
    asked = result.standard(job)
    if asked is None:
        raise Http404
    made = usecases.circle_as_standard(job.test.owner, *asked)
    job.test.delete()
    return made


def switch(lens: Lens, key: str, used: bool) -> None:
    """Use a finding, or leave it out."""
    lens.findings = findings.switched(lens.found, key, used)
    lens.save()


def take_out(lens: Lens, key: str) -> dict[str, object] | None:
    """Take a finding out of a lens; it, to be put back, or None where there is none."""
    kept = [one.plain for one in lens.found]
    gone = next((one for one in kept if one["key"] == key), None)
    lens.findings = [one for one in kept if one["key"] != key]
    lens.save()
    return gone


def put_back(lens: Lens, gone: object) -> None:
    """Put a finding back that was taken out."""
    kept = [one.plain for one in lens.found]
    lens.findings = [one.plain for one in findings.read([*kept, gone])]
    lens.save()
