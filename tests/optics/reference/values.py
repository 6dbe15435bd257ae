"""Values worked out outside the code under test. Never regenerate them from it.

Each comes from the core's contract, where it was found independently by tracing rays through
principal planes and pupil. They are given to as many figures as they were worked out to, so the
tolerance of a comparison is half a unit in the last figure.
"""

from __future__ import annotations

import math
from typing import NamedTuple


class Reference(NamedTuple):
    """A value as written, and so the tolerance that its last figure leaves."""

    text: str

    @property
    def value(self) -> float:
        """The number."""
        return float(self.text)

    @property
    def tolerance(self) -> float:
        """Half a unit in the last figure written."""
        decimals = len(self.text.partition(".")[2])
        return 0.0 if math.isinf(self.value) else 0.5000001 * 10.0**-decimals


# focal length, f-number, circle → hyperfocal distance, mm
HYPERFOCAL = (
    ((24, 11, 0.025), Reference("2142.8205")),
    ((28, 8, 0.020), Reference("4956.1600")),
    ((16, 2, 0.008), Reference("16032.016")),
    ((24, 16, 0.025), Reference("1488.400")),
)

# setup fields, focus → near limit, far limit, mm
LIMITS = (
    ((28, 8, 0.020), {}, 2000, Reference("1440.0622"), Reference("3296.1657")),
    ((24, 11, 0.025), {}, 2600, Reference("1185.3762"), Reference("inf")),
    ((24, 16, 0.025), {}, 2600, Reference("953.415"), Reference("inf")),
    (
        (90, 8, 0.020),
        {"pupil_ratio": 0.6, "hiatus": 8},
        450,
        Reference("448.32669"),
        Reference("451.68833"),
    ),
)

WORKING_F_NUMBER = ((90, 8, 0.020), {"pupil_ratio": 0.6, "hiatus": 8}, 450, Reference("13.305291"))

# setup fields, focus, subject → blur disc, mm
BLUR = (
    ((24, 11, 0.025), 2600, 1300, Reference("0.02091015")),
    ((24, 11, 0.025), 2600, math.inf, Reference("0.02052048")),
)

# 24 mm, f/11, circle 0.025, between 1300 and 180000. The contract gives the focus as 2557.8111;
# fifty-digit arithmetic on similar triangles in image space gives 2557.81101506, so that value
# was one unit too high in its last figure. Its blur, flat there, is the same to all its figures.
BETWEEN_FOCUS = Reference("2557.8110")
BETWEEN_BLUR = Reference("0.02057175")
WINDOW_NEAREST = Reference("2118.452")
WINDOW_FARTHEST = Reference("3250.712")
F_NUMBER_NEEDED = Reference("9.0516")

# With diffraction counted: from the integral over the pupil, outside this package.
HYPERFOCAL_WITH_DIFFRACTION = ((24, 16, 0.025), Reference("1584.946"))
NEAR_WITH_DIFFRACTION = ((24, 16, 0.025), 2600, Reference("990.996"))

# f-number, geometric disc → equivalent disc, mm
EQUIVALENT_DISC = (
    (8, 0.0, Reference("0.0077324")),
    (8, 0.015, Reference("0.0152313")),
    (16, 0.020, Reference("0.0223193")),
    (22, 0.020, Reference("0.026064")),  # given as 0.0260637; two other integrations: 0.02606363
)
# The sharpest aperture is flat: the blur is the thing to judge, the f-number is one of many.
SHARPEST_F_NUMBER = Reference("14.6")
SHARPEST_BLUR = Reference("0.018638")

# camera: height, tilt in degrees, slope, focal length, frame height and width; focused at infinity
CAMERA = (900, 15, 0, 24, 24, 36)
# row → horizontal, depth, mm: by cutting planes, outside this package
GROUND = (
    (0, Reference("1014.94"), Reference("1237.29")),
    (1 / 3, Reference("1978.32"), Reference("2167.84")),
    (0.4, Reference("2380.45"), Reference("2556.28")),
)
STRAIGHT_TO_THE_LOWER_EDGE = (1300, Reference("1167.52"))
ADULT_HALF_THE_FRAME = ((28, 36, 1700, 0.5), Reference("2700.74"))

# 16 mm, 13 s, declination 60°: picture point → chord, mm: by turning the sky, outside this package
DRIFT = (
    ((0, 0), Reference("0.00758380")),
    ((18, 12), Reference("0.02241701")),
    ((18, -12), Reference("0.02831535")),
)

INFINITY_WITH_A_MARGIN = ((16, 2, 0.008), 1.5, Reference("24032.0107"))

# By hand, with pencil and paper: circle = what the eye separates ÷ enlargement.
# 36 × 24 mm; 0.2 mm at 25 cm, or one arc minute (0.0727221 mm at 25 cm).
CIRCLE_FROM_PRINT = (
    # width, height of paper; viewing distance; keen eye; filled → circle
    (360, 240, 250, False, False, Reference("0.02")),  # enlarged ten times
    (300, 300, 250, False, True, Reference("0.016")),  # filled: 24 mm become 300, × 12.5
    (300, 300, 250, False, False, Reference("0.024")),  # fitted: 36 mm become 300, × 8.333
    (240, 360, 250, False, False, Reference("0.02")),  # the same, turned
    (360, 240, 250, True, False, Reference("0.0072722")),
    (360, 240, 500, False, False, Reference("0.04")),  # twice as far away
)

# The angle of a unit-focusing 50 mm lens that turns 90° from infinity to 1 m (thin lens, by hand):
# u + v = D, so u² − Du + Df = 0; extension v − f = f²/(u − f).
# 1 m: u = 947.2136, v − f = 2.786405 mm; 2 m: u = 1948.6833, 1.316702 mm, hence 42.5291°.
UNIT_RING = ((50, 90, 1000), 2000, Reference("42.5291"))
