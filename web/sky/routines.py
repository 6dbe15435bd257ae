"""Ways to get the ring to infinity, one step at a time, in the body's own words."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics import units
from optics.units import Measures
from web.bag.bodies import Body, Start
from web.sky.usecases import Answer


@dataclass(frozen=True, slots=True)
class Routine:
    """A way to get there: its name, when it is for, and its steps in order."""

    key: str
    name: str
    when: str
    steps: tuple[str, ...]


def routines(answer: Answer, body: Body | None, measures: Measures) -> tuple[Routine, ...]:
    """On a star, on a lit thing, and by day."""
    magnify = "the magnified view" if body is None or not body.magnify else body.magnify
    release = "the delay, or a cable" if body is None or not body.release else body.release
    sky, here = answer.sky, answer.here
    n = f"f/{units.significant(float(sky.setup.f_number), 3):g}"
    widest = f"f/{units.significant(sky.apertures[0], 3):g}"
    time, iso = _time(answer.seconds), f"ISO {answer.iso:g}"
    where = units.write(here.focus, sky.system, here.figures)
    far = (
        f"{where} or farther: {math.ceil(here.focus / measures.pace)} of your paces"
        if math.isfinite(here.focus)
        else "as far as you can see to the end of"
    )
    off = _off(body)
    same = float(sky.setup.f_number) <= sky.apertures[0] * 1.02
    open_up = (
        f"Stay at {n}: it is the widest, and the one you take the picture at."
        if same
        else f"Focus at {n}, as you take the picture, if this lens goes soft when it is closed: it "
        f"shifts focus. If it does not, or you see nothing, open to {widest}."
    )
    end = (
        f"Now the picture: {n}, {time}, {iso}. Release: {release}.",
        "Tape the ring down. Do not touch the zoom ring either.",
        "Look at the first frame, magnified, in the middle and in a corner.",
        "Again when the lens was knocked, when it has grown colder, and every twenty frames; look "
        "for dew each time.",
    )
    return (
        Routine(
            "star",
            "On a star",
            "clear sky, and a screen that shows stars",
            (
                off,
                open_up,
                "For finding focus only: a long time and a high ISO, so that the screen shows "
                "more.",
                "Point at a star that is not the brightest: a bright one is a blob whatever you "
                "do, a dim one is gone when you are out.",
                f"Magnify it ({magnify}).",
                "Turn the ring through the point where it is smallest, past it, and back. Stop "
                "where it is the smallest square of light, and dimmer stars have come out.",
                *end,
            ),
        ),
        Routine(
            "light",
            "On a lit thing",
            "cloud, or a lens too dim to show a star",
            (
                off,
                f"Pace out {far}. Mind the edges.",
                "Leave a small light there, or light a trunk or a stone with a torch. Turn it away "
                "from roads and from others’ eyes.",
                f"Come back, magnify it ({magnify}), and focus on it.",
                "Take the light away again.",
                *end,
            ),
        ),
        Routine(
            "day",
            "By day",
            "what can be prepared in the light",
            (
                off,
                f"Focus on something far: a ridge, a mast, anything beyond {where}.",
                f"Magnify it ({magnify}). Haze and heat make it swim: wait for it to be still.",
                "Tape the ring down, and mark where it stands.",
                "What can go wrong: the cold moves it, a zoom moves it, and some lenses forget it "
                "when the camera is switched off. Check on a star all the same.",
                *end,
            ),
        ),
    )


def _off(body: Body | None) -> str:
    if body is None:
        return "Focus off the shutter button, or the lens on manual."
    if body.starts_focus == Start.NOTHING:
        return "The lens on manual; the finder set for your eye."
    return "The lens on manual. Stabiliser off, on a tripod."


def _time(seconds: float) -> str:
    return f"{units.significant(seconds, 2):g} s" if seconds >= 0.35 else f"1/{1 / seconds:.0f} s"
