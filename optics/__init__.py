"""The optics of Aim Still: what a ring setting holds sharp, and which setting to choose.

Conventions, stated once and held everywhere (docs/conventions.md has the reasons):

* Lengths are millimetres, angles radians, times seconds; infinity is ``math.inf``.
* A *distance* is an axial depth from the sensor plane, as a focus ring is engraved.
* ``focus`` is the distance the ring is set to, ``subject`` the distance of what is looked at.
* Blur is the diameter of a disc on the sensor.
* Functions broadcast over NumPy arrays, in their arguments and in the fields of ``Setup``;
  plain numbers in give plain floats out. Searches (windows, f-numbers, zones, steps, exposures,
  whole scenes) take plain numbers, and say so.
* Bad input raises an :class:`~optics.errors.OpticsError` that carries the offending value.
  "Nothing holds" is a result, not an error.

Not modelled: field curvature and other aberrations, fisheyes, tilted lenses, lenses whose
focal length changes close up, refraction. Never show more than three figures.
"""

from optics import (
    aim,
    aperture,
    depth,
    diffraction,
    exposure,
    formats,
    frame,
    framing,
    keepers,
    marks,
    motion,
    moving,
    picking,
    placement,
    positions,
    ring,
    roam,
    schools,
    settable,
    standards,
    stars,
    units,
    wave,
    window,
    zones,
)
from optics.errors import OpticsError
from optics.setup import Setup

__all__ = [
    "OpticsError",
    "Setup",
    "aim",
    "aperture",
    "depth",
    "diffraction",
    "exposure",
    "formats",
    "frame",
    "framing",
    "keepers",
    "marks",
    "motion",
    "moving",
    "picking",
    "placement",
    "positions",
    "ring",
    "roam",
    "schools",
    "settable",
    "sky_parts",
    "standards",
    "starfield",
    "stars",
    "units",
    "wave",
    "window",
    "zones",
]
