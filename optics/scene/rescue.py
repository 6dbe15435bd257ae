"""When it cannot hold: by how much, and everything that would do it."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.base.errors import OpticsError
from optics.base.settable import up
from optics.lens.aperture import stops_between
from optics.lens.shot import Shot
from optics.scene import frame, moving, placing
from optics.scene.answer import Answer, shot_at
from optics.scene.choosing import Widest, widest
from optics.scene.marks import Ends, Mark, Word
from optics.scene.scenes import Scene
from optics.zones.frame_sets import NoSet, frame_set


@dataclass(frozen=True, slots=True)
class Asked:
    """What a rescue is asked for.

    ``keep``       the letter of the mark that keeps its size; empty for the first that can.
    ``bracket``, ``bracket_stops``  exposures of each frame, and the stops between them.
    ``pause``      between frames, s. ``seconds``: the time of a frame, s; None: not known.
    ``longest``    the longest focal length of the lens in hand, mm; None: not known.
    """

    keep: str = ""
    bracket: int = 1
    bracket_stops: float = 1.0
    pause: float = 2.0
    seconds: float | None = None
    longest: float | None = None


@dataclass(frozen=True, slots=True)
class StepBack:
    """A step back along the ground, mm, and the crop that undoes the change of size. ``why_not``
    instead where none does; ``best``: the circles left at best."""

    back: float | None
    crop: float = 1.0
    why_not: str = ""
    best: float = 0.0


@dataclass(frozen=True, slots=True)
class Zoomed:
    """A longer focal length, mm, from where cropping would do. ``has_it``: whether the lens goes
    there; None where that is not known. ``f_number``: what holds there, None for none."""

    focal_length: float
    circles: float
    f_number: float | None
    has_it: bool | None


@dataclass(frozen=True, slots=True)
class FrameSet:
    """A set of frames, nearest first, each with its bracket: so many ``exposures``. ``seconds``:
    what it takes, None where no exposure is known. ``why_not`` instead of frames where there are
    none to take by hand."""

    frames: tuple[Shot, ...]
    exposures: int = 0
    seconds: float | None = None
    why_not: str = ""


@dataclass(frozen=True, slots=True)
class Rescue:
    """What would do. ``worst``: the largest blur among what must be sharp, in circles, at the mark
    ``worst_letter``. ``widest``: the widest aperture that holds, so many ``stops`` from the one in
    force. ``print_width``: the widest print for which it holds as it is, mm."""

    holds: bool
    worst: float
    worst_letter: str
    widest: Widest | None
    stops: float
    as_is: StepBack
    keep: Mark | None
    cropped: StepBack
    by_pixels: StepBack
    zoomed: Zoomed | None
    frames: FrameSet
    insured: Mark | None
    insurance: FrameSet | None
    print_width: float


NO_STEP = {
    moving.NoStep.CROP_UNDOES: "Cropping takes back exactly what the step gains.",
    moving.NoStep.CROP_EXCEEDS: "However far back, cropping asks for more than the step gains.",
    moving.NoStep.NEVER: "Not from anywhere: at this aperture diffraction alone is too much.",
}
NOTHING_TO_KEEP = "No mark at a distance to keep the size of."
_SAME = 1.005
"""A focal length within so much of a lens's longest is its longest."""


def rescue(answer: Answer, asked: Asked) -> Rescue | None:
    """Everything that would make what must be sharp hold; None where nothing must be."""
    scene, two = answer.scene, answer.ends
    if two is None:
        return None
    must = [v for v in answer.verdicts if v.mark.must]
    worst = max(must, key=lambda v: v.circles)
    near, far = two.near, two.far
    keep = _keep(scene, asked.keep)
    found = widest(scene)
    as_is = _step(scene, near, far, None, moving.Keeping.AS_IT_IS)
    cropped = by_pixels = StepBack(None, why_not=NOTHING_TO_KEEP)
    zoomed = None
    if keep is not None:
        cropped = _step(scene, near, far, keep.depth, moving.Keeping.CROP)
        by_pixels = _step(scene, near, far, keep.depth, moving.Keeping.CROP_BY_PIXELS)
        zoomed = _zoomed(scene, asked.longest, near, far, keep.depth, as_is)
    unsure = [v.mark for v in must if v.word is not Word.HOLDS and v.mark.uncertainty > 0]
    insured = max(unsure, key=lambda m: m.uncertainty / m.depth, default=None)
    return Rescue(
        holds=worst.word is not Word.SOFT,
        worst=worst.circles,
        worst_letter=worst.mark.letter,
        widest=found,
        stops=stops_between(scene.f_number, found.f_number) if found else 0.0,
        as_is=as_is,
        keep=keep,
        cropped=cropped,
        by_pixels=by_pixels,
        zoomed=zoomed,
        frames=_set(answer, two, scene.overlap, asked),
        insured=insured,
        insurance=None if insured is None else _insurance(answer, insured, asked),
        print_width=min(v.print_width for v in must),
    )


def _keep(scene: Scene, letter: str) -> Mark | None:
    finite = [m for m in scene.marks if math.isfinite(m.depth) and m.depth >= scene.closest]
    named = next((m for m in finite if m.letter == letter), None)
    return named or next((m for m in finite if m.must), None)


def _step(
    scene: Scene, near: float, far: float, keep: float | None, keeping: moving.Keeping
) -> StepBack:
    try:
        found = moving.step_back(scene.setup, near, far, keep, keeping)
    except OpticsError as error:
        return StepBack(None, why_not=error.sentence)
    if isinstance(found, moving.Stuck):
        return StepBack(None, why_not=NO_STEP[found.why], best=found.best)
    # As a tripod is moved: a little too far rather than not far enough.
    return StepBack(_moved(found.back / _per_step(scene), scene.system), found.crop)


def _moved(back: float, system: str) -> float:
    """As exactly as somebody moves a tripod: a short step to one figure."""
    return up(back, system, 1) if back < _SHORT else up(back, system)


_SHORT = 100.0
"""mm."""

_LEAST_PER_STEP = 0.05
"""Looking so squarely down that a step hardly changes depths, a step is taken for what it is."""


def _per_step(scene: Scene) -> float:
    """How much deeper everything becomes for each mm that the tripod goes back."""
    if scene.camera is None:
        return 1.0
    per_step = frame.axial_of_step(scene.camera, 1.0)
    return per_step if per_step > _LEAST_PER_STEP else 1.0


def _zoomed(
    scene: Scene, longest: float | None, near: float, far: float, keep: float, as_is: StepBack
) -> Zoomed | None:
    if not as_is.back:
        return None
    try:
        back = as_is.back * _per_step(scene)
        found = moving.longer_lens(scene.setup, near, far, keep, back)
    except OpticsError:
        return None
    settable = None
    if found.f_number is not None:
        settable = next((n for n in scene.apertures if n >= found.f_number * (1 - 1e-9)), None)
    has_it = None if longest is None else found.focal_length <= longest * _SAME
    return Zoomed(found.focal_length, found.circles, settable, has_it)


def _set(answer: Answer, two: Ends, overlap: float, asked: Asked) -> FrameSet:
    """Frames that hold all from end to end, on settings that a hand can set."""
    scene = answer.scene
    zones = frame_set(scene.setup, two.near, two.far, overlap, scene.closest, scene.system)
    if isinstance(zones, NoSet):
        return FrameSet((), why_not=zones.sentence)
    focuses = [zone.focus for zone in zones]
    if len(zones) == 1:
        focus = max(focuses[0], scene.closest)
        focuses = [placing.rounded(scene, focus, placing.window_for(scene, two)).focus]
    frames = tuple(replace(shot_at(scene, focus), seconds=asked.seconds) for focus in focuses)
    time = None
    if asked.seconds is not None:
        one = bracketed(asked.seconds, asked.bracket, asked.bracket_stops)
        time = len(frames) * one + (len(frames) - 1) * asked.pause
    return FrameSet(frames, len(frames) * asked.bracket, time)


def bracketed(seconds: float, count: int, stops: float) -> float:
    """How long a bracket of ``count`` exposures, so many ``stops`` apart, about one of ``seconds``
    takes, s, the shutter open. ``seconds`` above 0, ``count`` 1 or more."""
    return math.fsum(seconds * 2.0 ** (stops * (at - 0.5 * (count - 1))) for at in range(count))


def _insurance(answer: Answer, mark: Mark, asked: Asked) -> FrameSet:
    """Frames of which one has a mark sharp wherever in its doubt it stands."""
    return _set(answer, Ends(mark.nearest, mark.farthest), 0.0, asked)
