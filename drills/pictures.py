"""The pictures of drills, as the made-up camera takes them: each from a few numbers.

The same numbers always give the same picture. A stack is many pictures of one scene, one for each
setting of a ring, in one file: side by side in rows of ``ACROSS``, without noise, which whoever
shows it adds.
"""

from __future__ import annotations

import io
import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt
from PIL import Image as Pictures

from drills import crops, scenes
from drills.tasks import Facts
from optics.lens.kit import Fault
from simulator.body import Body
from simulator.camera import Camera
from simulator.frame import Scene, take
from simulator.lens import Faults, Lens
from simulator.stars import Stars

Pixels = npt.NDArray[np.uint8]
ACROSS = 8
STACK = (72, 54)
"""Pixels of one picture of a stack, across and down."""
WIDE = 600
"""Pixels of a picture, across; the one that is looked at closely has fewer."""
CLOSE = (420, 280)
_SHARP = 16.0
"""The aperture of pictures in which all is to be seen."""
_DEEP = 1e12
"""Electrons: a sensor that holds so many shows no noise."""


@dataclass(frozen=True, slots=True)
class File:
    """A picture as a file."""

    kind: str
    body: bytes


def drawn(said: Facts) -> File:
    """The picture of some numbers. Raises KeyError or ValueError for what is none."""
    return _KINDS[str(said["of"])](said)


def _jpeg(pixels: Pixels, quality: int = 86) -> File:
    held = io.BytesIO()
    Pictures.fromarray(pixels).convert("L").save(held, "JPEG", quality=quality)
    return File("image/jpeg", held.getvalue())


def _png(pixels: Pixels) -> File:
    held = io.BytesIO()
    Pictures.fromarray(pixels[..., 1]).save(held, "PNG", optimize=True)
    return File("image/png", held.getvalue())


def high(said: Facts) -> int:
    """Pixels of a picture of a frame, down."""
    return round(WIDE * float(said["height"]) / float(said["width"]))


def _wide(said: Facts, scene: Scene) -> File:
    """All that a lens sees, focused where it matters least."""
    body = Body(WIDE, high(said), float(said["width"]))
    lens = Lens(said["focal"])
    focus = max(float(scenes.focus_of(said)), 5.0 * lens.focal_length)
    ring = lens.stands_for(focus)
    return _jpeg(take(scene, Camera(lens, body, _SHARP, ring, iso=100.0)))


def _street(said: Facts) -> File:
    return _wide(said, scenes.street(said))


def _field(said: Facts) -> File:
    return _wide(said, scenes.open_field(said))


def _ground(said: Facts) -> File:
    return _wide(said, scenes.ground(said))


def _blurred(said: Facts) -> File:
    """A crop at full size; sharp where ``amount`` is 0."""
    crop = crops.crop(said)
    body = Body(*CLOSE, CLOSE[0] * crops.PIXEL)
    camera = Camera(
        Lens(crops.FOCAL, widest=2.0, smallest=64.0), body, crop.f_number, 0.0, crop.iso,
        crop.time, crop.shake,
    )  # fmt: skip
    ring = camera.lens.stands_for(crop.focus)
    return _jpeg(take(crop.scene, replace(camera, ring=ring)), 90)


def stack_of(said: Facts) -> list[Pixels]:
    """The pictures of a stack, the nearest setting first: rows × columns × 3 each."""
    focal, pixel = float(said["focal"]), float(said["pixel"])
    fault = Fault(float(said["f"]), float(said.get("own", 0.0)), float(said.get("shift", 0.0)))
    lens = Lens(focal, widest=float(said["f"]), faults=Faults(by_aperture=(fault,)))
    body = Body(*STACK, STACK[0] * pixel, full_well=_DEEP, read_noise=0.0)
    if said["of"] == "stars":
        # The light of a star in its sharpest picture fills a pixel, and no more.
        luck = np.random.default_rng(int(said["seed"]))
        at = [(luck.uniform(-0.2, 0.2), luck.uniform(-0.2, 0.2)), (-0.78, luck.uniform(-0.6, 0.6)),
              (0.78, luck.uniform(-0.6, 0.6))]  # fmt: skip
        stars = Stars(brightest=0.8 * float(said["bright"]), sky=0.004, at=tuple(at))
        scene = Scene(stars=stars, seed=int(said["seed"]))
    else:
        scene = scenes.far(said, body)
    found = []
    for place in range(int(said["count"])):
        out = float(said["first"]) - place * float(said["step"])
        if said["of"] == "far":
            out = place * float(said["step"])
        found.append(take(scene, Camera(lens, body, lens.widest, out / focal)))
    return found


def _stack(said: Facts) -> File:
    """Them all in one file."""
    each = stack_of(said)
    width, height = STACK
    down = math.ceil(len(each) / ACROSS)
    whole = np.zeros((down * height, ACROSS * width, 3), np.uint8)
    for at, one in enumerate(each):
        row, column = divmod(at, ACROSS)
        whole[row * height : (row + 1) * height, column * width : (column + 1) * width] = one
    return _png(whole)


_KINDS: dict[str, Callable[[Facts], File]] = {
    "street": _street,
    "field": _field,
    "ground": _ground,
    "blurred": _blurred,
    "stars": _stack,
    "far": _stack,
}
