"""The blur of a point by brute force: two marginal rays, traced plane by plane.

Written without the formulas of the core, so that it can judge them. The lens is two principal
planes; a ray keeps its height from the front one to the rear one and leaves towards the image
point that the lens equation gives, which is found here from the focal points (Newton's form).
"""

from __future__ import annotations

import math
from functools import lru_cache


@lru_cache(1024)
def sensor_behind_rear_plane(focal_length: float, hiatus: float, focus: float) -> float:
    """Where the sensor stands for a ring at ``focus``, by bisection on the total distance."""
    if math.isinf(focus):
        return focal_length
    low, high = focal_length, 2 * focal_length  # at 2f the object is nearest
    for _ in range(200):
        middle = (low + high) / 2
        if middle in (low, high):
            break  # no number between them
        beyond = middle - focal_length
        total = (
            math.inf if beyond == 0 else (focal_length + focal_length**2 / beyond) + hiatus + middle
        )
        low, high = (middle, high) if total > focus else (low, middle)
    return (low + high) / 2


def blur(
    focal_length: float,
    f_number: float,
    pupil_ratio: float,
    hiatus: float,
    sensor: float,
    subject: float,
) -> float:
    """The width on the sensor of the pencil from an axial point ``subject`` mm from the sensor.

    The entrance pupil, f/N wide, stands f(1 − 1/p) in front of the front principal plane.
    """
    pupil_radius = focal_length / f_number / 2
    pupil_ahead = focal_length * (1 - 1 / pupil_ratio)
    to_front_plane = subject - hiatus - sensor
    heights = []
    for edge in (pupil_radius, -pupil_radius):
        if math.isinf(subject):
            height, image = edge, focal_length
        else:
            slope = edge / (to_front_plane - pupil_ahead)
            height = slope * to_front_plane
            image = focal_length + focal_length**2 / (to_front_plane - focal_length)
        heights.append(height * (1 - sensor / image))
    return abs(heights[0] - heights[1])
