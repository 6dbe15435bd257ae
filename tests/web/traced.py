"""Blur by traced rays, and the best of something by drawing a net closer and closer."""

from __future__ import annotations

from collections.abc import Callable

from tests.optics import rays


def circles(f: float, n: float, coc: float, focus: float, subject: float) -> float:
    """Blur in circles, by traced rays."""
    sensor = rays.sensor_behind_rear_plane(f, 0.0, focus)
    return rays.blur(f, n, 1.0, 0.0, sensor, subject) / coc


def lowest(function: Callable[[float], float], low: float, high: float) -> float:
    """Where a function with one valley is least: a net drawn closer and closer, in 1/distance."""
    a, b = 1 / high, 1 / low
    for _ in range(12):
        net = [a + (b - a) * k / 40 for k in range(41)]
        at = min(range(41), key=lambda k: function(1 / net[k]))
        a, b = net[max(at - 1, 0)], net[min(at + 1, 40)]
    return 2 / (a + b)
