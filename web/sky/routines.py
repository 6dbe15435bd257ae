"""Ways to get the ring to infinity, one step at a time, in the body's own words."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics import units
from optics.units import Measures
from web.bag.models import Body, Closing, Lens, RingKind, Start
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
    lens = sky.in_use.lens
    same = float(sky.setup.f_number) <= sky.apertures[0] * 1.02
    end = (
        f"Now the picture: {n}, {time}, {iso}. Release: {release}.",
        "Tape the ring down." + _zoom(lens),
        "Look at the first frame, magnified, in the middle and in a corner. Wind shows as the same "
        "hook on every star: shelter the tripod, hang weight low, wait for a lull.",
        f"Do it again when the lens was knocked, when it has grown colder, and every "
        f"{_every(answer.seconds)}. Look for dew on the front glass each time; a warm band keeps "
        "it off.",
    )
    return (
        Routine(
            "star",
            "On a star",
            "clear sky, and a screen that shows stars",
            (
                off,
                _aperture_for_focus(lens, n, widest, same=same),
                "For finding focus only: the longest time and the highest ISO that the screen "
                "shows, so that more stars come out.",
                "Choose a star high up, out of the haze, and not the brightest: a bright one is a "
                "blob whatever you do, a dim one is gone when you are out.",
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
                f"Come back, magnify it ({magnify}), and focus on it. Autofocus can do that too, "
                "if it is bright enough: then to manual, and hands off.",
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
                "Tape the ring down, and mark where it stands: a line over barrel and ring.",
                "What can go wrong: cold moves it, zooming moves it, autofocus left on moves it"
                + _forgets(lens)
                + ". Check on a star all the same.",
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


def _aperture_for_focus(lens: Lens | None, n: str, widest: str, *, same: bool) -> str:
    """At which aperture to focus, and why: what is known of the lens decides."""
    if same:
        return f"Stay at {n}: it is the widest, and the one you take the picture at."
    closing = Closing.UNKNOWN if lens is None else lens.as_it_closes
    if closing == Closing.KEEPS:
        return (
            f"Open to {widest} to focus: this lens keeps its focus as it closes, and more light "
            f"shows more stars. The picture is taken at {n}."
        )
    why = (
        "this lens shifts its focus as it closes"
        if closing == Closing.SHIFTS
        else "nobody has said whether this lens shifts its focus as it closes"
    )
    return (
        f"Focus at {n}, as you take the picture: {why}. Only if you see nothing that way, open to "
        f"{widest}, and look at the first frame twice."
    )


def _zoom(lens: Lens | None) -> str:
    return "" if lens is not None and not lens.is_zoom else " Do not touch the zoom ring either."


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
