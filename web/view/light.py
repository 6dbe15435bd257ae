"""Light: what the chosen aperture costs, which limit comes first, and motion beside defocus."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from optics.base.formats import BY_KEY
from optics.lens.aperture import exact, stops_between
from optics.light import dial, exposure, motion
from optics.light.taking import Taking
from optics.scene.answer import Answer
from optics.scene.marks import Mark, Verdict, Wish
from optics.scene.movement import longest_still
from optics.sky import star_drift
from web.ui.templatetags.format import iso, shutter
from web.view.deeds import Deed
from web.view.panels import Panels


@dataclass(frozen=True, slots=True)
class Limit:
    """A cause of blur and the longest time on a dial that keeps it within the standard, s."""

    cause: str
    longest: float
    crossed: bool


def _mend(says: str, field: str, text: str) -> Deed:
    """One tap that mends what smears, or what does not: a field of the panels, and what to write
    there. A time that was wished for goes, unless it is that."""
    return Deed(says, ((field, text),) if field == "time" else ((field, text), ("time", "")))


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
    moving: tuple[Verdict, ...]
    mends: tuple[Deed, ...]

    @property
    def first(self) -> Limit | None:
        """The limit that is crossed first as the time grows."""
        return self.limits[0] if self.limits else None


def light(answer: Answer, panels: Panels) -> Light:
    """What the light allows at the answer's aperture."""
    scene, taking = answer.scene, answer.scene.taking
    n = scene.setup.f_number
    seconds = taking.given(n)
    name, stops = "", 0.0
    if taking.ev100 is not None and panels.metered_f is not None:
        name = exposure.light_named(taking.ev100).name
        stops = stops_between(exact(panels.metered_f), exact(n))
    return Light(
        seconds=seconds,
        stops=stops,
        iso=taking.iso,
        without_filter=taking.given(n, 0.0) if taking.nd else None,
        iso_for_time=None if panels.time is None else taking.iso_at(n, panels.time),
        name=name,
        limits=tuple(sorted(_limits(answer, panels), key=lambda one: one.longest)),
        moving=tuple(v for v in answer.verdicts if v.movement is not None),
        mends=tuple(mends(answer)),
    )


MOST_ISO = 102_400.0
"""No camera is asked for more."""
MOST_ND = 10
"""Stops of the darkest filter that is offered."""


def mends(answer: Answer) -> Iterator[Deed]:
    """What keeps still what smears, and else what smears what does not."""
    taking, n = answer.scene.taking, answer.scene.setup.f_number
    smeared = [v.movement for v in answer.smeared if v.movement is not None]
    unsmeared = [v.movement for v in answer.unsmeared if v.movement is not None]
    if smeared:
        still = min(one.still for one in smeared)
        yield from _faster(taking, n, still)
    elif unsmeared and all(one.smears is not None for one in unsmeared):
        least = max(one.smears.shortest for one in unsmeared if one.smears)
        most = min(one.smears.longest for one in unsmeared if one.smears)
        if least <= most:
            yield from _smearing(taking, n, least, most)


def _faster(taking: Taking, n: float, still: float) -> Iterator[Deed]:
    if not dial.SHORTEST <= still < math.inf:
        return
    if taking.ev100 is None:
        yield _mend(f"Use {shutter(still)}", "time", shutter(still))
        return
    if taking.nd and (bare := taking.given(n, 0.0)) is not None and bare <= still:
        yield _mend(f"Take the filter off: {shutter(bare)}", "nd", "")
    wanted = taking.iso_at(n, still)
    if wanted is not None and taking.iso < wanted <= MOST_ISO:
        sensitive = f"ISO {iso(wanted)}"
        yield _mend(f"{sensitive}: {shutter(still)}", "iso", f"{wanted:g}")
        yield _mend(f"Use {shutter(still)}, so {sensitive}", "time", shutter(still))


def _smearing(taking: Taking, n: float, least: float, most: float) -> Iterator[Deed]:
    if taking.ev100 is None:
        yield _mend(f"Use {shutter(least)}", "time", shutter(least))
        return
    plain = taking.given(n, 0.0)
    for stops in range(1, MOST_ND + 1):
        through = taking.given(n, float(stops))
        if plain is not None and through is not None and least <= through <= most:
            yield _mend(f"A filter of {stops} stops: {shutter(through)}", "nd", f"{stops} stops")
            break
    wanted = taking.iso_at(n, least)
    if wanted is not None and wanted >= 1:
        yield _mend(f"Use {shutter(least)}, so ISO {iso(wanted)}", "time", shutter(least))


def _limits(answer: Answer, panels: Panels) -> list[Limit]:
    scene, used = answer.scene, answer.scene.seconds
    setup, coc = scene.setup, scene.setup.coc
    circles = {v.mark.letter: v.circles for v in answer.verdicts}
    found = []
    if panels.held:
        crop = BY_KEY["full-frame"].diagonal / scene.format.diagonal
        longest = motion.hand_held(setup.focal_length, crop, panels.steady)
        found.append(("held by hand", longest))
    for mark, speed in scene.movers:
        if mark.wish is not Wish.SMEAR:
            per_second = _per_second(answer, mark, speed)
            cause = f"{mark.name} moves" if mark.speed is not None else f"leaves at {mark.name}"
            longest = longest_still(per_second, coc, circles[mark.letter])
            # What is soft whatever the time, as if it were not.
            found.append((cause, longest or motion.longest_still(per_second, coc)))
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


def _per_second(answer: Answer, mark: Mark, speed: float) -> float:
    if math.isinf(mark.depth):
        return 0.0
    return motion.per_second(answer.scene.setup, mark.depth, speed, answer.ring.focus)
