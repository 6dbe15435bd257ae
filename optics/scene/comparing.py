"""Every school of placing focus on one scene: what its setting holds, and what it costs.

Side by side: for every school the setting, the limits there, every mark's verdict, and the cost, in
one currency: how many stops more the scene would have to be closed down than if focus were put
between the ends.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.lens.depth import Limits, counted_blur, limits
from optics.lens.equal_blur import worst_blur
from optics.scene.marks import Verdict, Wish, Word, judge_best
from optics.scene.placing import Placement, Placer
from optics.scene.scenes import Scene
from optics.scene.schools import SCHOOLS, School


@dataclass(frozen=True, slots=True)
class Cost:
    """What a placement costs.

    ``lost``       marks that must be sharp and are not: their places in the scene's marks.
    ``just``       those that hold only at their stated depth.
    ``too_sharp``  marks that should fall soft and do not.
    ``worst``      the largest blur among those that must be sharp, in circles; 0 if none must.
    ``at_infinity``  infinity's blur, in circles.
    ``stops``      how much more the lens must be closed down for the worst mark to be as sharp as
                   *between the ends* makes it, by geometry; None where nothing must be sharp.
    ``exposures``  how many frames it takes.
    """

    lost: tuple[int, ...]
    just: tuple[int, ...]
    too_sharp: tuple[int, ...]
    worst: float
    at_infinity: float
    stops: float | None
    exposures: int = 1


@dataclass(frozen=True, slots=True)
class Compared:
    """One school's answer: what choosing it gives.

    ``focus``     mm from the sensor; None where this school has no answer, and ``why_not`` says so.
    ``limits``    what is sharp there. Of several frames, from the nearest to the farthest of all.
    ``verdicts``  in the order of the scene's marks; of several frames, each by the best of them.
    ``settings``  every ring setting it takes, nearest first; of one frame just ``focus``. All are
                  such that a hand can set them.
    ``judged``    those that what is said is said of: all of them, but for what is taken only to be
                  safe.
    """

    school: School
    focus: float | None
    limits: Limits | None
    verdicts: tuple[Verdict, ...]
    settings: tuple[float, ...]
    judged: tuple[float, ...]
    cost: Cost | None
    why_not: str = ""


def compare(scene: Scene) -> tuple[Compared, ...]:
    """Every school on one scene, in the order of ``SCHOOLS``.

    What one school cannot do is said in its ``why_not``, not raised.
    """
    placer = Placer(scene)
    least = _least(placer)
    return tuple(_compared(placer, school, placer.by(school), least) for school in SCHOOLS)


def _least(placer: Placer) -> float:
    """The blur of both ends with the ring between them, mm; 0 without two ends."""
    if placer.ends is None or placer.equal is None:
        return 0.0
    return worst_blur(placer.scene.setup, placer.ends.near, placer.ends.far, placer.equal)


def _compared(placer: Placer, school: School, found: Placement, least: float) -> Compared:
    if found.why_not:
        return Compared(school, None, None, (), (), (), None, found.why_not)
    scene = placer.scene
    judged = tuple(setting.focus for setting in found.settings)
    spare = tuple(setting.focus for setting in found.spare)
    verdicts = judge_best(scene.setup, scene.marks, judged, scene.look)
    held = [limits(scene.setup, focus) for focus in judged]
    return Compared(
        school=school,
        focus=judged[-1],
        limits=Limits(held[0].near, held[-1].far),
        verdicts=verdicts,
        settings=spare,
        judged=judged,
        cost=_cost(placer, verdicts, judged, len(spare), least),
    )


def _cost(
    placer: Placer,
    verdicts: tuple[Verdict, ...],
    settings: tuple[float, ...],
    exposures: int,
    least: float,
) -> Cost:
    setup = placer.scene.setup
    must = [(at, v) for at, v in enumerate(verdicts) if v.mark.must]
    soft = [(at, v) for at, v in enumerate(verdicts) if v.mark.wish is Wish.SOFT]
    return Cost(
        lost=tuple(at for at, v in must if v.word is Word.SOFT),
        just=tuple(at for at, v in must if v.word is Word.JUST),
        too_sharp=tuple(at for at, v in soft if not v.met),
        worst=max((v.circles for _, v in must), default=0.0),
        at_infinity=counted_blur(setup, math.inf, settings[-1]) / setup.coc,
        stops=_stops(placer, settings, least),
        exposures=exposures,
    )


def _stops(placer: Placer, settings: tuple[float, ...], least: float) -> float | None:
    two = placer.ends
    if two is None or least <= 0 or len(settings) > 1:
        return None
    blur = worst_blur(placer.scene.setup, two.near, two.far, settings[0])
    return max(2.0 * math.log2(blur / least), 0.0) if blur > 0 else None
