"""All ways of placing focus on one scene, side by side."""

from __future__ import annotations

from dataclasses import dataclass

from optics.scene import schools
from web.view.models import Place
from web.view.scenes import Scene, core_scene


@dataclass(frozen=True, slots=True)
class Way:
    """One way of placing focus on this scene, for the table of all of them.

    ``settings``: mm, nearest first, written coarse; ``lost``: letters of what must be sharp and is
    not; ``held``: how many marks that must be sharp are.
    """

    school: str
    can_be_chosen: bool
    chosen: bool
    settings: tuple[float, ...]
    lost: tuple[str, ...]
    just: tuple[str, ...]
    must: int
    worst: float
    stops: float | None
    why_not: str


def ways(scene: Scene) -> tuple[Way, ...]:
    """Every way of placing focus, with what it holds and costs here."""
    letters = [mark.letter for mark in scene.marks]
    found = []
    core = core_scene(scene)
    for placed in schools.compare(core):
        if placed.focus is not None and placed.focus < scene.closest and len(placed.settings) == 1:
            placed = schools.at_setting(core, scene.closest, placed.school)
        cost = placed.cost
        found.append(
            Way(
                school=placed.school.value,
                can_be_chosen=placed.school.value in Place.values,
                chosen=placed.school.value == scene.place and scene.ring is None,
                settings=placed.settings,
                lost=tuple(letters[at] for at in cost.lost) if cost else (),
                just=tuple(letters[at] for at in cost.just) if cost else (),
                must=sum(mark.must for mark in scene.marks),
                worst=cost.worst if cost else 0.0,
                stops=cost.stops if cost else None,
                why_not=placed.why_not,
            )
        )
    return tuple(found)
