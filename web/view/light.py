"""Light: what the chosen aperture costs, which limit comes first, and motion beside defocus."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base.formats import BY_KEY
from optics.lens.aperture import exact, stops_between
from optics.light import dial, exposure, motion
from optics.scene.answer import Answer
from optics.scene.marks import Mark, Wish
from optics.scene.scenes import Scene
from optics.sky import star_drift
from web.view.panels import Panels

SMEAR_LEAST, SMEAR_MOST = 0.02, 0.2
"""How long a streak reads as a smear, as shares of the frame's height: from silk to mist."""


@dataclass(frozen=True, slots=True)
class Limit:
    """A cause of blur and the longest time on a dial that keeps it within the standard, s."""

    cause: str
    longest: float
    crossed: bool


@dataclass(frozen=True, slots=True)
class Moving:
    """A mark that moves, at the time used. In circles of confusion: its defocus, its motion, and
    both together. ``wanted``: whether it should smear."""

    letter: str
    name: str
    defocus: float
    streak: float
    together: float
    word: str
    wanted: bool
    smears: motion.Times | None
    in_range: bool


@dataclass(frozen=True, slots=True)
class Light:
    """What the light allows. Times s, such as a dial has. ``seconds``: used, None where nothing was
    metered.

    ``stops``: how much darker the chosen aperture is than the metered one. ``iso``: used.
    ``iso_for_time``: at the time wished for. ``name``: of the light.
    """

    seconds: float | None
    stops: float
    iso: float
    without_filter: float | None
    iso_for_time: float | None
    name: str
    limits: tuple[Limit, ...]
    moving: tuple[Moving, ...]

    @property
    def first(self) -> Limit | None:
        """The limit that is crossed first as the time grows."""
        return self.limits[0] if self.limits else None


def light(answer: Answer, panels: Panels) -> Light:
    """What the light allows at the answer's aperture."""
    scene = answer.scene
    n = exact(scene.setup.f_number)
    seconds = plain = iso_for_time = None
    name, stops = "", 0.0
    iso = panels.iso or panels.metered_iso
    if panels.metered_f is not None and panels.metered_time is not None:
        metered = exposure.Exposure(
            exact(panels.metered_f), panels.metered_time, panels.metered_iso
        )
        ev = metered.ev100
        stops = stops_between(exact(panels.metered_f), n)
        name = exposure.light_named(ev).name
        plain = dial.named_time(exposure.seconds_for(ev, n, iso))
        seconds = dial.named_time(exposure.seconds_for(ev, n, iso, panels.nd))
        if panels.time is not None:
            iso_for_time = dial.named_iso(exposure.iso_for(ev, n, panels.time, panels.nd))
    used = panels.time if panels.time is not None else seconds
    return Light(
        seconds=seconds,
        stops=stops,
        iso=iso,
        without_filter=plain if panels.nd else None,
        iso_for_time=iso_for_time,
        name=name,
        limits=tuple(sorted(_limits(answer, panels, used), key=lambda one: one.longest)),
        moving=tuple(_moving(answer, panels, used)) if used else (),
    )


def used_time(found: Light, panels: Panels) -> float | None:
    """The time a frame takes: the one wished for, else the one the light gives."""
    return panels.time if panels.time is not None else found.seconds


def _smears(per_second: float, height: float) -> motion.Times | None:
    """Times of a dial that smear what moves; None where none of them does."""
    found = motion.times_to_smear(per_second, SMEAR_LEAST * height, SMEAR_MOST * height)
    shortest, longest = dial.shortest_named(found.shortest), dial.longest_named(found.longest)
    return motion.Times(shortest, longest) if shortest <= longest else None


def _limits(answer: Answer, panels: Panels, used: float | None) -> list[Limit]:
    scene = answer.scene
    setup, coc = scene.setup, scene.setup.coc
    found = []
    if panels.held:
        crop = BY_KEY["full-frame"].diagonal / scene.format.diagonal
        longest = motion.hand_held(setup.focal_length, crop, panels.steady)
        found.append(("held by hand", longest))
    for mark, speed in _movers(scene, panels):
        if mark.wish is not Wish.SMEAR:
            per_second = _per_second(answer, mark, speed)
            cause = f"{mark.name} moves" if mark.speed is not None else f"leaves at {mark.name}"
            found.append((cause, motion.longest_still(per_second, coc)))
    if panels.dusk:
        tolerance = motion.disc_as_streak(coc)
        longest = star_drift.longest_exposure(
            setup.focal_length,
            tolerance,
            star_drift.WORST_DECLINATION,
            scene.format.diagonal / 2,
        )
        found.append(("stars drift", longest))
    return [_limit(cause, longest, used) for cause, longest in found]


def _limit(cause: str, allowed: float, used: float | None) -> Limit:
    longest = dial.longest_named(allowed) if 0 < allowed < math.inf else allowed
    return Limit(cause, longest, used is not None and used > longest * (1 + _SAME))


_SAME = 1e-6


def _movers(scene: Scene, panels: Panels) -> list[tuple[Mark, float]]:
    """Marks that move, with their speeds, mm/s; leaves move at the nearest that must be sharp."""
    found = [(mark, mark.speed) for mark in scene.marks if mark.speed]
    if panels.leaves:
        near = min(scene.must, key=lambda mark: mark.depth, default=None)
        if near is not None and near.speed is None:
            found.append((near, panels.leaves))
    return [(mark, speed) for mark, speed in found if speed is not None]


def _per_second(answer: Answer, mark: Mark, speed: float) -> float:
    if math.isinf(mark.depth):
        return 0.0
    return motion.per_second(answer.scene.setup, mark.depth, speed, answer.ring.focus)


def _moving(answer: Answer, panels: Panels, used: float) -> list[Moving]:
    scene, coc = answer.scene, answer.scene.setup.coc
    circles = {v.mark.letter: v.circles for v in answer.verdicts}
    height = min(scene.format.width, scene.format.height)
    found = []
    for mark, speed in _movers(scene, panels):
        per_second = _per_second(answer, mark, speed)
        streak = motion.streak_as_disc(per_second * used) / coc
        defocus = circles[mark.letter]
        together = motion.together(defocus, streak)
        wanted = mark.wish is Wish.SMEAR
        smears = None
        if wanted and per_second > 0:
            smears = _smears(per_second, height)
        found.append(
            Moving(
                letter=mark.letter,
                name=mark.name,
                defocus=defocus,
                streak=streak,
                together=together,
                word="holds" if together <= 1 else "soft",
                wanted=wanted,
                smears=smears,
                in_range=smears is not None and smears.shortest <= used <= smears.longest,
            )
        )
    return found
