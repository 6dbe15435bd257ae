"""How far the ring may be off: in distance, on this very ring, and for each way of focusing."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base.settable import Span, inside
from optics.lens import focusing
from optics.lens.depth import Window
from optics.lens.ring import Ring as FocusRing
from optics.scene.answer import Answer
from optics.scene.scenes import Scene
from web.bag.lenses import Lens
from web.bag.touch import width_in_fingers
from web.hand.in_use import InUse
from web.hand.touch import touches

ASSUMED_WIDEST = 2.8
"""What a lens that nobody knows is focused at, if the picture is not taken wider."""


@dataclass(frozen=True, slots=True)
class Place:
    """Where the ring stands for a distance. ``distance`` mm; ``degrees`` from infinity towards
    near."""

    distance: float
    degrees: float


@dataclass(frozen=True, slots=True)
class OnRing:
    """The window on this ring. ``closest``: how near the ring goes, mm; ``touch``: where a thumb
    finds the answer; ``from_infinity``, ``towards_infinity``: which way that is, seen from behind.
    ``width``: degrees."""

    lens: Lens
    ring: FocusRing
    closest: float
    answer: Place
    touch: str
    nearest: Place | None
    farthest: Place | None
    from_infinity: str
    towards_infinity: str
    width: float
    assumed: bool

    @property
    def fingers_wide(self) -> str:
        """The width of the window, in fingers."""
        return width_in_fingers(math.radians(self.width))


@dataclass(frozen=True, slots=True)
class Focusing:
    """A way of focusing against the window. ``near``, ``far``: where the ring may end up on a
    hurried day, mm; ``careful_near``, ``careful_far``: on a careful one. ``tested``: whether a test
    of one's own says so, not what is usual."""

    way: str
    near: float
    far: float
    careful_near: float
    careful_far: float
    fit: str
    chosen: bool
    tested: bool


@dataclass(frozen=True, slots=True)
class Tolerance:
    """All there is to say of how far the ring may be off, with the marks just where they are said
    to be: what a way of focusing gets wrong is looked at by itself. ``given``: the window for that,
    to be written, where it is another than the answer's. ``on_ring``: None where
    no lens of the bag is in hand; ``room``: to either side, mm behind the lens."""

    window: Window | None
    given: Span | None
    on_ring: OnRing | None
    ways: tuple[Focusing, ...]
    room: float

    @property
    def good(self) -> tuple[str, ...]:
        """The ways that are good enough."""
        return tuple(way.way for way in self.ways if way.fit == focusing.Fit.GOOD)

    @property
    def chosen(self) -> Focusing | None:
        """The way that is used."""
        return next((way for way in self.ways if way.chosen), None)


def tolerance(answer: Answer, in_use: InUse, focus_by: str) -> Tolerance:
    """How far the ring may be off, on what is in hand. ``focus_by``: the way of focusing used."""
    scene, window, focus = answer.scene, answer.given_window, answer.ring.focus
    lens = in_use.lens
    ring = ring_of(in_use)
    found = errors_of(scene, in_use)
    near = answer.ends.near if answer.ends else math.inf
    room = focusing.room(scene.setup, window, focus, near) if window else 0.0
    ways = []
    for error in found:
        hurried = focusing.in_distance(scene.setup, focus, error.worst)
        careful = focusing.in_distance(scene.setup, focus, error.best)
        fit = focusing.fit(error, room)
        own, tested = error.way == focus_by, error.way in in_use.tried
        ways.append(Focusing(error.way, *hurried, *careful, fit, own, tested))
    on_ring = _on_ring(answer, in_use, ring) if ring is not None and lens is not None else None
    given = None
    if window is not None and window != answer.exact_window:
        given = inside(window.nearest, window.farthest, scene.system)
    return Tolerance(window, given, on_ring, tuple(ways), room)


def errors_of(scene: Scene, in_use: InUse) -> tuple[focusing.Error, ...]:
    """What each way of focusing gets wrong with what is in hand: focused wide open, or at the
    aperture in force on a body that focuses there."""
    pixels, lens = scene.pixels_across, in_use.lens
    taken_at = scene.setup.f_number
    known = lens is not None or in_use.tells.apertures is not None
    widest = scene.apertures[0] if known else min(taken_at, ASSUMED_WIDEST)
    taking = in_use.body is not None and in_use.body.focuses_at == "taking"
    return focusing.errors(
        scene.setup.focal_length,
        taken_at if taking else widest,
        scene.format.pixel_pitch(pixels) if pixels else None,
        ring_of(in_use) if lens is not None and lens.has_scale else None,
        in_use.tried,
    )


def ring_of(in_use: InUse) -> FocusRing | None:
    """The ring of the lens in hand; None without one, behind something that changes it, or at a
    focal length that it has not got."""
    lens = in_use.lens
    return lens.ring if lens is not None and in_use.ring_is_known else None


def touch_of(answer: Answer, in_use: InUse) -> tuple[str, ...]:
    """Where a thumb finds the ring of each frame of an answer."""
    window = answer.exact_window if answer.inside_window and not answer.more_frames else None
    shots = [(shot.focus, window) for shot in answer.shots]
    return touches(in_use, shots, answer.scene.system)


_TURNS = {1: "clockwise", -1: "anticlockwise"}


def _on_ring(answer: Answer, in_use: InUse, ring: FocusRing) -> OnRing:
    lens = in_use.lens
    assert lens is not None
    window = answer.given_window

    def place(distance: float) -> Place:
        return Place(distance, math.degrees(abs(ring.turn(math.inf, distance))))

    near = far = None
    if window is not None:
        near, far = place(window.nearest), place(window.farthest)
    return OnRing(
        lens=lens,
        ring=ring,
        closest=answer.scene.closest,
        answer=place(answer.ring.focus),
        touch=touch_of(answer, in_use)[0],
        nearest=near,
        farthest=far,
        from_infinity=_TURNS[-lens.to_infinity],
        towards_infinity=_TURNS[lens.to_infinity],
        width=near.degrees - far.degrees if near and far else 0.0,
        assumed=lens.ring_is_assumed,
    )
