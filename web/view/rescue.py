"""When it cannot hold: by how much, and everything that would do it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base.errors import OpticsError
from optics.lens import depth
from optics.scene import focus_distances, frame, moving
from optics.zones.tiling import Zone
from web.bag.in_use import InUse
from web.view import placing
from web.view.panels import Panels
from web.view.scenes import Mark, Ring, Scene
from web.view.usecases import Answer


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
    """A longer focal length from where cropping would do. ``has_it``: whether the lens goes there;
    None where no lens of the bag is in hand. ``f_number``: what holds there, None for none."""

    focal_length: float
    circles: float
    f_number: float | None
    has_it: bool | None


@dataclass(frozen=True, slots=True)
class FrameOfSet:
    """One frame of a set: its setting and what it holds, mm."""

    ring: Ring
    near: float
    far: float


@dataclass(frozen=True, slots=True)
class FrameSet:
    """A set of frames, nearest first, each with its bracket. ``seconds``: what it takes, None
    where no exposure is known."""

    frames: tuple[FrameOfSet, ...]
    exposures: int
    seconds: float | None
    just: bool = False


@dataclass(frozen=True, slots=True)
class Rescue:
    """What would do. ``worst``: the largest blur among what must be sharp, in circles; ``print``:
    the widest print for which it holds as it is, mm."""

    holds: bool
    worst: float
    worst_letter: str
    f_number: float | None
    stops: float
    as_is: StepBack
    keep: Mark | None
    cropped: StepBack
    by_pixels: StepBack
    zoomed: Zoomed | None
    frames: FrameSet | None
    insured: Mark | None
    insurance: FrameSet | None
    print_width: float


NO_STEP = {
    moving.NoStep.CROP_UNDOES: "Cropping takes back exactly what the step gains.",
    moving.NoStep.CROP_EXCEEDS: "However far back, cropping asks for more than the step gains.",
    moving.NoStep.NEVER: "Not from anywhere: at this aperture diffraction alone is too much.",
}


def rescue(answer: Answer, in_use: InUse, panels: Panels, seconds: float | None) -> Rescue | None:
    """Everything that would make what must be sharp hold; None where nothing must be.

    ``seconds``: the exposure time of a frame, if it is known.
    """
    scene, ends = answer.scene, answer.ends
    if ends is None:
        return None
    must = [v for v in answer.verdicts if v.mark.must]
    worst = max(must, key=lambda v: v.circles)
    near, far = ends.near, ends.far
    keep = _keep(scene, panels)
    f_number = next(
        (n for n in scene.apertures if placing.window_for(placing.at_aperture(scene, n), ends)),
        None,
    )
    as_is = _step(scene, near, far, None, moving.Keeping.AS_IT_IS)
    cropped = by_pixels = StepBack(None, why_not="No mark at a distance to keep the size of.")
    zoomed = None
    if keep is not None:
        cropped = _step(scene, near, far, keep.depth, moving.Keeping.CROP)
        by_pixels = _step(scene, near, far, keep.depth, moving.Keeping.CROP_BY_PIXELS)
        zoomed = _zoomed(scene, in_use, near, far, keep.depth, as_is)
    unsure = [v.mark for v in must if v.word != "holds" and v.mark.error > 0]
    insured = max(unsure, key=lambda m: m.error / m.depth, default=None)
    return Rescue(
        holds=worst.word != "soft",
        worst=worst.circles,
        worst_letter=worst.mark.letter,
        f_number=f_number,
        stops=2 * math.log2(f_number / float(scene.setup.f_number)) if f_number else 0.0,
        as_is=as_is,
        keep=keep,
        cropped=cropped,
        by_pixels=by_pixels,
        zoomed=zoomed,
        frames=_set(
            scene, focus_distances.frames(scene.setup, near, far, panels.overlap), panels, seconds
        ),
        insured=insured,
        insurance=None if insured is None else _insurance(scene, insured, panels, seconds),
        print_width=min(v.print_width for v in must),
    )


def _keep(scene: Scene, panels: Panels) -> Mark | None:
    finite = [m for m in scene.marks if math.isfinite(m.depth) and m.depth >= scene.closest]
    named = next((m for m in finite if m.letter == panels.keep), None)
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
    return StepBack(found.back / _per_step(scene), found.crop)


def _per_step(scene: Scene) -> float:
    """How much deeper everything becomes for each mm that the tripod goes back."""
    if scene.camera is None:
        return 1.0
    per_step = float(frame.axial_of_step(scene.camera, 1.0))
    return per_step if per_step > 0.05 else 1.0


def _zoomed(
    scene: Scene, in_use: InUse, near: float, far: float, keep: float, as_is: StepBack
) -> Zoomed | None:
    if not as_is.back:
        return None
    try:
        back = as_is.back * _per_step(scene)
        found = moving.longer_lens(scene.setup, near, far, keep, back)
    except OpticsError:
        return None
    lens, factor = in_use.lens, in_use.factor
    has_it = None if lens is None else found.focal_length <= lens.longest_mm * factor * 1.005
    settable = None
    if found.f_number is not None:
        settable = next((n for n in scene.apertures if n >= found.f_number * (1 - 1e-9)), None)
    return Zoomed(found.focal_length, found.circles, settable, has_it)


def _set(
    scene: Scene, zones: tuple[Zone, ...] | None, panels: Panels, seconds: float | None
) -> FrameSet | None:
    if not zones or any(math.isnan(zone.near) for zone in zones):
        return None
    frames = []
    for zone in zones:
        ring = placing.rounded(scene, max(zone.focus, scene.closest), None)
        held = depth.limits(scene.setup, ring.focus)
        frames.append(FrameOfSet(ring, float(held.near), float(held.far)))
    time = None
    if seconds is not None:
        one = bracketed(seconds, panels.bracket, panels.bracket_stops)
        time = len(frames) * one + (len(frames) - 1) * panels.pause
    return FrameSet(tuple(frames), len(frames) * panels.bracket, time)


def bracketed(seconds: float, count: int, stops: float) -> float:
    """How long a bracket about an exposure of ``seconds`` takes, s, the shutter open."""
    return math.fsum(seconds * 2.0 ** (stops * (at - 0.5 * (count - 1))) for at in range(count))


def _insurance(scene: Scene, mark: Mark, panels: Panels, seconds: float | None) -> FrameSet | None:
    try:
        zones = focus_distances.insurance_for_distance(
            scene.setup, mark.depth, mark.error / mark.depth
        )
    except OpticsError:
        return None
    return _set(scene, zones, panels, seconds)
