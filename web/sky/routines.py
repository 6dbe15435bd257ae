"""Ways to get the ring to infinity, one step at a time, in the body's own words."""

from __future__ import annotations

import math

from optics.base import settable, units
from optics.base.units import Measures
from web.bag.models import Body, Closing, Lens, RingKind, Start
from web.planner.steps import Routine, Step
from web.sky.usecases import Answer
from web.ui.templatetags.format import shutter


def _frames(answer: Answer) -> str:
    """How many frames are laid together, if one does not do."""
    if answer.exposed.enough or answer.exposed.too_dark:
        return ""
    return f", {answer.exposed.frames} frames to lay together"


def routines(answer: Answer, body: Body | None, measures: Measures) -> tuple[Routine, ...]:
    """On a star, on a lit thing, and by day."""
    sky, here = answer.sky, answer.here
    lens = sky.in_use.lens
    picture = (_f(sky.setup.f_number), shutter(answer.seconds), f"{answer.iso:.0f}")
    magnify = _sentence(body.magnify) if body is not None else ""
    where = settable.written(here.focus, sky.system)
    aperture = _aperture(answer, lens)
    to_find = (aperture.now[0] if aperture.now else picture[0], "longest", "highest")
    end = (
        Step("Tape the ring down. Then compose.", _zoom(lens)),
        Step(
            f"Now the picture: {picture[0]}, {picture[1]}, ISO {picture[2]}{_frames(answer)}.",
            f"Release: {_release(body)}.",
            picture,
        ),
        Step(
            "Look at the first frame.",
            "Magnified, in the middle and in a corner. Wind shows as the same hook on every star: "
            "shelter the tripod, hang weight low, wait for a lull.",
        ),
        Step(
            "Do it again when the lens was knocked or has grown colder.",
            f"And every {_every(answer.seconds)}. Look for dew on the front glass each time; a "
            "warm band keeps it off.",
        ),
    )
    on_a_star = (
        _manual(body),
        aperture,
        Step(
            "Longest time, highest ISO.",
            "For finding focus only: the screen then shows more stars.",
            to_find,
        ),
        Step(
            "Point at a star that is not the brightest.",
            "High up, out of the haze. A bright one is a blob whatever you do; a dim one is gone "
            "when you are out.",
        ),
        Step("Magnify it.", magnify),
        Step(
            "Turn past the point, then come back to the smallest square of light.",
            "Where it is smallest, dimmer stars have come out beside it.",
        ),
        *end,
    )
    on_a_light = (
        _manual(body),
        _walk(answer, measures),
        Step(
            "Leave a small light there.",
            "Or light a trunk or a stone with a torch. Turn it away from roads and from others’ "
            "eyes.",
        ),
        aperture,
        Step(
            "Come back, magnify it, and focus on it.",
            f"{magnify} Autofocus can do that too, if it is bright enough: then to manual, and "
            "hands off.".strip(),
        ),
        Step("Take the light away again."),
        *end,
    )
    by_day = (
        _manual(body),
        aperture,
        Step(
            "Focus on something far, magnified.",
            f"A ridge, a mast, anything beyond {where}. {magnify} Haze and heat make it swim: wait "
            "until it is still.",
        ),
        Step("Tape the ring down, and mark where it stands.", "A line over barrel and ring."),
        Step(
            "Check on a star all the same.",
            "What can go wrong: cold moves it, zooming moves it, autofocus left on moves it"
            f"{_forgets(lens)}.",
        ),
        *(step for step in end if step.do != "Tape the ring down."),
    )
    return (
        Routine(
            "star", "On a star", "clear sky, and a screen that shows stars", on_a_star, picture
        ),
        Routine(
            "light",
            "On a lit thing",
            "cloud, or a lens too dim to show a star",
            on_a_light,
            picture,
        ),
        Routine("day", "By day", "what can be prepared in the light", by_day, picture),
    )


WALK = 150_000.0
"""mm: nobody walks farther than that in the dark to leave a light."""


def _f(f_number: float) -> str:
    return f"f/{units.significant(f_number, 3):g}"


def _sentence(text: str) -> str:
    return f"{text[0].upper()}{text[1:]}." if text else ""


def _release(body: Body | None) -> str:
    return "the delay, or a cable" if body is None or not body.release else body.release


def _manual(body: Body | None) -> Step:
    if body is not None and body.starts_focus == Start.NOTHING:
        return Step("On a tripod, the finder set for your eye.", "This lens has no other way.")
    return Step("Put the lens on manual.", "On a tripod, the stabiliser off.")


def _walk(answer: Answer, measures: Measures) -> Step:
    here = answer.here
    if not math.isfinite(here.focus):
        return Step("Find the farthest light there is.", "Only infinity itself will do: the moon.")
    where = settable.written(here.focus, answer.sky.system)
    if here.focus > WALK:
        return Step(
            f"Find a light at {where} or farther.",
            "A lamp across the valley, a mast, the edge of the moon. Nothing nearer will do.",
        )
    paces = math.ceil(here.focus / measures.pace)
    return Step(f"Walk to {where} or farther: {paces} of your paces.", "Mind the edges.")


def _aperture(answer: Answer, lens: Lens | None) -> Step:
    """At which aperture to focus, and why: what is known of the lens decides."""
    sky = answer.sky
    n, widest = _f(sky.setup.f_number), _f(sky.apertures[0])
    if sky.setup.f_number <= sky.apertures[0] * 1.02:
        text = "It is the widest, and the one you take the picture at."
        return Step(f"Stay at {n}.", text, (n, "", ""))
    closing = Closing.UNKNOWN if lens is None else lens.as_it_closes
    if closing == Closing.KEEPS:
        return Step(
            f"Open to {widest} to focus.",
            "This lens keeps its focus as it closes, and more light shows more stars. The picture "
            f"is taken at {n}.",
            (widest, "", ""),
        )
    why = (
        "This lens shifts its focus as it closes"
        if closing == Closing.SHIFTS
        else "Nobody has said whether this lens shifts its focus as it closes"
    )
    return Step(
        f"Focus at {n}, as you take the picture.",
        f"{why}. Only if you see nothing that way, open to {widest}, and look at the first frame "
        "twice.",
        (n, "", ""),
    )


def _zoom(lens: Lens | None) -> str:
    return "" if lens is not None and not lens.is_zoom else "Do not touch the zoom ring either."


def _forgets(lens: Lens | None) -> str:
    if lens is None:
        return ", some lenses forget it when the camera is switched off"
    if lens.ring_kind == RingKind.FORGETS:
        return ", and this lens forgets it when the camera is switched off"
    return ""


_LOOK_EVERY = 900.0
"""s: a quarter of an hour between looks."""


def _every(seconds: float) -> str:
    """How many frames go by between looks: 20 frames, a quarter of an hour."""
    frames = _LOOK_EVERY / (seconds + 1.0)
    if frames < 2:
        return "frame"
    if frames > 200:
        return "quarter of an hour"
    return f"{units.significant(frames, 1):g} frames, a quarter of an hour"
