"""The lens that drills are done with: one of the bag, or that of a set of positions."""

from __future__ import annotations

import math
from dataclasses import dataclass

from django.http import Http404, QueryDict

from drills.tasks import Called, Gear
from optics.base import settable, units
from optics.base.errors import OpticsError
from optics.lens.depth import limits
from optics.lens.ring import Ring
from optics.lens.shot import Shot
from web.bag.models import Lens
from web.bag.soundness import sound
from web.hand.reader import Hand
from web.hand.with_lens import in_hand, with_lens
from web.kept import keeper
from web.kept.kinds import Kind, known
from web.kept.models import Kept
from web.people.owners import OwnedRequest, find
from web.ui.templatetags import format

SETS = "set"
"""The key of the kind of what has positions to be found by touch."""
ON_THE_STREET = ("positions", "moment")
"""The drills that are done with the positions of a set, and so with its lens."""
NO_SET = "There is no such set."
_PIXELS = 6000
"""Of film: as a good scan of it has across."""
_THROW = math.radians(100.0)
_CLOSEST = 10.0
_MARKS = 1300.0
"""Depth-of-field marks are usually made for the diagonal over that."""
_SCALE = (4.0, 8.0, 11.0, 16.0)


@dataclass(frozen=True, slots=True)
class With:
    """What drills are done with.

    ``gear``, ``name``, ``lens``  the lens, what it is called, its key; None for none of the bag.
    ``street``, ``of``            that of the set, with its positions; and what the set is called.
    ``link``                      the set's, which needs no bag.
    """

    gear: Gear
    name: str
    lens: int | None
    street: Gear
    of: str
    link: str

    def for_(self, drill: str) -> Gear:
        """What one of the drills is done with."""
        return self.street if drill in ON_THE_STREET else self.gear


def gear_for(request: OwnedRequest, key: int | None = None) -> With:
    """What a request is for: a lens by its key, a kept set by its key, a street's link; else the
    lens in hand, and the set that was changed last. ``key``: of a set. Raises Http404 for a lens
    or a set of nobody's."""
    kind = known(SETS)
    assert kind is not None
    found = _set(request, kind, request.GET.get("set", "") if key is None else str(key))
    street = _gear(found.hand, found.hand.in_use.lens, found.called)
    lens = found.hand.in_use.lens
    hand = found.hand
    if not found.asked:
        lens = _lens(request, request.GET.get("lens", ""))
        if lens is not None:
            hand = with_lens(request, lens).hand
    gear = street if hand is found.hand else _gear(hand, lens, found.called)
    name = lens.name if lens is not None else format.millimetres(hand.kit.focal_length)
    return With(gear, name, None if lens is None else lens.pk, street, found.name, found.link)


def _lens(request: OwnedRequest, text: str) -> Lens | None:
    if text.isdecimal() and len(text) < 19:
        found = find(Lens, request.owner, int(text), "There is no such lens in your bag.")
        return next(iter(sound(Lens.objects.filter(pk=found.pk))), None)
    return in_hand(request)


def _gear(hand: Hand, lens: Lens | None, positions: tuple[Called, ...]) -> Gear:
    """What is in hand, as drills need it."""
    kit, system = hand.kit, hand.system
    pixels = hand.pixels_across or _PIXELS
    usual = units.significant(hand.frame.diagonal / _MARKS, 2)
    if lens is not None and hand.in_use.attachment is None:
        closest = max(float(lens.closest_or_assumed.value), kit.closest)
        marks = tuple(float(n) for n in lens.depth_marks) if lens.depth_marks_circle_mm else ()
        return Gear(
            kit, hand.f_number, hand.frame, hand.frame.pixel_pitch(pixels), lens.ring, closest,
            lens.engraved(system), marks or _SCALE, (lens.depth_marks_circle_mm or usual), system,
            lens.to_infinity, positions,
        )  # fmt: skip
    closest = max(kit.closest, _CLOSEST * kit.focal_length)
    ring = Ring.unit_focusing(kit.focal_length, _THROW, closest, hiatus=kit.hiatus)
    return Gear(
        kit, hand.f_number, hand.frame, hand.frame.pixel_pitch(pixels), ring, closest, (), _SCALE,
        usual, system, 1, positions,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Set:
    """What it is called, its link, what is in hand in it, and its positions. ``asked``: whether
    somebody asked for this one."""

    name: str
    link: str
    hand: Hand
    called: tuple[Called, ...]
    asked: bool


def _is_home(shot: Shot, shots: tuple[Shot, ...]) -> bool:
    """Whether it is the position that one comes back to: by its name, else the middle one."""
    named = [one for one in shots if one.name.lower().startswith("home")]
    home = named[0] if named else shots[len(shots) // 2]
    return shot is home


def _set(request: OwnedRequest, kind: Kind, key: str) -> _Set:
    """The set that is asked for, by its key or its link; else the one that was changed last."""
    said, who = request.GET, kind.asks(request)
    typed = "focal_length_mm" in said
    kept: Kept | None = None
    if key:
        if not (key.isdecimal() and len(key) < 19):
            raise Http404(NO_SET)
        kept = find(Kept, request.owner, int(key), NO_SET)
    elif not typed:
        wanted = keeper.Wanted(kind=SETS, lens="", words="")
        kept = next(iter(keeper.listed(request.owner, wanted)[:1]), None)
    if kept is not None and kept.kind != SETS:
        raise Http404(NO_SET)
    link = said if typed and kept is None else QueryDict("" if kept is None else kept.link)
    reading = kind.read(link, who)
    try:
        shots = kind.shots(kind.answer(reading))
    except OpticsError:
        shots = ()
    called = _called(shots, reading.hand)
    name = kept.name if kept is not None else "the street as it is now" if typed else "a street"
    return _Set(name, reading.query(), reading.hand, called, bool(key) or typed)


def _called(shots: tuple[Shot, ...], hand: Hand) -> tuple[Called, ...]:
    """Positions as they are called; where there are none that hold anything, one that does."""
    found = tuple(
        Called(one.name, one.focus, one.near, one.far, _is_home(one, shots), one.touch)
        for one in shots
        if not math.isnan(one.near) and one.near < one.far
    )
    if any(one.home for one in found):
        return found
    setup = hand.kit.at(hand.f_number)
    focus = settable.nearest(max(2500.0, 2.0 * hand.kit.closest), hand.system)
    held = limits(setup, focus)
    near, far = (held.near, held.far) if not held.empty else (0.98 * focus, 1.02 * focus)
    return (*found, Called("Home", focus, near, far, home=True))
