"""Where infinity is found: on a star, on a lit thing, by day, by the scale; step by step."""

from __future__ import annotations

import math

from web.bag.models import Lens, RingKind
from web.planner.steps import Branch, Step
from web.sky.handling import Handling
from web.sky.kinds import Subject

WALK = 150_000.0
"""mm: nobody walks farther than that in the dark to leave a light."""


def on_a_star(made: Handling, where: str = "") -> tuple[Step, ...]:
    """A star found, magnified and made small. ``where`` in the picture, if that matters."""
    aperture = made.aperture()
    n = aperture.now[0] if aperture.now else made.picture[0]
    comet = made.answer.sky.subject is Subject.COMET
    on = "Point at a star near the comet." if comet else f"Point at a star{where}."
    return (
        aperture,
        Step(
            "Longest time, highest ISO.",
            "For finding focus only: the screen then shows more stars.",
            (n, "longest", "highest"),
        ),
        Step(
            on,
            "Many on the screen: one that is not the brightest, high up, out of the haze. A "
            "bright one is a blob whatever you do; a dim one is gone when you are out. Only "
            "one or two: the brightest of them.",
            key="star",
            branches=(_no_star(made),),
        ),
        Step(
            "Magnify it.",
            made.magnify,
            key="magnify",
            branches=(
                Branch(
                    "I see nothing but noise",
                    (
                        "Magnify less.",
                        "A jacket over your head and the screen.",
                        "Open the aperture to find it, then close it again.",
                    ),
                    "star",
                ),
            ),
        ),
        Step(
            "Turn past the point, then come back to the smallest square of light.",
            f"Where it is smallest, dimmer stars have come out beside it. {made.tested}".strip(),
            key="turn",
            branches=(
                Branch(
                    "It never becomes small",
                    (
                        "Look for dew or a smear on the front glass.",
                        "Hands off, and wait until the tripod is still.",
                        "Haze or thin cloud: a star higher up.",
                    ),
                    "star",
                ),
                Branch(
                    "The ring stops before that",
                    (
                        f"This lens ends short of infinity in this cold: the ring at its end, "
                        f"and a smaller aperture than {made.picture[0]}.",
                    ),
                ),
            ),
        ),
    )


def on_a_light(made: Handling) -> tuple[Step, ...]:
    """A light left so far away that it does for infinity."""
    film = made.answer.sky.film
    seen = "" if film else "magnify it, and "
    how = "In the finder, where it is smallest." if film else (
        f"{made.magnify} Autofocus can do that too, if it is bright enough: then to manual, "
        "and hands off."
    ).strip()  # fmt: skip
    return (
        _walk(made),
        Step(
            "Leave a small light there.",
            "Or light a trunk or a stone with a torch. Turn it away from roads and from "
            "others’ eyes.",
        ),
        made.aperture(),
        Step(f"Come back, {seen}focus on it.", how, key="turn"),
        Step("Take the light away again."),
    )


def by_day(made: Handling) -> tuple[Step, ...]:
    """The ring marked while there is light."""
    magnified = "in the finder" if made.answer.sky.film else "magnified"
    return (
        made.aperture(),
        Step(
            f"Focus on something far, {magnified}.",
            f"A ridge, a mast, anything beyond {made.where}. "
            f"{'' if made.answer.sky.film else made.magnify} Haze and heat make it swim: wait "
            "until it is still.".replace("  ", " "),
            key="turn",
        ),
        Step("Tape the ring down, and mark where it stands.", "A line over barrel and ring."),
        Step(
            "Check on a star all the same.",
            "What can go wrong: cold moves it, zooming moves it, autofocus left on moves it"
            f"{_forgets(made.lens)}.",
            branches=() if made.answer.sky.film else (_no_star(made),),
        ),
    )


def by_scale(made: Handling) -> tuple[Step, ...]:
    """On film, where nothing is magnified: by what stands on the ring."""
    return (
        made.aperture(),
        Step(
            f"Turn the ring to {made.where}, or past it.",
            f"By its scale. {made.tested or _MARK} A ground glass shows the moon or a bright "
            "planet: check there.",
            key="turn",
            branches=(
                Branch(
                    "No such figure stands on it",
                    (
                        "Between the two nearest marks, nearer to the farther one.",
                        f"By day, on something beyond {made.where}: a line over barrel and "
                        "ring, found again in the dark with a finger.",
                    ),
                ),
            ),
        ),
    )


_MARK = "An infinity mark is right for one lens at one warmth: what a test by day showed is better."


def _no_star(made: Handling) -> Branch:
    return Branch(
        "I see no star",
        (
            "Turn the ring slowly about its infinity mark: out of focus a star is too faint.",
            "The brightest that your eye finds, in the middle of the screen.",
            "A planet: it does not twinkle.",
            f"A lamp far off, at {made.where} or farther.",
            f"Else the ring on {made.where} by its scale, and the first frame looked at magnified.",
        ),
    )


def _walk(made: Handling) -> Step:
    here = made.answer.here
    if not math.isfinite(here.focus):
        only = "Only infinity itself will do: the moon."
        return Step("Find the farthest light there is.", only)
    if here.focus > WALK:
        return Step(
            f"Find a light at {made.where} or farther.",
            "A lamp across the valley, a mast, the edge of the moon. Nothing nearer will do.",
        )
    paces = math.ceil(here.focus / made.measures.pace)
    farther = "" if made.answer.for_ground else " or farther"
    return Step(
        f"Walk to {made.where}{farther}: {paces} of your paces.",
        "Mind the edges.",
        branches=(
            Branch(
                "I cannot walk so far",
                (
                    "A lamp, a window or a mast beyond it does as well.",
                    "By day: the ring marked, and taped.",
                ),
            ),
        ),
    )


def _forgets(lens: Lens | None) -> str:
    if lens is None:
        return ", some lenses forget it when the camera is switched off"
    if lens.ring_kind == RingKind.FORGETS:
        return ", and this lens forgets it when the camera is switched off"
    return ""
