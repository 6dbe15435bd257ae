"""Scenes for tests: a kit of which one setup is known, and the sample scene."""

from __future__ import annotations

import math
from typing import Any

from optics import Camera, Kit, Mark, Scene, Setup, Wish
from optics.base.formats import BY_KEY
from optics.lens.aperture import THIRDS
from optics.lens.kit import Fault
from optics.scene.marks import Look

FULL_FRAME = BY_KEY["full-frame"]
LOOK = Look(FULL_FRAME, 6000)
SAMPLE = Setup(24, 11, 0.025)


def scene_of(
    setup: Setup,
    marks: tuple[Mark, ...] = (),
    apertures: tuple[float, ...] = THIRDS.names,
    **more: Any,
) -> Scene:
    """A scene of a lens that gets the same wrong at every aperture."""
    fault = Fault(setup.f_number, setup.lens_disc, setup.focus_shift)
    kit = Kit(
        setup.focal_length,
        setup.coc,
        setup.pupil_ratio,
        setup.hiatus,
        setup.diffraction,
        apertures,
        closest=more.pop("closest", 0.0),
        faults=(fault,) if fault.lens_disc or fault.focus_shift else (),
    )
    return Scene(kit, setup.f_number, marks, more.pop("look", LOOK), **more)


SALLOW_PIT = scene_of(
    SAMPLE,
    (
        Mark(1300, 65, name="Slate slab"),
        Mark(4200, 210, name="Winch wheel"),
        Mark(180000, 9000, name="Tip ridge"),
        Mark(800, 40, Wish.FREE, name="Reed tuft"),
    ),
    camera=Camera(900, math.radians(15), 0, 24, 24, 36),
)
