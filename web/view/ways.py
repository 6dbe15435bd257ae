"""All schools of placing focus on one scene, side by side."""

from __future__ import annotations

from dataclasses import dataclass

from optics.scene.comparing import compare
from optics.scene.scenes import Scene
from optics.scene.schools import School


@dataclass(frozen=True, slots=True)
class Way:
    """One school on this scene, for the table of all of them: what choosing it gives.

    ``settings``: mm, nearest first, as they are set; ``judged``: those that the rest is said of;
    ``lost``: letters of what must be
    sharp and is not; ``must``: how many marks must be.
    """

    school: School
    chosen: bool
    settings: tuple[float, ...]
    judged: tuple[float, ...]
    lost: tuple[str, ...]
    just: tuple[str, ...]
    must: int
    worst: float
    stops: float | None
    why_not: str


def ways(scene: Scene) -> tuple[Way, ...]:
    """Every school, with what it holds and costs here."""
    letters = [mark.letter for mark in scene.marks]
    found = []
    for placed in compare(scene):
        cost = placed.cost
        found.append(
            Way(
                school=placed.school,
                chosen=placed.school.key == scene.school and scene.ring is None,
                settings=placed.settings,
                judged=placed.judged,
                lost=tuple(letters[at] for at in cost.lost) if cost else (),
                just=tuple(letters[at] for at in cost.just) if cost else (),
                must=len(scene.must),
                worst=cost.worst if cost else 0.0,
                stops=cost.stops if cost else None,
                why_not=placed.why_not,
            )
        )
    return tuple(found)
