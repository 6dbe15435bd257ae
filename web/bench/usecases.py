"""What can be done on the bench: begin a test, give it frames, keep what it found, or nothing."""

from __future__ import annotations

import math
import secrets
from dataclasses import dataclass

from django.db.models import BooleanField, ExpressionWrapper, Q
from django.http import Http404

from optics import Kit
from web.bag import findings
from web.bag.models import Body, InHand, Lens
from web.bag.soundness import sound
from web.bench import results
from web.bench.frames import take_in
from web.bench.made_up import apertures_of, photographed
from web.bench.models import MOST_TESTS, Frame, Test, Thumbnail
from web.hand import panel
from web.hand.fields import FIELDS, USUAL
from web.people.models import Owner
from web.people.owners import find
from web.people.quota import Full


def lenses(owner: Owner) -> list[Lens]:
    """The lenses that can be tested."""
    return sound(Lens.objects.filter(owner=owner))


def begin(owner: Owner, lens: Lens) -> Test:
    """Begin a test of a lens, on the body that was last in hand. Raises Full."""
    if Test.objects.filter(owner=owner).count() >= MOST_TESTS:
        raise Full(f"{MOST_TESTS} tests are under way: keep or give up some of them first.")
    chosen = InHand.objects.filter(owner=owner).select_related("body").first()
    body: Body | None = None if chosen is None else chosen.body
    pitch = None if body is None else body.pitch
    length = lens.shortest_mm if not lens.is_zoom else None
    return Test.objects.create(
        owner=owner, lens=lens, body="" if body is None else body.name,
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


def next_made_up(test: Test) -> float | None:
    """The aperture at which the made-up camera has no frame yet; None where it has all."""
    have = {round(f.f_number, 2) for f in test.frames.defer("small", "seen") if f.f_number}
    return next((n for n in apertures_of(test.lens) if round(n, 2) not in have), None)


def take_made_up(test: Test) -> Frame | None:
    """Let the made-up camera take its next frame; None where it has all."""
    if test.made_up is None:
        test.made_up = secrets.randbelow(2**31)
        test.save(update_fields=["made_up"])
    f_number = next_made_up(test)
    if f_number is None:
        return None
    name, raw = photographed(test.lens, test.made_up, f_number)
    return take_in(test, name, raw)


def say(test: Test, frame: Frame | None, values: dict[str, float]) -> None:
    """Say of a frame, or of all, what files did not."""
    if frame is not None and "f_number" in values:
        frame.f_number = values["f_number"]
        frame.save(update_fields=["f_number"])
    for name in ("focal_length_mm", "pitch_mm"):
        if name in values:
            setattr(test, name, values[name])
    test.save(update_fields=["focal_length_mm", "pitch_mm"])


def keep(test: Test, result: results.Result) -> str:
    """Keep what a test found with its lens, and end the test; the key of the finding. Raises Full;
    Http404 where there is nothing to keep."""
    if result.series is None:
        raise Http404
    lens = test.lens
    if len(lens.findings) >= findings.MOST:
        raise Full(f"A lens has room for {findings.MOST} findings: take some out first.")
    good = [frame for frame in frames_of(test) if frame.seen is not None]
    length = next((f.focal_length_mm for f in good if f.focal_length_mm), test.focal_length_mm)
    key = findings.new_key()
    found = results.finding(test, result, float(length or lens.shortest_mm), key)
    lens.findings = [one.plain for one in findings.read([*lens.findings, found.plain])]
    lens.save()
    owner = test.owner
    there = {one.key for each in Lens.objects.filter(owner=owner) for one in each.found}
    Thumbnail.objects.filter(owner=owner).exclude(finding__in=there).delete()
    Thumbnail.objects.bulk_create(
        Thumbnail(owner=owner, finding=key, name=f.name, f_number=f.f_number, small=f.small)
        for f in test.frames.filter(seen__isnull=False, small__isnull=False)
    )
    test.delete()
    return key


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


@dataclass(frozen=True, slots=True)
class ShownFinding:
    """A finding, whether it does not agree with the others of its kind, and its frames."""

    finding: findings.Finding
    odd: bool
    frames: tuple[Thumbnail, ...]


def shown_findings(lens: Lens) -> list[ShownFinding]:
    """What tests found of a lens, the last first."""
    found = lens.found
    odd_ones = {
        one.key
        for kind in findings.KINDS
        if (one := findings.odd(findings.of_kind(found, kind, None))) is not None
    }
    keys = [one.key for one in found]
    small: dict[str, list[Thumbnail]] = {key: [] for key in keys}
    for frame in Thumbnail.objects.filter(owner=lens.owner, finding__in=keys).defer("small"):
        small[frame.finding].append(frame)
    return [
        ShownFinding(one, one.key in odd_ones, tuple(small[one.key])) for one in reversed(found)
    ]


@dataclass(frozen=True, slots=True)
class Together:
    """What the findings of a kind that are used come to, and where near and far disagree."""

    rows: tuple[findings.Row, ...]
    count: int
    disagree: findings.Disagreement | None


def together(lens: Lens) -> Together | None:
    """The shifts of a lens by all its tests that are used; None where there are not several."""
    used = [one for one in findings.of_kind(lens.found, findings.SHIFT, None) if one.used]
    if len(used) < 2:
        return None
    return Together(findings.combined(used), len(used), findings.near_and_far(used))


def put_back(lens: Lens, gone: object) -> None:
    """Put a finding back that was taken out."""
    kept = [one.plain for one in lens.found]
    lens.findings = [one.plain for one in findings.read([*kept, gone])]
    lens.save()
