"""Distances measured anew, each in its own way, from where the camera has gone to."""

from __future__ import annotations

import math
from dataclasses import replace

from optics.base import units
from optics.base.errors import OpticsError, SubjectTooNear
from optics.scene import frame, size, tape
from optics.scene.marks import SKY, Mark
from web.view.choices import How
from web.view.distances import BY_TAPE, Reader
from web.view.typed import Row


def renumbered(row: Row, reader: Reader) -> Row:
    """A row with its distance measured anew, in its own way, from where the camera now stands."""
    mark = row.mark
    if mark is None or not reader.moved or math.isinf(mark.depth):
        return row
    try:
        return _measured_anew(row, mark, reader)
    except OpticsError:  # not in that way from here: looking squarely down, say
        return replace(row, how=How.RING, distance=as_typed(mark.depth, reader.system))


def _measured_anew(row: Row, mark: Mark, reader: Reader) -> Row:
    depth, camera = mark.depth, reader.camera
    if row.how == How.SIZE:
        real = row.measured
        share = size.share_of_frame(reader.focal_length, reader.frame_height, real, depth)
        return replace(row, share=f"{units.significant(100 * float(share), 4):g} %")
    distance = depth
    if camera is not None and row.how == How.GROUND and mark.rise != SKY:
        level = frame.horizontal_of_depth(camera, depth, mark.rise)
        if level <= 0:
            raise SubjectTooNear("distance", level, "That is not ahead of the camera any more.")
        distance = level / math.cos(camera.slope)
    elif camera is not None and row.how in BY_TAPE:
        across, up = mark.at or (0.5, 0.5)
        if mark.rise != SKY:
            up = frame.row_of_depth(camera, depth, mark.rise)
        distance = tape.straight_of_depth(camera, depth, up, across)
    if row.how == How.FRONT:
        distance -= reader.ahead
        if distance <= 0:
            raise SubjectTooNear("distance", distance, "That is inside the lens now.")
    return replace(row, distance=as_typed(distance, reader.system))


def as_typed(distance: float, system: str) -> str:
    """A distance as somebody would type it, to four figures."""
    return "∞" if math.isinf(distance) else typed_out(units.write(distance, system, 4))


def typed_out(text: str) -> str:
    """A printed length as a hand types it."""
    return text.replace("′", "'").replace("″", '"')
