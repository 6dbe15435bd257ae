"""The scenes of drills, before the made-up camera."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from drills.distance import EYE
from drills.tasks import Facts
from optics.scene.camera import Camera as Stand
from simulator.body import Body
from simulator.cutouts import Cutout, Shape, bollard, crate, person
from simulator.frame import Scene
from simulator.surfaces import floor, wall
from simulator.things import Board, Edge


def focus_of(said: Facts) -> float:
    """Where a picture of all of it is focused, mm."""
    return float(said.get("depth") or said.get("near") or 5000.0)


# A street ------------------------------------------------------------------------------------


def street(said: Facts) -> Scene:
    """A pavement between two walls, with somebody or something on it."""
    luck = np.random.default_rng(int(said["seed"]))
    depth = float(said["depth"])
    half = 0.5 * float(said["width"]) / float(said["focal"])
    aside = float(said["aside"]) * half * depth
    side = max(half * 4200.0, 2400.0)
    reach = max(5.0 * depth, 45_000.0)
    things: list[Any] = [
        Edge(9e8, dark=0.6, light=0.6),
        floor(EYE, 0.0, grain=float(luck.uniform(60, 160)), slab=float(luck.uniform(380, 900)),
              dark=0.2, light=0.42, even=depth),
        wall(-side, EYE, 7000.0, grain=700, slab=float(luck.uniform(900, 1600)), dark=0.1,
             light=0.24, even=depth),
        wall(side, EYE, 8500.0, grain=700, slab=float(luck.uniform(900, 1600)), dark=0.16,
             light=0.34, even=depth),
        Board(reach, width=2 * side, height=16_000, grain=900, darkest=0.3, lightest=0.42,
              y=8000 - EYE),
        *_posts(side, reach, luck),
    ]  # fmt: skip
    things.append(_thing(said, luck, aside))
    return Scene(tuple(things), seed=int(said["seed"]))


def open_field(said: Facts) -> Scene:
    """Open ground to a ridge, with a few stones, and somebody or something on it."""
    luck = np.random.default_rng(int(said["seed"]))
    depth = float(said["depth"])
    half = 0.5 * float(said["width"]) / float(said["focal"])
    level = Stand(EYE, 0.0, 0.0, float(said["focal"]), float(said["height"]), float(said["width"]))
    things: list[Any] = [
        Edge(9e8, dark=0.6, light=0.6),
        floor(EYE, 0.0, grain=float(luck.uniform(150, 420)), dark=0.12, light=0.36, even=depth),
        _ridge(level, half, luck),
    ]
    for _ in range(7):
        away = float(np.exp(luck.uniform(np.log(2500.0), np.log(40_000.0))))
        size = float(luck.uniform(60, 420))
        x = float(luck.uniform(-0.8, 0.8)) * half * away
        things.append(Cutout(away, _block(size * 2, size, 0.14, luck), x=x, y=-EYE))
    things.append(_thing(said, luck, float(said["aside"]) * half * depth))
    return Scene(tuple(things), seed=int(said["seed"]))


def _thing(said: Facts, luck: np.random.Generator, aside: float) -> Cutout:
    """What is judged, at its depth on the ground, ``aside`` mm to the right."""
    shapes = {
        "person": person(tall=float(luck.normal(1700, 55)), coat=float(luck.uniform(0.03, 0.1)),
                         seed=int(said["seed"])),
        "bollard": bollard(),
        "crate": crate(float(luck.uniform(350, 800)), float(luck.uniform(250, 700))),
    }[str(said["thing"])]  # fmt: skip
    return Cutout(float(said["depth"]), shapes, x=aside, y=-EYE)


def _posts(side: float, reach: float, luck: np.random.Generator) -> list[Cutout]:
    """Posts along the walls, of no size that is known: they tell of depth and do not measure it."""
    found = []
    for sign in (-1, 1):
        z = float(luck.uniform(2500, 4500))
        while z < reach * 0.8:
            wide = float(luck.uniform(60, 150))
            tall = float(luck.uniform(2300, 3600))
            shape = Shape(float(luck.uniform(0.03, 0.07)),
                          ((-wide, 0), (wide, 0), (wide, tall), (-wide, tall)))  # fmt: skip
            found.append(Cutout(z, (shape,), x=sign * (side - 250), y=-EYE))
            z *= float(luck.uniform(1.35, 1.9))
    return found


# Open ground ---------------------------------------------------------------------------------


def ground(said: Facts) -> Scene:
    """Ground with a slab near by, and a ridge, or a wall, behind."""
    luck = np.random.default_rng(int(said["seed"]))
    up, tilt = float(said["up"]), float(said["tilt"])
    camera = Stand(up, tilt, 0.0, float(said["focal"]), float(said["height"]), float(said["width"]))
    near, far = float(said["near"]), float(said["far"])
    half = 0.5 * float(said["width"]) / float(said["focal"])
    things: list[Any] = [
        Edge(9e8, dark=0.58, light=0.58),
        floor(up, tilt, grain=float(luck.uniform(90, 220)), dark=0.12, light=0.4, even=near),
    ]
    if far:
        things.append(_stands(camera, far, _block(far * half * 0.9, far * 0.22, 0.16, luck)))
    else:
        things.append(_ridge(camera, half, luck))
    for share in (1.9, 3.2, 5.5):  # stones between: they tell how the ground goes away
        depth = near * share
        if not far or depth < far * 0.9:
            size = near * 0.05 * float(luck.uniform(0.8, 1.6))
            x = float(luck.uniform(-0.7, 0.7)) * half * depth
            things.append(_stands(camera, depth, _block(size * 2, size, 0.12, luck), x))
    slab = _block(near * half * 0.5, near * 0.07, 0.5, luck)
    things.append(_stands(camera, near, slab, float(said["aside"]) * half * near))
    return Scene(tuple(things), seed=int(said["seed"]))


def _stands(camera: Stand, depth: float, shapes: tuple[Shape, ...], x: float = 0.0) -> Cutout:
    """Something on the ground at a depth, mm."""
    axial = depth - camera.image_distance
    down = (camera.height - axial * math.sin(camera.tilt)) / math.cos(camera.tilt)
    return Cutout(depth, shapes, x=x, y=-down)


def _block(wide: float, tall: float, light: float, luck: np.random.Generator) -> tuple[Shape, ...]:
    """A slab, a stone or a wall: its face, its upper edge in the light, cracks."""
    half = wide / 2
    face = Shape(light, ((-half, 0), (half, 0), (half * 0.96, tall), (-half * 0.96, tall)))
    edge = Shape(
        min(light * 1.6, 0.8),
        ((-half * 0.96, tall * 0.86), (half * 0.96, tall * 0.86), (half * 0.9, tall),
         (-half * 0.9, tall)),
    )  # fmt: skip
    cracks = []
    for _ in range(7):
        x = float(luck.uniform(-0.85, 0.85)) * half
        low, high = sorted(luck.uniform(0.05, 0.85, 2))
        thin = wide * 0.006
        cracks.append(
            Shape(light * 0.4, ((x - thin, low * tall), (x + thin, low * tall),
                                (x + 2 * thin, high * tall), (x, high * tall)))
        )  # fmt: skip
    return (face, *cracks, edge)


def _ridge(camera: Stand, half: float, luck: np.random.Generator) -> Cutout:
    """A ridge far away, along the horizon."""
    depth = 400_000.0
    wide = depth * half
    places = np.linspace(-1.3 * wide, 1.3 * wide, 14)
    heights = luck.uniform(0.02, 0.07, 14) * depth
    shapes = [
        Shape(0.2, ((x0, 0.0), (x1, 0.0), (x1, h1), (x0, h0)))
        for x0, x1, h0, h1 in zip(places, places[1:], heights, heights[1:], strict=False)
    ]
    level = -(depth * math.sin(camera.tilt)) / math.cos(camera.tilt)
    return Cutout(depth, tuple(shapes), y=-level)


# A far ridge, magnified ------------------------------------------------------------------------


def far(said: Facts, body: Body) -> Scene:
    """A relay hut and its mast on a ridge, farther than any ring tells."""
    luck = np.random.default_rng(int(said["seed"]))
    depth = 2e7
    mm = depth / float(said["focal"]) * body.pitch  # of the scene to a pixel of the view
    level = 0.08 if not said["haze"] else 0.08 + 0.32 * float(said["haze"])
    sky = 0.62
    base = -float(luck.uniform(6, 12))

    def box(x: float, low: float, wide: float, tall: float, light: float) -> Shape:
        return Shape(light, tuple((mm * a, mm * b) for a, b in (
            (x - wide / 2, low), (x + wide / 2, low), (x + wide / 2, low + tall),
            (x - wide / 2, low + tall))))  # fmt: skip

    at = float(luck.uniform(-14, 14))
    slope = float(luck.uniform(-0.12, 0.12))
    ridge = Shape(level, tuple((mm * a, mm * b) for a, b in (
        (-60, base - 60 * slope), (60, base + 60 * slope), (60, -60), (-60, -60))))  # fmt: skip
    foot = base + slope * at
    # fmt: off
    shapes = [ridge, box(at, foot - 2, 13, 9, level * 0.8), box(at - 3, foot + 1.5, 2.6, 3, 0.5),
              box(at + 3, foot + 1.5, 2.6, 3, 0.5), box(at + 11, foot - 2, 1.4, 22, level)]
    shapes += [box(at + 11, foot + 6 + 4 * k, 6 - k, 1.0, level) for k in range(4)]
    # fmt: on
    return Scene(
        (Edge(depth * 1.5, dark=sky, light=sky), Cutout(depth, tuple(shapes))),
        seed=int(said["seed"]),
    )
