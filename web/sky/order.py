"""Two frames, of the ground and of the stars, in the order in which they are taken.

The camera stands still for all of them, and only the ring moves. The ground comes first, in the
last light, unless somebody wants the stars first; then it is taken in the dark.
"""

from __future__ import annotations

from dataclasses import replace

from optics.base import settable, units
from optics.lens.conjugates import breathing
from web.planner.steps import Branch, Routine, Step
from web.sky import finding
from web.sky.exposed import Exposed
from web.sky.foreground import Foreground, Frame
from web.sky.handling import Handling, f_number, settings
from web.ui.templatetags.format import lasting, placed, stops, stops_cost

ORDERS = [
    ("", "as suits the night"),
    ("dusk", "before dark, then the stars"),
    ("dark", "after the stars, in the dark"),
]
"""When the ground is taken: as suits, that is before dark, but with a mount that follows after."""


def two_frames(made: Handling, found: Foreground) -> Routine:
    """The whole order of work."""
    sky = made.answer.sky
    film = sky.film
    found_stars = finding.by_scale(made) if film else finding.on_a_star(made, " in the picture")
    # On paper there is room for what differs from any other night.
    stars = tuple(replace(step, brief="", paper=step is found_stars[-1]) for step in found_stars)
    begin = (
        made.manual(),
        *(replace(step, brief="") for step in made.mount()),
        compose(made, found),
    )
    tape = replace(made.tape(""), brief="")
    if sky.ground_last:
        steps = (
            *begin,
            *stars,
            tape,
            made.take(),
            *(replace(step, brief="") for step in made.look()[:1]),
            Step(
                "Off with the tape; nothing else moves.",
                "The stars came first, while they stood where you want them; the ground waits, but "
                "takes longer than in the last light. Tripod, zoom and head stay as they are."
                + (" Stop the mount: the ground is to stand still." if sky.tracked else ""),
            ),
            *(_ground(made, found, one, in_the_dark=True) for one in found.ground),
            _at_home(made, found),
        )
    else:
        steps = (
            *begin,
            *(_ground(made, found, one, in_the_dark=False) for one in found.ground),
            Step(
                "Wait for the dark; touch nothing.",
                _why_first(made),
            ),
            Step(
                "Now the ring goes to infinity again.",
                f"To {made.where} or past it, not to where its mark says: by a star, as follows."
                if not film
                else f"To {made.where} or past it.",
            ),
            *stars,
            tape,
            made.take(),
            *(replace(step, brief="") for step in made.look()),
            _at_home(made, found),
        )
    return Routine(
        "two",
        "Two frames" if len(found.frames) == 2 else f"{len(found.frames)} frames",
        "ground and stars, each sharp, from one place",
        steps,
        made.picture,
    )


def compose(made: Handling, found: Foreground) -> Step:
    """The picture framed for all frames at once: how much wider, and why."""
    nearest = min(found.ground, key=lambda one: one.focus)
    near = settable.written(nearest.focus, made.answer.sky.system)
    larger = breathing(made.answer.sky.setup, nearest.focus, made.answer.here.focus) - 1.0
    share = units.significant(100.0 * larger, 1)
    more = "hardly larger" if share < 0.1 else f"about {share:g} % larger"
    return Step(
        "Compose, a little wider than the picture.",
        f"Focused at {near} the view is {more} than for the stars, if the lens moves as a whole; "
        "aligning the frames scales that away and trims the edges. Turn the ring from end to end "
        "once: what you see go past the edge is what to leave free. From here on nothing moves but "
        "the ring.",
        branches=(
            Branch(
                "I have to move after all",
                ("Then all frames again, from the first: two places never lie on each other.",),
            ),
        ),
        brief=f"At {near} the view is {more}. Then nothing moves but the ring.",
    )


def _ground(made: Handling, found: Foreground, one: Frame, *, in_the_dark: bool) -> Step:
    sky = made.answer.sky
    where = settable.written(one.focus, sky.system)
    n = f_number(one.f_number)
    which = "the ground" if len(found.ground) == 1 else f"ground {found.ground.index(one) + 1}"
    sharp = f"Sharp {placed(one.held, sky.system)}. " if one.held is not None else ""
    night = f"{n}, {in_words(one.set_to, one.seconds)}"
    darker = _beside_sky(made)
    moves = one.focus != made.answer.here.focus
    ring = f"ring to {where}" if moves else f"ring stays at {where}"
    if in_the_dark:
        return Step(
            f"Now {which}: {ring}, {n}.",
            f"{sharp}Unlit, it is {darker}: {in_words(one.set_to, one.seconds)}. The ring by its "
            "scale, or magnified on a stone in a torch’s light; the torch off for the frame.",
            settings(one.f_number, one.seconds, one.iso),
            branches=(_too_dark(one),) if one.set_to.too_dark or one.set_to.total > 600 else (),
            brief=f"{sharp}{in_words(one.set_to, one.seconds)}.",
        )
    return Step(
        f"In the last light, {which}: {ring}, {n}.",
        f"{sharp}Lowest ISO, two stops under what the meter says, while the shapes still show. Too "
        f"late for that? Unlit it is {darker}: {night}.",
        (n, "meter, −2", "lowest"),
        branches=(
            Branch(
                "It is dark already",
                (
                    f"The same frame takes {night} now.",
                    "Or the stars first, and the ground after them: say so in the plan.",
                ),
            ),
        ),
        brief=f"{sharp}Two stops under the meter; in the dark {in_words(one.set_to, one.seconds)}.",
    )


def in_words(set_to: Exposed, seconds: float) -> str:
    """What is set for ground in the dark: 2:08, ISO 6400, 3 frames laid together, 6 min in all."""
    _, time, iso = settings(1.0, seconds, set_to.iso)
    if set_to.too_dark:
        return f"{time}, ISO {iso}, and {stops_cost(set_to.stops)} short still"
    laid = f", {set_to.frames} frames laid together, {lasting(set_to.total)} in all"
    return f"{time}, ISO {iso}{'' if set_to.enough else laid}"


def _too_dark(one: Frame) -> Branch:
    return Branch(
        "I do not want to wait so long",
        (
            f"Half the frames, and a stop darker: {stops_cost(1.0)} brightened later is grain.",
            "A soft light on it for some seconds, from the side, never into anyone’s eyes, where "
            "that is allowed.",
            "Another night: the last of the twilight does it in seconds.",
        ),
    )


def _beside_sky(made: Handling) -> str:
    sky = made.answer.sky
    darker = sky.night.ground_darker(sky.underfoot)
    return "as bright as the sky" if abs(darker) < 0.05 else f"{stops(darker)} than the sky"


def _why_first(made: Handling) -> str:
    night = made.answer.sky.night
    darker = night.ground_darker(made.answer.sky.underfoot)
    first = "The ground first, because it is "
    first += f"{stops_cost(darker)} darker than the sky later" if darker > 0.05 else (
        "sharpest while you still see it"
    )  # fmt: skip
    moon = " The moon lights it, too: it can be taken later as well." if darker < 0 else ""
    return f"{first}.{moon} Wait until small stars show down to the horizon."


def _at_home(made: Handling, found: Foreground) -> Step:
    sky = made.answer.sky
    laid = made.answer.exposed
    several = "" if laid.enough or laid.too_dark else (
        f" First the {laid.frames} of the sky, aligned on the stars and averaged."
    )  # fmt: skip
    ground = "Align the others on the ground’s edges: that scales the larger view back too."
    if sky.tracked:
        ground = "The sky has turned meanwhile: set its horizon on the ground’s by hand."
    return Step(
        "At home: lay them together.",
        f"{several} {ground} Join them along the horizon, where both are sharp.".strip(),
    )
