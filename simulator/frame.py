"""Taking a picture: a scene, a lens, a body, and all that happens between the shutter's two
ends."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from simulator.camera import Camera, Shake
from simulator.discs import blurred
from simulator.errors import SceneError
from simulator.exposing import exposed
from simulator.stars import Stars, lit
from simulator.things import Layer, Thing
from simulator.view import EVERY, View

Image = npt.NDArray[np.float32]
Pixels = npt.NDArray[np.uint8]

_MOST_PIXELS = 30_000_000
_LONGEST_STREAK = 400.0
"""Pixels that a thing is drawn out at most."""
_FINE_PIXELS = 1_500_000
"""Frames up to that are drawn with three samples to a pixel, larger ones with two."""


@dataclass(frozen=True, slots=True)
class Scene:
    """What stands before the camera.

    ``things``  in any order. ``stars`` at infinity, or None. ``light`` how much lighter (above 1)
    or darker it is than an exposure made for white paper. ``haze`` how much of a thing's light is
    lost in each kilometre, 0 to 1; as much comes from the haze itself. ``seed`` of all that is by
    chance.
    """

    things: tuple[Thing, ...] = ()
    stars: Stars | None = None
    light: float = 1.0
    haze: float = 0.0
    seed: int = 1


def take(scene: Scene, camera: Camera) -> Pixels:
    """A frame: rows × columns × 3, as a camera would write it. Raises SceneError."""
    body = camera.body
    count = body.width * body.height
    if count > _MOST_PIXELS:
        raise SceneError("body", "That is more than 30 megapixels: too many to be made up.")
    samples = 3 if count <= _FINE_PIXELS else 2
    luck = np.random.default_rng(scene.seed)
    view = View.of(camera.lens, body, camera.f_number, camera.ring, samples)
    light = np.full(view.shape, scene.stars.sky if scene.stars else 0.18, np.float32)
    for thing in sorted(scene.things, key=lambda one: -one.depth):
        layer = thing.layer(view, luck)
        light = _behind(light, layer, view, scene.haze, thing.depth, _streak(thing, view, camera))
    if scene.stars is not None:
        light += lit(scene.stars, view, luck)
    if camera.shake.pixels:
        shake = camera.shake
        light = _drawn_out(light, Shake(shake.pixels * samples, shake.direction))
    inner = light[view.extra : -view.extra, view.extra : -view.extra] * scene.light
    small = cv2.resize(inner, (body.width, body.height), interpolation=cv2.INTER_AREA)
    return exposed(np.asarray(small), body, camera.iso, luck)


def _streak(thing: Thing, view: View, camera: Camera) -> Shake:
    """How a thing that moves is drawn out, samples."""
    if not thing.speed or not math.isfinite(thing.depth):
        return Shake()
    scale = view.distance / view.depth(thing.depth)
    length = min(thing.speed * camera.time * scale, _LONGEST_STREAK * view.samples)
    return Shake(length, thing.heading)


def _behind(
    light: Image, layer: Layer, view: View, haze: float, depth: float, streak: Shake
) -> Image:
    """What is seen with a layer put before it."""
    discs = _discs(layer, view)
    seen = layer.light
    if haze and math.isfinite(depth):
        left = (1.0 - haze) ** (depth / 1e6)
        seen = seen * np.float32(left) + np.float32(0.5 * (1.0 - left))
    if layer.cover is None:
        return _drawn_out(blurred(seen, discs, EVERY), streak)
    if discs.ndim == 0:
        return _before(light, seen, layer.cover, float(discs), streak)
    both = blurred(np.stack((seen * layer.cover, layer.cover), axis=-1), discs, EVERY)
    both = _drawn_out(both, streak)
    return np.asarray(light * (1.0 - both[..., 1]) + both[..., 0])


def _before(light: Image, seen: Image, cover: Image, disc: float, streak: Shake) -> Image:
    """The same for what is spread alike all over: no more is looked at than it can reach."""
    rows, columns = np.flatnonzero(cover.any(axis=1)), np.flatnonzero(cover.any(axis=0))
    if not len(rows):
        return light
    reach = math.ceil(abs(disc) / 2 + streak.pixels / 2) + 8
    top, left = max(int(rows[0]) - reach, 0), max(int(columns[0]) - reach, 0)
    there = (slice(top, int(rows[-1]) + reach + 1), slice(left, int(columns[-1]) + reach + 1))
    both = np.stack((seen[there] * cover[there], cover[there]), axis=-1)
    both = _drawn_out(blurred(both, np.array(disc), EVERY), streak)
    light[there] = light[there] * (1.0 - both[..., 1]) + both[..., 0]
    return light


def _discs(layer: Layer, view: View) -> npt.NDArray[np.float64]:
    """The disc of a layer at every so many samples, or one for all of it."""
    faults = view.lens.faults
    if layer.inverse_depth.ndim == 0 and not faults.corner and not faults.decentring:
        return view.signed_disc(layer.inverse_depth, 0.0, 0.0)
    across, down = view.places()
    out = np.hypot(across[None, :], down[:, None]) / math.sqrt(2)
    signed = view.signed_disc(layer.inverse_depth, across[None, :], out)
    return np.broadcast_to(signed, out.shape)


def _drawn_out(light: Image, streak: Shake) -> Image:
    """Light drawn out along a line, by so many samples."""
    length = streak.pixels
    if length <= 0:
        return light
    reach = math.ceil(length / 2) + 2
    kernel = np.zeros((2 * reach + 1,) * 2, np.float32)
    steps = max(400, math.ceil(2 * length))
    for along in (np.arange(steps) + 0.5) / steps * length - length / 2:
        x = reach + along * math.cos(streak.direction)
        y = reach + along * math.sin(streak.direction)
        column, row = math.floor(x), math.floor(y)
        fx, fy = x - column, y - row
        kernel[row : row + 2, column : column + 2] += np.outer((1 - fy, fy), (1 - fx, fx))
    return np.asarray(cv2.filter2D(light, cv2.CV_32F, kernel / kernel.sum()))
