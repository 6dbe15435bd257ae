"""What is called sharp: circles of confusion, where they come from, and what they are good for.

A circle of confusion is a wish, not a property of a lens. It follows from how a picture is looked
at: a blur that is smaller on the print, or on the screen, than the eye can tell from a point is no
blur. Everything here is that sentence, forwards and backwards:

    circle on the sensor = what the eye separates at the viewing distance ÷ enlargement.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from optics.base.errors import OutOfRange, require_finite, require_order, require_positive
from optics.base.formats import Format
from optics.lens.aperture import FULL, Series, exact
from optics.lens.depth import blur_disc
from optics.lens.setup import Setup

CLASSIC_VIEWING_DISTANCE = 250.0
"""mm: the reading distance of printed tables. Source: [eye]."""


@dataclass(frozen=True, slots=True)
class Eye:
    """How fine an eye looks. ``separates``: radians, the least angle it tells from a point."""

    name: str
    separates: float

    def on_paper(self, viewing_distance: float) -> float:
        """The widest blur on paper, mm, that passes for a point at a viewing distance, mm."""
        require_positive("viewing_distance", viewing_distance, "viewing distance")
        return self.separates * viewing_distance


CLASSIC_EYE = Eye("classic, 0.2 mm at 25 cm", 0.2 / CLASSIC_VIEWING_DISTANCE)
"""The eye of printed depth-of-field tables. Source: [eye]."""
KEEN_EYE = Eye("keen, one arc minute", math.radians(1.0 / 60.0))
"""Full visual acuity, 6/6: strokes one arc minute apart. Source: [acuity]."""

FILLED, FITTED = "filled", "fitted"
"""How a picture goes onto paper of another shape: cropped to fill it, or whole within it."""


@dataclass(frozen=True, slots=True)
class Print:
    """Paper and how it is looked at. ``width``, ``height``, ``viewing_distance``: mm, above 0.

    ``way``: FILLED or FITTED. Raises NotANumber, OutOfRange.
    """

    width: float
    height: float
    viewing_distance: float = CLASSIC_VIEWING_DISTANCE
    eye: Eye = CLASSIC_EYE
    way: str = FITTED

    def __post_init__(self) -> None:
        require_positive("width", self.width, "width of the print")
        require_positive("height", self.height, "height of the print")
        require_positive("viewing_distance", self.viewing_distance, "viewing distance")
        if self.way not in (FILLED, FITTED):
            raise OutOfRange("way", self.way, "A print is filled or fitted.")

    def enlargement(self, frame: Format) -> float:
        """How many times larger than on the sensor things are on paper.

        Paper and picture are laid long side to long side.
        """
        long, short = max(self.width, self.height), min(self.width, self.height)
        along = long / max(frame.width, frame.height)
        across = short / min(frame.width, frame.height)
        return max(along, across) if self.way == FILLED else min(along, across)


def from_print(paper: Print, frame: Format) -> float:
    """The circle of confusion, mm, that a print asks for."""
    return paper.eye.on_paper(paper.viewing_distance) / paper.enlargement(frame)


def from_diagonal(frame: Format, parts: float) -> float:
    """The circle that is one of so many ``parts`` of the frame's diagonal, mm.

    1500 is the usual convention, 1730 a stricter one; both are only conventions ([fraction]).
    """
    require_positive("parts", parts, "number of parts")
    return frame.diagonal / parts


def from_screen(frame: Format, pixels_across: float) -> float:
    """The circle that is one pixel of a screen with the whole picture across it, mm.

    ``pixels_across``: what the picture's width covers on the screen, above 0.
    """
    require_positive("pixels_across", pixels_across, "number of pixels")
    return frame.width / pixels_across


def from_pixels(frame: Format, pixels_across: float, pixels: float = 1.0) -> float:
    """The circle that is so many of the sensor's own ``pixels``, mm: for stars, for cropping."""
    require_positive("pixels", pixels, "number of pixels")
    return from_screen(frame, pixels_across) * pixels


def widest_print(
    circle: float,
    frame: Format,
    viewing_distance: float = CLASSIC_VIEWING_DISTANCE,
    eye: Eye = CLASSIC_EYE,
) -> float:
    """The width of print, mm, up to which a blur stays unseen; inf for no blur, and past a km.

    ``circle``: diameter on the sensor, mm, 0 or more. The whole frame is printed, uncropped. The
    inverse of ``from_print``.
    """
    require_positive("circle", circle, "blur", zero=True)
    width = frame.width * eye.on_paper(viewing_distance) / circle if circle > 0 else math.inf
    return width if width < _ANY_SIZE else math.inf


_ANY_SIZE = 1e6
"""mm: nobody prints a kilometre wide."""


def tighten(coc: float, stops: float) -> float:
    """A circle so many stops stricter: coc ÷ √2 to the power of ``stops`` (negative: looser).

    Three stops are a circle 2.83 times smaller: depth of field as if opened by three stops.
    """
    require_positive("coc", coc, "circle of confusion")
    require_finite("stops", stops, "number of stops")
    return float(coc * 2.0 ** (-0.5 * stops))


def stops_tighter(coc: float, other: float) -> float:
    """How many stops stricter ``other`` is than ``coc``; negative if looser."""
    require_positive("coc", coc, "circle of confusion")
    require_positive("other", other, "circle of confusion")
    return 2.0 * math.log2(coc / other)


def engraved_mark(f_number: float, engraved: float, wanted: float, marks: Series = FULL) -> float:
    """Which depth-of-field mark of a lens to read for another circle than it was engraved for.

    At f/11, a circle three stops stricter than the engraving wants the marks of f/4. Between two
    marks the wider aperture's is taken: its narrower span is the safe one. Exact stops are used
    for the names, so f/11 and three stops give f/4 and not f/3.9. Where even the widest engraved
    mark promises too much, that f-number is returned unrounded.

    ``engraved``, ``wanted``: circles, mm. ``marks``: the series engraved. Raises OutOfRange.
    """
    wanted_number = float(exact(f_number) * 2.0 ** (-0.5 * stops_tighter(engraved, wanted)))
    for name in reversed(marks.names):
        if exact(name) <= wanted_number * (1 + 1e-9):
            return float(name)
    return wanted_number


@dataclass(frozen=True, slots=True)
class CirclesRead:
    """The circle that a near limit speaks of and the one that a far limit does, mm."""

    near: float
    far: float | None

    @property
    def circle(self) -> float:
        """Their mean; of the near limit alone where the far one was infinity."""
        return self.near if self.far is None else 0.5 * (self.near + self.far)


def circles_from_limits(
    focal_length: float, f_number: float, focus: float, near: float, far: float
) -> CirclesRead:
    """What one reading of a camera's depth-of-field bar, or of an engraved scale, was made for.

    ``near`` ≤ ``focus`` ≤ ``far``: mm from the sensor. A far limit of infinity only says *at
    least*, so it is left out. Two circles far apart mean a bar that is coarsely drawn, or
    distances that do not start at the sensor. Raises NotANumber, WrongOrder, FocusTooNear,
    SubjectTooNear, OutOfRange.
    """
    require_order(near, focus)
    require_order(focus, far)
    setup = Setup(focal_length, f_number, 1.0)
    ends = np.array((near, far))
    at_near, at_far = (float(blur) for blur in np.asarray(blur_disc(setup, ends, focus)))
    return CirclesRead(at_near, None if math.isinf(far) else at_far)


def from_limits(
    focal_length: float, f_number: float, focus: float, near: float, far: float
) -> float:
    """The circle that a camera's bar or an engraved scale was made for, mm, from one reading.

    As ``circles_from_limits``.
    """
    return circles_from_limits(focal_length, f_number, focus, near, far).circle
