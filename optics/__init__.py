"""The optics of Aim Still: what a ring setting holds sharp, and which setting to choose.

Conventions, stated once and held everywhere (docs/conventions.md has the reasons):

* Lengths are millimetres, angles radians, times seconds; infinity is ``math.inf``.
* A *distance* is an axial depth from the sensor plane, as a focus ring is engraved.
* ``focus`` is the distance the ring is set to, ``subject`` the distance of what is looked at.
* Blur is the diameter of a disc on the sensor.
* Functions broadcast over NumPy arrays, in their arguments and in the fields of ``Setup``;
  plain numbers in give plain floats out. Searches (windows, f-numbers, zones, steps, exposures,
  whole scenes) take plain numbers, and say so.
* Bad input raises an :class:`OpticsError` that carries the offending value. "Nothing holds" is a
  result, not an error.

Not modelled: field curvature and other aberrations, fisheyes, tilted lenses, lenses whose
focal length changes close up, refraction. Never show more than three figures.

A lens
    ``Setup``                 a lens at an aperture, with a standard of sharpness
    ``Numbers``               what the fields of a ``Setup`` may hold: plain numbers, or arrays
    ``Kit``                   a lens with all its apertures: the setup at any of them
    ``Ring``                  a focus ring known by marks on it: distance ↔ angle
Depth of field
    ``blur_disc``             diameter of the geometric blur disc of a point
    ``total_blur``            defocus, diffraction and lens together, as an equivalent disc
    ``working_f_number``      the f-number that diffraction and exposure see
    ``hyperfocal``            the nearest ring setting at which infinity holds
    ``limits``                near and far limit of sharpness, a ``Limits``
    ``focus_window``          the ring settings that hold two ends, a ``Window``; None if none does
    ``focus_with_near_limit``, ``focus_with_far_limit``  the setting with that limit
    ``size_at_subject``       how much of the subject a blur covers
    ``sharp_distance``        what is sharpest where a lens shifts focus
    ``disc``, ``combine``     the equivalent disc of diffraction; of defocus and diffraction
Placing focus, and the aperture
    ``between``               equal blur at both ends
    ``infinity``              infinity with a margin
    ``widest_holding``        the smallest f-number that holds both ends
    ``sharpest``              the f-number with the least worst total blur
The camera over the ground
    ``Camera``, ``GroundPoint``  how it stands; a point of the ground
    ``ground``, ``row_of_ground``  between rows of the picture and the ground
    ``depth_along_ground``    the depth of a point so far away over the ground
    ``depth_of_straight``     the depth of what a tape reaches
    ``distance_from_size``    how far away something of known size is
Zones
    ``Zone``, ``zone_set``    positions that tile a band
    ``f_number_needed``       the smallest f-number that tiles it
    ``share``                 the share of subjects to expect sharp
Stars
    ``drift``                 how far a star goes on the sensor
    ``longest_exposure``      how long until the worst star has gone too far
    ``declination_of``        what the lens points at
Standards of sharpness
    ``Print``, ``Eye``        how a picture is looked at
    ``from_print``, ``from_screen``, ``from_pixels``, ``from_diagonal``  circles of confusion
    ``from_limits``           the circle that a camera's bar or an engraved scale was made for
    ``tighten``               a circle so many stops stricter
    ``widest_print``          the print up to which a blur stays unseen
A whole scene
    ``Mark``, ``Wish``, ``Scene``  what must be sharp, and all that an answer depends on
    ``answer``                the answer to it, an ``Answer``
"""

from optics.base.errors import OpticsError
from optics.base.numbers import Numbers
from optics.lens.aperture import sharpest, widest_holding
from optics.lens.depth import (
    Limits,
    Window,
    blur_disc,
    focus_window,
    focus_with_far_limit,
    focus_with_near_limit,
    hyperfocal,
    limits,
    sharp_distance,
    size_at_subject,
    total_blur,
    working_f_number,
)
from optics.lens.diffraction import combine, disc
from optics.lens.equal_blur import between
from optics.lens.kit import Kit
from optics.lens.ring import Ring
from optics.lens.setup import Setup
from optics.lens.standards import (
    Eye,
    Print,
    from_diagonal,
    from_limits,
    from_pixels,
    from_print,
    from_screen,
    tighten,
    widest_print,
)
from optics.scene.answer import Answer, answer
from optics.scene.camera import Camera
from optics.scene.focus_distances import infinity
from optics.scene.frame import GroundPoint, depth_along_ground, ground, row_of_ground
from optics.scene.marks import Mark, Wish
from optics.scene.scenes import Scene
from optics.scene.size import distance_from_size
from optics.scene.tape import depth_of_straight
from optics.sky.star_drift import declination_of, drift, longest_exposure
from optics.zones.hit_rate import share
from optics.zones.tiling import Zone, f_number_needed, zone_set

__version__ = "0.2.0"

__all__ = [
    "Answer",
    "Camera",
    "Eye",
    "GroundPoint",
    "Kit",
    "Limits",
    "Mark",
    "Numbers",
    "OpticsError",
    "Print",
    "Ring",
    "Scene",
    "Setup",
    "Window",
    "Wish",
    "Zone",
    "answer",
    "between",
    "blur_disc",
    "combine",
    "declination_of",
    "depth_along_ground",
    "depth_of_straight",
    "disc",
    "distance_from_size",
    "drift",
    "f_number_needed",
    "focus_window",
    "focus_with_far_limit",
    "focus_with_near_limit",
    "from_diagonal",
    "from_limits",
    "from_pixels",
    "from_print",
    "from_screen",
    "ground",
    "hyperfocal",
    "infinity",
    "limits",
    "longest_exposure",
    "row_of_ground",
    "share",
    "sharp_distance",
    "sharpest",
    "size_at_subject",
    "tighten",
    "total_blur",
    "widest_holding",
    "widest_print",
    "working_f_number",
    "zone_set",
]
