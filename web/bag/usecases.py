"""What a user can do with a bag: look at it, and know what each thing in it means."""

from __future__ import annotations

import contextlib
import math
import uuid
from dataclasses import dataclass
from typing import TypeVar

from django.db import IntegrityError, transaction
from django.utils import timezone

from drawing import frames, ring
from optics import Setup
from optics.base.errors import OpticsError
from optics.base.settable import Span, inside
from optics.base.systems import BY_KEY
from optics.lens import depth
from optics.lens.standards import widest_print
from web.bag import touch
from web.bag.layout import ThingForm
from web.bag.models import Attachment, Body, InHand, Lens, Standard, Thing, Way
from web.bag.soundness import broken, drawn_ring, sound, straight_down
from web.kept.models import Kept
from web.people import quota
from web.people.models import Owner

KNOWN_F_NUMBER = 8.0
KNOWN_FOCUS_MM = 3000.0
"""The well-known case in which standards are compared: f/8, 3 m."""


KINDS: tuple[type[Thing], ...] = (Body, Lens, Attachment, Standard)
Some = TypeVar("Some", bound=Thing)


@dataclass(frozen=True, slots=True)
class ShownLens:
    """A lens with its ring drawn."""

    lens: Lens
    picture: ring.RingPicture


@dataclass(frozen=True, slots=True)
class ShownBody:
    """A body with its frame to scale beside the others."""

    body: Body
    box: frames.FrameBox


@dataclass(frozen=True, slots=True)
class ShownStandard:
    """A standard and what it does to a well-known case.

    ``circle``: mm on the body in hand, None where it has none there; ``held``: what is sharp in
    the known case, rounded inwards; None where nothing is.
    """

    standard: Standard
    circle: float | None
    held: Span | None
    exact: depth.Limits | None
    largest_print: float | None


@dataclass(frozen=True, slots=True)
class Bag:
    """All that an owner carries. ``broken``: things that no form would take as they are."""

    lenses: tuple[ShownLens, ...]
    bodies: tuple[ShownBody, ...]
    frames: frames.FramesPicture
    standards: tuple[ShownStandard, ...]
    attachments: tuple[Attachment, ...]
    broken: tuple[Thing, ...]
    body: Body | None
    lens: Lens | None


FRAMES_WIDTH, FRAMES_HEIGHT = 360.0, 84.0


def bag(owner: Owner) -> Bag:
    """Everything, drawn."""
    things = {kind: list(kind.objects.filter(owner=owner)) for kind in KINDS}
    bodies, lenses = sound(things[Body]), sound(things[Lens])
    drawn = frames.draw([body.frame for body in bodies], FRAMES_WIDTH, FRAMES_HEIGHT)
    chosen = InHand.objects.filter(owner=owner).select_related("body", "lens").first()
    body = _chosen(bodies, chosen and chosen.body)
    lens = _chosen(lenses, chosen and chosen.lens)
    return Bag(
        lenses=tuple(ShownLens(each, drawn_ring(each, owner.units)) for each in lenses),
        bodies=tuple(map(ShownBody, bodies, drawn.boxes)),
        frames=drawn,
        standards=compared(owner, body, lens),
        attachments=tuple(sound(things[Attachment])),
        broken=tuple(thing for kind in KINDS for thing in broken(things[kind])),
        body=body,
        lens=lens,
    )


GEAR: tuple[type[Thing], ...] = (Body, Lens, Attachment)
"""What somebody carries; standards are what they think."""


def samples_gear(owner: Owner) -> bool:
    """Whether there is gear of the sample in a bag."""
    if owner.is_sample:
        return True
    return any(kind.objects.filter(owner=owner).exclude(copied_from=None).exists() for kind in GEAR)


def start_empty(owner: Owner) -> None:
    """Take out all gear that came with the sample; what was put in stays, and so do standards."""
    with transaction.atomic():
        now = timezone.now()
        for kind in GEAR:
            kind.objects.filter(owner=owner).exclude(copied_from=None).update(deleted_at=now)
        InHand.objects.filter(owner=owner).update(body=None, lens=None, attachment=None)


def fill_again(owner: Owner) -> None:
    """Put the sample's gear back, but for what there is by that name now."""
    with transaction.atomic():
        for kind in GEAR:
            names = kind.objects.filter(owner=owner).values("name")
            gone = kind.with_deleted.filter(owner=owner).exclude(copied_from=None)
            gone.exclude(deleted_at=None).exclude(name__in=names).update(deleted_at=None)


def _chosen(things: list[Some], one: Some | None) -> Some | None:
    """The one in hand if it is among those; else the first."""
    return one if one in things else next(iter(things), None)


def compared(owner: Owner, body: Body | None, lens: Lens | None) -> tuple[ShownStandard, ...]:
    """Every standard on the body in hand, in the known case of the lens in hand."""
    found = []
    for standard in sound(Standard.objects.filter(owner=owner).select_related("than")):
        circle = standard.circle(body) if body is not None else None
        held = exact = None
        if circle is not None and lens is not None:
            with contextlib.suppress(OpticsError):  # a circle larger than a picture holds nothing
                setup = Setup(
                    lens.shortest_mm,
                    KNOWN_F_NUMBER,
                    circle,
                    diffraction=standard.counts_diffraction,
                )
                exact = depth.limits(setup, max(KNOWN_FOCUS_MM, 4.0 * lens.shortest_mm))
            if exact is not None and not exact.empty:
                held = inside(exact.near, exact.far, owner.units)
        largest = widest_print(circle, body.frame) if circle and body else None
        found.append(ShownStandard(standard, circle, held, exact, largest))
    return tuple(found)


def keep(form: ThingForm, once: str) -> Thing:
    """Keep what a valid form says. The same form sent twice makes one thing. Raises quota.Full."""
    thing: Thing = form.save(commit=False)
    thing.owner = form.owner
    if thing.pk is None:
        quota.check(form.owner, type(thing).with_deleted.all(), "of these things")
        thing.once = _token(once)
        try:
            with transaction.atomic():
                thing.save()
        except IntegrityError:
            again = type(thing).with_deleted.filter(owner=form.owner, once=thing.once).first()
            if again is None:
                raise
            return again
        _take_in_hand(thing)
    else:
        thing.save()
    return thing


def _take_in_hand(thing: Thing) -> None:
    """A body or lens of one's own takes the place of the sample's in hand, as nobody chose that."""
    name = {Body: "body", Lens: "lens"}.get(type(thing), "")
    chosen = InHand.objects.filter(owner=thing.owner).first() if name else None
    if chosen is None:
        return
    now = getattr(chosen, name)
    if now is not None and now.copied_from is None and now.deleted_at is None:
        return
    setattr(chosen, name, thing)
    if name == "lens":
        chosen.attachment = chosen.focal_length_mm = chosen.f_number = None
    chosen.save()


def _token(text: str) -> uuid.UUID:
    try:
        return uuid.UUID(text)
    except ValueError:
        return uuid.uuid4()


def take_out(thing: Thing) -> None:
    """Take a thing out of the bag; it can be put back."""
    thing.deleted_at = timezone.now()
    thing.save(update_fields=["deleted_at"])


def put_back(thing: Thing) -> bool:
    """Put a thing back; False if another of that name has come in meanwhile."""
    thing.deleted_at = None
    try:
        with transaction.atomic():
            thing.save(update_fields=["deleted_at"])
    except IntegrityError:
        return False
    return True


def kept_with(lens: Lens) -> list[Kept]:
    """What planners keep that was made with a lens: it has a copy of what it needs."""
    return list(Kept.objects.filter(owner=lens.owner, lens=lens.name))


@dataclass(frozen=True, slots=True)
class Fact:
    """Something that follows: a name, and a length in mm or a number, or None for *none here*."""

    name: str
    value: float | None


def circles_on(body: Body) -> tuple[Fact, ...]:
    """The circle that each standard of its owner gives on a body, mm."""
    found = sound(Standard.objects.filter(owner=body.owner).select_related("than"))
    return tuple(Fact(standard.name, standard.circle(body)) for standard in found)


def circles_of(standard: Standard) -> tuple[Fact, ...]:
    """The circle of a standard on each body of its owner, mm."""
    bodies = sound(Body.objects.filter(owner=standard.owner))
    return tuple(Fact(body.name, standard.circle(body)) for body in bodies)


@dataclass(frozen=True, slots=True)
class TabPlace:
    """Where a tab stands: the ring's distance, mm, and in words."""

    distance: float
    words: str


_TOLD = (1000.0, 2000.0, 5000.0)
"""mm: where a tab stands is said for what rings carry near these."""


def tab_places(lens: Lens, system: str) -> tuple[TabPlace, ...]:
    """Where a lens's tab stands at what its ring shows, and what it shows with the tab straight
    down; none for a lens without a tab."""
    if lens.tab_at_infinity_hours is None:
        return ()
    hands = lens.hands
    down = straight_down(lens)
    straight = () if down is None else (TabPlace(down, touch.clock(6.0)),)
    usual = (min(BY_KEY[system].ring, key=lambda mark: abs(mark - d)) for d in _TOLD)
    closest = min(lens.measured, default=lens.closest_or_assumed.value)
    distances = lens.engraved(system) or (closest, *usual, math.inf)
    told = (TabPlace(d, touch.clock(hands.clock(d))) for d in sorted(set(distances)))
    by_words = {place.words: place for place in (*straight, *told)}  # a reading of its own first
    return tuple(sorted(by_words.values(), key=lambda place: place.distance))


@dataclass(frozen=True, slots=True)
class MarkToUse:
    """At an aperture, which engraved depth-of-field marks are true for a standard."""

    f_number: float
    mark: float


def marks_to_use(lens: Lens, circle: float) -> tuple[MarkToUse, ...]:
    """For each engraved mark, the one to read instead, by a circle of one's own, mm."""
    found = ((number, lens.mark_to_read(number, circle)) for number in lens.depth_marks)
    return tuple(MarkToUse(number, mark) for number, mark in found if mark is not None)


def circle_as_standard(owner: Owner, name: str, circle: float) -> Standard:
    """A standard of a circle, mm, that was found out; by a name that is free. Raises quota.Full."""
    quota.check(owner, Standard.with_deleted.all(), "of these things")
    taken = set(Standard.objects.filter(owner=owner).values_list("name", flat=True))
    numbers = ("", *(f" {count}" for count in range(2, len(taken) + 3)))
    free = next(name[: 60 - len(more)] + more for more in numbers if name + more not in taken)
    made: Standard = Standard.objects.create(
        owner=owner, name=free, way=Way.GIVEN, circle_mm=circle
    )
    return made
