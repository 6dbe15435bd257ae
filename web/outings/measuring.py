"""Measuring from a snapshot: clicks to distances, and to a scene to be planned."""

from __future__ import annotations

import math
import string
from dataclasses import dataclass
from urllib.parse import urlencode

from optics.base import settable, units
from optics.base.errors import OpticsError
from optics.scene import scouting
from optics.scene.camera import Camera
from optics.scene.scouting import Scouted, Spot, Unsure
from web.outings.snapshot_forms import Thing

_CLICK = 2.0
"""Pixels of a screen that a click is off by, one time to the next."""
_OF_HEIGHT, _LEAST_OFF = 0.05, 20.0
"""How far off the height of a lens is said, as a share, and in mm at the least."""
_HOPELESS = 0.5
"""A distance that is off by more than that share of it is none."""
_ANY_HEIGHT = 1500.0
_LEAST_ERROR = 0.01


@dataclass(frozen=True, slots=True)
class Snapshot:
    """A snapshot: focal length and the long side of its sensor, mm; its size in pixels, and how
    many of those are one of the screen; the height of its lens, mm, None if nobody said; two places
    on its horizon, or one for a level one."""

    focal_length: float
    sensor: float
    size: tuple[int, int]
    shown: float
    height: float | None
    horizon: tuple[Spot, ...]

    @property
    def frame(self) -> tuple[float, float]:
        """Width and height of its picture, mm."""
        width, height = self.size
        pitch = self.sensor / max(width, height)
        return width * pitch, height * pitch


@dataclass(frozen=True, slots=True)
class Measured:
    """A thing measured.

    ``letter``, ``name``  of the mark that it can be.
    ``depth``   settable, mm from the sensor; inf where it stands at the horizon or past it.
    ``error``   standard, as a share of it; ``along`` the ground, mm, nan where that is not known.
    ``tall``    how tall it is, mm, and ``tall_error``; nan where that is not known.
    ``by_height``  whether it was told by its own height.
    ``wrong``   why nothing is told, with the cure; empty where something is.
    """

    letter: str
    name: str
    foot: Spot | None
    top: Spot | None
    depth: float = math.nan
    error: float = math.nan
    along: float = math.nan
    tall: float = math.nan
    tall_error: float = math.nan
    by_height: bool = False
    wrong: str = ""

    @property
    def told(self) -> bool:
        """Whether there is a distance."""
        return self.depth == self.depth

    @property
    def far(self) -> bool:
        """Whether it is as good as infinitely far."""
        return math.isinf(self.depth)


@dataclass(frozen=True, slots=True)
class Scouting:
    """All that a snapshot tells. ``tilt``, ``roll``: radians, how far down it looks and how far its
    right side hangs; ``horizon`` as a row of the levelled picture; ``link`` of a plan with all that
    was measured, empty for nothing."""

    tilt: float
    roll: float
    horizon: float
    things: tuple[Measured, ...]
    link: str

    @property
    def down(self) -> bool:
        """Whether it looks down."""
        return self.tilt >= 0


def measured(
    snapshot: Snapshot, things: list[Thing], system: str, height_text: str
) -> Scouting | str:
    """What clicks tell; or why they tell nothing, with the cure."""
    if not snapshot.horizon:
        return "Click the horizon first: once to the left and once to the right."
    width, height = snapshot.frame
    roll = 0.0
    if len(snapshot.horizon) > 1:
        try:
            roll = scouting.roll_of(snapshot.horizon[0], snapshot.horizon[1], width, height)
        except OpticsError as error:
            return error.sentence
    level = [scouting.levelled(spot, roll, width, height) for spot in snapshot.horizon]
    horizon = sum(spot.row for spot in level) / len(level)
    camera = Camera(snapshot.height or _ANY_HEIGHT, 0.0, 0.0, snapshot.focal_length, height, width)
    click = _CLICK * snapshot.shown / snapshot.size[1]
    off = max(_OF_HEIGHT * camera.height, _LEAST_OFF)
    unsure = Unsure(click, click / math.sqrt(len(level)), off)
    tilted = scouting.tilted(camera, horizon)
    found = []
    for letter, thing in zip(string.ascii_uppercase, things, strict=False):
        found.append(_measured(letter, thing, snapshot, (camera, horizon, roll), unsure, system))
    link = _link(snapshot, found, tilted.tilt, system, height_text)
    return Scouting(tilted.tilt, roll, horizon, tuple(found), link)


def _measured(
    letter: str, thing: Thing, snapshot: Snapshot, seen: tuple[Camera, float, float],
    unsure: Unsure, system: str,
) -> Measured:  # fmt: skip
    camera, horizon, roll = seen
    width, height = snapshot.frame
    at = Measured(letter, thing.name, thing.foot, thing.top, wrong=thing.wrong)
    if thing.wrong:
        return at
    if thing.foot is None:
        return _with(at, wrong="Click its foot too: that is where it stands.")
    foot = scouting.levelled(thing.foot, roll, width, height).row
    top = None
    if thing.top is not None:
        top = scouting.levelled(thing.top, roll, width, height).row
        if top <= foot:
            return _with(at, wrong="Its top is below its foot: click them again.")
    try:
        if thing.tall is not None and top is not None:
            found = scouting.by_its_height(camera, horizon, (foot, top), thing.tall, unsure)
            return _distance(at, found, system, by_height=True)
        if snapshot.height is None:
            return _with(
                at, wrong="Say how high the lens was, or click its top and say how tall it is."
            )
        found = scouting.foot(camera, horizon, foot, unsure)
        told = _distance(at, found, system)
        if told.told and not told.far:
            along = scouting.along(camera, horizon, foot, unsure)
            told = _with(told, along=units.significant(along.value, 2))
            if top is not None:
                tall = scouting.height_of(camera, horizon, (foot, top), unsure)
                told = _with(
                    told, tall=units.significant(tall.value, 2),
                    tall_error=units.significant(tall.error, 1),
                )  # fmt: skip
    except OpticsError as error:
        return _with(at, wrong=error.sentence)
    return told


def _with(at: Measured, **more: object) -> Measured:
    values = {name: getattr(at, name) for name in Measured.__slots__}
    return Measured(**{**values, **more})


def _distance(at: Measured, found: Scouted, system: str, *, by_height: bool = False) -> Measured:
    """A distance as it can be set, or what is wrong with it."""
    if math.isinf(found.value):
        return _with(at, depth=math.inf, error=0.0)
    if found.share > _HOPELESS:
        return _with(
            at, wrong="It stands too near the horizon to tell: farther than the click is good for."
        )
    depth = settable.nearest(found.value, system, settable.FINE)
    error = max(units.significant(found.share, 1), _LEAST_ERROR)
    return _with(at, depth=depth, error=error, by_height=by_height)


def _link(
    snapshot: Snapshot, found: list[Measured], tilt: float, system: str, height_text: str
) -> str:
    """A plan of the scene, for the same lens and frame."""
    told = [one for one in found if one.told]
    if not told:
        return ""
    width, height = (units.significant(side, 3) for side in snapshot.frame)
    degrees = units.significant(math.degrees(tilt), 2)
    pairs = [
        ("focal_length_mm", f"{units.significant(snapshot.focal_length, 3):g}"),
        ("format", f"{width:g}x{height:g}"),
        ("camera_height", height_text if snapshot.height is not None else ""),
        ("tilt_deg", f"{degrees:g}" if snapshot.height is not None else ""),
    ]
    for one in told:
        pairs += [
            ("mark_name", one.name),
            ("mark_distance", "inf" if one.far else units.write(one.depth, system, 3)),
            ("mark_how", "ring"),
            ("mark_error", "" if one.far else f"{100 * one.error:.2g} %"),
            ("mark_role", "must"),
        ]
    return urlencode(pairs)
