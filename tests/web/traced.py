"""Blur by traced rays, and the best of something by drawing a net closer and closer."""

from __future__ import annotations

from collections.abc import Callable

from tests.optics import rays

_MESHES, _ROUNDS = 16, 9
"""Of a net, and how often it is drawn closer: to a hundred-millionth of where it began."""


def circles(f: float, n: float, coc: float, focus: float, subject: float) -> float:
    """Blur in circles, by traced rays."""
    sensor = rays.sensor_behind_rear_plane(f, 0.0, focus)
    return rays.blur(f, n, 1.0, 0.0, sensor, subject) / coc


def lowest(function: Callable[[float], float], low: float, high: float) -> float:
    """Where a function with one valley is least: a net drawn closer and closer, in 1/distance."""
    a, b = 1 / high, 1 / low
    for _ in range(_ROUNDS):
        net = [a + (b - a) * k / _MESHES for k in range(_MESHES + 1)]
        at = min(range(_MESHES + 1), key=lambda k: function(1 / net[k]))
        a, b = net[max(at - 1, 0)], net[min(at + 1, _MESHES)]
    return 2 / (a + b)
