"""The single steps round a picture of the stars, in the body's own words: before infinity is found
and after. ``finding`` has those between, ``routines`` and ``order`` put them in order. Each says
what to do when it goes wrong.
"""

from __future__ import annotations

from dataclasses import dataclass

from optics.base import settable, units
from optics.base.units import Measures
from web.bag.counted import infinity_of
from web.bag.models import Body, Closing, Lens, RingKind, Start
from web.planner.steps import Branch, Step
from web.sky.usecases import Answer
from web.ui.templatetags.format import figures2, number, shutter, stops_cost

_A_LITTLE = 0.05
"""Stops: what is not spoken of."""
_LOOK_EVERY = 900.0
"""s: a quarter of an hour between looks."""


def f_number(value: float) -> str:
    """An aperture as it is said: f/2.8."""
    return f"f/{units.significant(value, 3):g}"


def settings(value: float, seconds: float, iso: float) -> tuple[str, str, str]:
    """An aperture, a time and an ISO as a step shows them."""
    return f_number(value), shutter(seconds), f"{iso:.0f}"


@dataclass(frozen=True, slots=True)
class Handling:
    """Makes the steps for a night: with a body, if one is known, and somebody's own paces."""

    answer: Answer
    body: Body | None
    measures: Measures

    @property
    def lens(self) -> Lens | None:
        """The lens of the bag that is in hand."""
        return self.answer.sky.in_use.lens

    @property
    def where(self) -> str:
        """Where the ring goes, as it is read."""
        return settable.written(self.answer.here.focus, self.answer.sky.system)

    @property
    def tested(self) -> str:
        """Where tests of the lens in hand found infinity on its ring, in a sentence; empty for
        nowhere."""
        lens, in_use = self.lens, self.answer.sky.in_use
        if lens is None or not lens.findings:
            return ""
        length = float(self.answer.sky.setup.focal_length)
        found = infinity_of(lens.found, lens.ring, length, in_use.behind, in_use.factor)
        if found.past_mark is not None:
            way = "past" if found.past_mark > 0 else "short of"
            return f"By your test infinity is {figures2(abs(found.past_mark))}° {way} its mark."
        if found.before_stop is not None:
            return f"By your test infinity is {figures2(abs(found.before_stop))}° before its stop."
        return ""

    @property
    def picture(self) -> tuple[str, str, str]:
        """The settings of the picture of the stars."""
        answer = self.answer
        return settings(answer.sky.setup.f_number, answer.seconds, answer.iso)

    @property
    def magnify(self) -> str:
        """How the body magnifies what it sees."""
        return _sentence(self.body.magnify) if self.body is not None else ""

    @property
    def _release(self) -> str:
        return (
            "the delay, or a cable"
            if not self.body or not self.body.release
            else (self.body.release)
        )

    @property
    def _edge(self) -> str:
        return "in a corner" if self.answer.sky.straight else "near the rim"

    def manual(self) -> Step:
        """The camera made ready."""
        if self.body is not None and self.body.starts_focus == Start.NOTHING:
            do, know = "On a tripod, the finder set for your eye.", "This lens has no other way."
        else:
            do, know = "Put the lens on manual.", "On a tripod, the stabiliser off."
        if self.lens is not None and self.lens.ring_kind == RingKind.FORGETS:
            know += (
                " This lens forgets its focus when the camera is switched off or sleeps: switch "
                "sleep off first, and leave it on until the end."
            )
        return Step(do, know)

    def mount(self) -> tuple[Step, ...]:
        """A mount that follows, set on the pole; nothing on a tripod."""
        if not self.answer.sky.tracked:
            return ()
        return (
            Step(
                "Set the mount on the pole, and start it.",
                "Level first; its axis as high as your latitude, towards the celestial pole. By "
                "its finder half a degree is usual. Wait half a minute until the gears have taken "
                "up.",
                branches=(
                    Branch(
                        "I cannot see the pole",
                        (
                            "A compass, with the local deviation, and your latitude on the scale "
                            "of the mount.",
                            "That is two degrees or three: say so in the plan, and the time falls.",
                        ),
                    ),
                ),
            ),
        )

    def aperture(self) -> Step:
        """At which aperture to focus, and why: what is known of the lens decides."""
        sky, lens = self.answer.sky, self.lens
        n, widest = f_number(sky.setup.f_number), f_number(sky.apertures[0])
        if sky.setup.f_number <= sky.apertures[0] * 1.02:
            text = "It is the widest, and the one you take the picture at."
            return Step(f"Stay at {n}.", text, (n, "", ""))
        closing = Closing.UNKNOWN if lens is None else lens.closes
        if closing == Closing.KEEPS:
            return Step(
                f"Open to {widest} to focus.",
                "This lens keeps its focus as it closes, and more light shows more stars. The "
                f"picture is taken at {n}.",
                (widest, "", ""),
            )
        why = (
            "This lens shifts its focus as it closes"
            if closing == Closing.SHIFTS
            else "Nobody has said whether this lens shifts its focus as it closes"
        )
        return Step(
            f"Focus at {n}, as you take the picture.",
            f"{why}. Only if you see nothing that way, open to {widest}, and look at the first "
            "frame twice.",
            (n, "", ""),
        )

    def tape(self, then: str = " Then compose.") -> Step:
        """The ring fastened."""
        strips = "Two short strips across ring and barrel, opposite each other."
        zoom = "" if self.lens is not None and not self.lens.is_zoom else (
            " Do not touch the zoom ring either."
        )  # fmt: skip
        return Step(
            f"Tape the ring down.{then}",
            strips + zoom,
            branches=(
                Branch(
                    "It moved while I taped it",
                    ("Off with the tape, and once more: one finger on the ring while you tape.",),
                    "turn",
                ),
            ),
        )

    def take(self) -> Step:
        """The picture of the stars."""
        n, seconds, iso = self.picture
        sky = self.answer.sky
        if sky.film:
            return Step(
                f"Now the picture: {n}, {seconds} by the clock.",
                f"Film of ISO {iso}, made longer by its exponent of {number(sky.reciprocity)}. On "
                f"B or T, with a cable: {self._release}. Then once with half that time, and once "
                "with double.",
                self.picture,
            )
        know = f"Release: {self._release}."
        if sky.night.moon_stops >= _A_LITTLE:
            know += (
                f" The moon makes the sky {stops_cost(sky.night.moon_stops)} brighter: so much of "
                "the Milky Way goes under. It does more when the moon has set."
            )
        if sky.aurora is not None:
            know += " When it quickens, halve the time and double the ISO; when it fades, back."
        return Step(
            f"Now the picture: {n}, {seconds}, ISO {iso}{_frames(self.answer)}.",
            know,
            self.picture,
            branches=(
                Branch(
                    "It comes out too dark, or too bright",
                    (
                        "The hump of the histogram belongs about a third of the way from the left.",
                        "ISO up or down, a stop at a time; the time stays, for the stars’ sake.",
                    ),
                ),
            ),
        )

    def look(self) -> tuple[Step, ...]:
        """The first frame looked at, and when to do all that again."""
        if self.answer.sky.film:
            return (
                Step(
                    "Write it down.",
                    "Frame, aperture, time, sky and warmth: the next roll knows it then.",
                ),
            )
        return (
            Step(
                "Look at the first frame.",
                f"Magnified, in the middle and {self._edge}. Wind shows as the same hook on every "
                "star: shelter the tripod, hang weight low, wait for a lull.",
                branches=(
                    Branch(
                        "Stars are soft",
                        (
                            "Round discs, in the middle too: that is focus. The ring a hair "
                            "nearer, a frame; a hair farther, a frame: the smaller stars show "
                            "which way. Then once more.",
                            "Short lines, all one way: they drift. A shorter time.",
                            "Only in the corners: the lens. A stop smaller, or leave it.",
                            "A halo round each: dew on the glass, or haze.",
                        ),
                        "turn",
                    ),
                ),
            ),
            Step(
                "Do it again when the lens was knocked or has grown colder.",
                f"And every {_every(self.answer.seconds)}. Look for dew on the front glass each "
                "time; a warm band keeps it off.",
            ),
        )


def _frames(answer: Answer) -> str:
    """How many frames are laid together, if one does not do."""
    if answer.exposed.enough or answer.exposed.too_dark:
        return ""
    return f", {answer.exposed.frames} frames to lay together"


def _sentence(text: str) -> str:
    return f"{text[0].upper()}{text[1:]}." if text else ""


def _every(seconds: float) -> str:
    """How many frames go by between looks: 20 frames, a quarter of an hour."""
    frames = _LOOK_EVERY / (seconds + 1.0)
    if frames < 2:
        return "frame"
    if frames > 200:
        return "quarter of an hour"
    return f"{units.significant(frames, 1):g} frames, a quarter of an hour"
