"""How the distance of a mark was got, to a depth: converted once, its error along, and said."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from django.core.exceptions import ValidationError

from optics.base import amounts, units
from optics.base.errors import OpticsError, TooShort
from optics.scene import frame, size, tape
from optics.scene.camera import Camera
from optics.scene.marks import SKY
from web.ui.fields import read_length
from web.view.choices import How
from web.view.typed import Row, parse_place
from web.view.uncounted import Wrong, column

USUAL_ERRORS = {
    How.RING: 0.05,
    How.STRAIGHT: 0.02,
    How.FRONT: 0.02,
    How.GROUND: 0.08,
    How.SIZE: 0.10,
    How.EYE: 0.15,
}
"""How far off a distance usually is by each way of getting it, as a share. By eye, one's own."""
UNPLACED_ERROR = 0.10
"""What a tape is good for where it is not known how low in the frame the thing stands."""

ASSUMED_FRONT, FRONT_OFF = 100.0, 50.0
"""mm from the sensor mark to the front of a lens of which nobody said it, and how far off."""
BY_TAPE = frozenset((How.STRAIGHT, How.FRONT))
"""Ways of measuring that go straight to the thing."""

UNKNOWN_STAND = "Taken as a depth: say where the camera stands, and it is worked out."


@dataclass(frozen=True, slots=True)
class Reader:
    """What a row is read with.

    ``system``: the unit of a bare number. ``focal_length``, ``frame_height``, ``closest``: mm.
    ``nearest``: the nearest that is not inside the lens, mm.
    ``moved``: how far back the camera has gone since the distances were measured, mm.
    ``subject``: the letter of the mark that is the subject; empty for the first that must be sharp.
    ``front``: how far the front of the lens is from the sensor mark, mm; None if nobody said.
    ``judging``: how far off this person's judgement by eye is, as a share.
    """

    system: str
    focal_length: float
    frame_height: float
    closest: float
    nearest: float
    measures: units.Measures
    judging: float
    camera: Camera | None
    moved: float
    look: str
    subject: str = ""
    front: float | None = None

    @property
    def ahead(self) -> float:
        """From the sensor mark to the front of the lens, mm, said or assumed."""
        return ASSUMED_FRONT if self.front is None else self.front

    def length(self, text: str) -> float:
        return read_length(text, self.system, self.measures)

    def say(self, distance: float) -> str:
        return units.write(distance, self.system, 3)

    def usual_error(self, how: str) -> float:
        return self.judging if how == How.EYE else USUAL_ERRORS[How(how)]

    def shift(self) -> float:
        """How much deeper everything has become."""
        if self.camera is None or not self.moved:
            return self.moved
        return frame.axial_of_step(self.camera, self.moved)


@dataclass(frozen=True, slots=True)
class Measured:
    """A distance as typed, and what it comes to. Lengths mm.

    ``distance``: as typed. ``depth``: from where the camera now stands, and how far off (``error``)
    it may be. ``rise``: above the ground. ``at``: its place in the frame. ``says``: the conversion,
    and what else is to be said of it.
    """

    distance: float
    depth: float
    error: float
    rise: float
    at: tuple[float, float] | None
    says: str


def measured(row: Row, reader: Reader) -> Measured:
    """What a row's distance comes to. Raises Wrong."""
    with column("distance"):
        distance, at = reader.length(row.distance), parse_place(row.at, outside=1.0)
    with column("stands"):
        rise = _rise(row, reader)
    with column("share"):
        share = _share(row.share) if row.how == How.SIZE else math.nan
    least = reader.nearest
    with column("distance"):
        if row.how == How.SIZE and math.isinf(distance):
            raise ValidationError("To judge by its height, write how tall it is, such as 1.7 m.")
        if at is not None and not row.stands:
            rise = _seen_rise(row, reader, distance, at, share)
        depth_of, says = _conversion(row, reader, rise, at, distance, share)
        before = depth_of(distance)
        if before < least:
            raise ValidationError(f"Too near: {reader.say(before)} deep is inside the lens.")
    with column("error"):
        error = _error(row, reader, distance, depth_of, before, guessed=says == UNKNOWN_STAND)
    depth = before + reader.shift()
    if depth < least:
        raise Wrong("moved", "The camera has been moved past it.")
    said = [says] if says else []
    if at is not None and not row.stands and 0 < rise < SKY:
        said.append(f"Seen there, it is {reader.say(rise)} above the ground.")
    if reader.moved and math.isfinite(depth):
        said.append(f"Now {reader.say(depth)} deep.")
    if depth < reader.closest * (1 - 1e-9):
        nearest = reader.say(reader.closest)
        said.append(f"Nearer than the lens can focus ({nearest}): it is blurred as shown.")
    error = max(min(error, depth - least), 0.0) if math.isfinite(depth) else 0.0
    return Measured(distance, depth, error, rise, at, " ".join(said))


def _rise(row: Row, reader: Reader) -> float:
    text = row.stands.strip().lower()
    if not text or text in ("ground", "on the ground"):
        return 0.0
    if text in ("sky", "in the sky"):
        return SKY
    try:
        rise = reader.length(text)
    except ValidationError as error:
        wanted = "It stands on the ground, so high above it (0.7 m), or in the sky."
        raise ValidationError(f"{' '.join(error.messages)} {wanted}") from error
    if not math.isfinite(rise) or rise > 1e7:
        raise ValidationError("That is too high to stand on the ground; write sky.")
    return rise


_ON_THE_GROUND = 0.03
"""Of the frame's height: put that near to where the ground is seen, a mark stands on it."""


def _seen_rise(
    row: Row, reader: Reader, distance: float, at: tuple[float, float], share: float
) -> float:
    """How high a mark is, from where in the frame it was put: mm above the ground."""
    camera, up = reader.camera, at[1]
    if camera is None:
        return 0.0
    if row.how in BY_TAPE or math.isinf(distance):
        return SKY  # the tape and the place say all there is to say
    depth = _conversion(row, reader, 0.0, None, distance, share)[0](distance)
    try:
        ground = frame.row_of_depth(camera, depth)
        if up <= ground + _ON_THE_GROUND:
            return 0.0
        return max(frame.height_seen(camera, depth, up), 0.0)
    except OpticsError:
        return 0.0


type_depth_of = Callable[[float], float]


def _conversion(
    row: Row,
    reader: Reader,
    rise: float,
    at: tuple[float, float] | None,
    distance: float,
    share: float,
) -> tuple[type_depth_of, str]:
    """How the distance typed becomes a depth, and what to say about it. ``share``: of the frame's
    height that it fills, if it was got so."""
    camera = reader.camera
    if row.how == How.SIZE:

        def by_size(real: float) -> float:
            return size.distance_from_size(reader.focal_length, reader.frame_height, real, share)

        return by_size, f"{reader.say(by_size(distance))} away from its size."
    ahead = reader.ahead if row.how == How.FRONT else 0.0
    if row.how not in (*BY_TAPE, How.GROUND) or math.isinf(distance):
        return (lambda typed: typed), ""
    if camera is None or (row.how == How.GROUND and rise == SKY):
        return (lambda typed: typed + ahead), UNKNOWN_STAND if camera is None else ""
    if row.how == How.GROUND:

        def along(typed: float) -> float:
            return frame.depth_along_ground(camera, frame.horizontal_of_paces(camera, typed), rise)

        return along, _says(reader, distance, along(distance), "along the ground")

    def straight(typed: float) -> float:
        try:
            return depth_of_tape(camera, typed + ahead, rise, at)
        except TooShort as short:
            raise Wrong("stands", _too_short(reader, typed + ahead, camera, rise)) from short

    word = "from the lens’s front" if ahead else "straight"
    assumed = ""
    if ahead and reader.front is None:
        assumed = f" Its front is taken as {reader.say(ahead)} from the sensor mark."
    return straight, _says(reader, distance, straight(distance), word) + assumed


def _too_short(reader: Reader, tape: float, camera: Camera, rise: float) -> str:
    there = f"what stands {reader.say(rise)} high" if rise else "the ground"
    return (
        f"{reader.say(tape)} straight does not reach {there} from {reader.say(camera.height)} up. "
        f"Does it stand on something{' higher' if rise else ''}?"
    )


def _says(reader: Reader, distance: float, depth: float, word: str) -> str:
    return f"{reader.say(distance)} {word} = {reader.say(depth)} deep."


def depth_of_tape(
    camera: Camera, straight: float, rise: float, at: tuple[float, float] | None
) -> float:
    """The depth of what a tape of that length, mm, reaches from the sensor mark.

    On or over the ground its place in the frame follows from the tape; in the sky it must have been
    put there, and counts as the middle of the frame if not. Raises TooShort.
    """
    across = at[0] if at else 0.5
    if rise != SKY:
        return tape.depth_of_tape(camera, straight, rise, across)
    up = at[1] if at else 0.5
    return tape.depth_of_straight(camera, straight, up, across, math.inf)


def _share(text: str) -> float:
    if not text:
        raise ValidationError("Say how much of the frame's height it fills, such as 50 %.")
    share = amounts.parse_share(text)
    if not 0.001 <= share <= 5:
        raise ValidationError("It fills from 0.1 to 500 % of the frame's height.")
    return share


def _error(
    row: Row, reader: Reader, distance: float, depth_of: type_depth_of, depth: float, guessed: bool
) -> float:
    """How far off the depth may be, mm: the error of what was measured, taken through."""
    if math.isinf(depth):
        return 0.0
    share = max(reader.usual_error(row.how), UNPLACED_ERROR if guessed else 0.0)
    off = share * distance
    if row.how == How.FRONT and reader.front is None:
        off = math.hypot(off, FRONT_OFF)
    if row.error:
        off = amounts.parse_error(row.error, distance, reader.system, reader.measures)
    found = []
    for typed in (distance - off, distance + off):
        try:
            found.append(abs(depth_of(typed) - depth))
        except (OpticsError, ValidationError, Wrong):
            continue
    return max(found, default=off * depth / distance)
