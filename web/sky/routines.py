"""Ways to get the ring to infinity, one step at a time: on a star, on a lit thing, by day; on film
by the scale; and with a foreground, both frames in their order."""

from __future__ import annotations

from optics.base.units import Measures
from web.bag.models import Body
from web.planner.steps import Routine
from web.sky import finding
from web.sky.foreground import Foreground, foreground
from web.sky.handling import Handling
from web.sky.order import two_frames
from web.sky.usecases import Answer


def routines(answer: Answer, body: Body | None, measures: Measures) -> tuple[Routine, ...]:
    """All of them; with a foreground that takes its own frame, the order of both first."""
    made = Handling(answer, body, measures)
    ways = _ways(made)
    found = with_foreground(answer)
    if found is None or not found.ground:
        return ways
    return (two_frames(made, found), *ways)


def with_foreground(answer: Answer) -> Foreground | None:
    """How to have the foreground too, where one is wanted."""
    near = answer.sky.foreground
    return None if near is None else foreground(answer, near)


def _ways(made: Handling) -> tuple[Routine, ...]:
    film = made.answer.sky.film
    start = (made.manual(), *made.mount())
    end = (made.tape(), made.take(), *made.look())
    first = (
        Routine(
            "scale",
            "By the scale",
            "film, where nothing is magnified",
            (*start, *finding.by_scale(made), *end),
            made.picture,
        )
        if film
        else Routine(
            "star",
            "On a star",
            "clear sky, and a screen that shows stars",
            (*start, *finding.on_a_star(made), *end),
            made.picture,
        )
    )
    return (
        first,
        Routine(
            "light",
            "On a lit thing",
            "a finder that shows a light" if film else "cloud, or a lens too dim to show a star",
            (*start, *finding.on_a_light(made), *end),
            made.picture,
        ),
        Routine(
            "day",
            "By day",
            "what can be prepared in the light",
            (*start, *finding.by_day(made), *end[1:]),
            made.picture,
        ),
    )
