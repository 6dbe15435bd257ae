"""Moving the camera: every mark's depth changes by the same step, and what that does to sharpness.

When the near mark will not hold, the tripod can go back. Depth of field grows; so does the field
of view, and what was wanted large comes out small. To get the size back one crops, or takes a
longer lens from there. Cropping enlarges more, so a standard made for a print or a screen becomes
stricter by the crop; one made of pixels does not. With the blur of both ends made equal (equations
(2) and (3) of ``cone``), the near end at x₁, the far one at x₂ and the thing to keep at x₀ from the
pupil, moving back by s leaves, in terms of the standard as the crop makes it,

    blur × crop ∝ (x₀ + s)·(1/(x₁ + s) − 1/(x₂ + s))                                   (7)

With the near mark itself the thing to keep, x₀ = x₁, and the far end at infinity, (7) does not
change at all: cropping undoes exactly what stepping back gained. That is the answer, and is said.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from enum import StrEnum

from optics.base.errors import OutOfRange, require_finite, require_number, require_order
from optics.base.search import crossing
from optics.lens.aperture import widest_holding
from optics.lens.conjugates import nearest_focus
from optics.lens.depth import counted_blur, image_scale
from optics.lens.equal_blur import between
from optics.lens.focus_window import Window, focus_window, signed_window
from optics.lens.setup import Setup


class Keeping(StrEnum):
    """What to do about the size of things after a step back."""

    AS_IT_IS = "as_it_is"
    CROP = "crop"
    CROP_BY_PIXELS = "crop_by_pixels"


class NoStep(StrEnum):
    """Why no step back helps."""

    CROP_UNDOES = "crop_undoes"
    """Cropping takes back exactly what the step gained: the near mark sets the framing."""
    CROP_EXCEEDS = "crop_exceeds"
    """However far back, cropping asks for more than the step has gained."""
    NEVER = "never"
    """Nothing holds at this aperture, from anywhere: diffraction alone is too much."""


@dataclass(frozen=True, slots=True)
class Step:
    """A step back that makes both ends hold.

    ``back``    mm, 0 if they hold already.
    ``crop``    how much more the picture must then be enlarged, 1 if it is left as it is.
    ``coc``     the circle that counts from there, mm: stricter by the crop for a print or screen.
    ``window``  where the ring may stand there, mm from the sensor.
    """

    back: float
    crop: float
    coc: float
    window: Window


@dataclass(frozen=True, slots=True)
class Stuck:
    """No step back does it.

    ``why``        says so.
    ``best``       the smallest worst blur that any step leaves, in circles as they count there:
                   above 1. inf if nothing holds anywhere.
    """

    why: NoStep
    best: float


FARTHEST = 1e7
"""mm: ten kilometres. Nobody steps back farther; what does not hold from there never does."""


def step_back(
    setup: Setup,
    near: float,
    far: float,
    keep: float | None = None,
    keeping: Keeping = Keeping.AS_IT_IS,
) -> Step | Stuck:
    """The shortest step back with which one ring setting holds both ends at the same aperture.

    ``near`` ≤ ``far``  mm from the sensor, far up to inf.
    ``keep``            the depth of the thing that is to keep its size, mm, finite; not needed
                        for AS_IT_IS.
    ``keeping``         AS_IT_IS: the picture is left as it is. CROP: cropped so that the thing
                        keeps its size, and the standard is one of a print or a screen: it
                        tightens with the crop; both are solved together. CROP_BY_PIXELS: the
                        standard is one of the sensor's pixels, which cropping leaves alone.
    Plain numbers only. Raises NotANumber, WrongOrder, OutOfRange, SubjectTooNear.
    """
    require_order(near, far)
    if keeping is not Keeping.AS_IT_IS:
        if keep is None:
            raise OutOfRange("keep", math.nan, "Say which mark is to keep its size.")
        require_number("keep", keep, "depth of the mark to keep")
        require_finite("keep", keep, "depth of the mark to keep")
    stepped = _Stepped(setup, near, far, keep, keeping)
    if focus_window(setup, near, far) is not None:
        return stepped.step(0.0)
    if math.isinf(near):
        return Stuck(NoStep.NEVER, math.inf)  # no step changes what is there
    if keeping is Keeping.CROP:
        return _step_and_crop(stepped)
    return _first_step(stepped) or Stuck(NoStep.NEVER, math.inf)


def _step_and_crop(stepped: _Stepped) -> Step | Stuck:
    assert stepped.keep is not None
    undone = stepped.keep == stepped.near and math.isinf(stepped.far)
    if undone and (not stepped.setup.diffraction or stepped.misses(FARTHEST) > 0):
        return Stuck(NoStep.CROP_UNDOES, stepped.circles(0.0))
    found = _first_step(stepped)
    if found is not None:
        return found
    best = min(stepped.circles(back) for back in _tried_steps(stepped.near))
    return Stuck(NoStep.CROP_EXCEEDS, best)


def _first_step(stepped: _Stepped) -> Step | None:
    """The first step that does it: walked in growing strides, then halved."""
    before = 0.0
    for back in _tried_steps(stepped.near):
        if stepped.misses(back) <= 0:
            return stepped.step(crossing(stepped.misses, before, back, 1e-10))
        before = back
    return None


def _tried_steps(near: float) -> list[float]:
    first = near * 1e-3
    strides = math.ceil(math.log(FARTHEST / first) / math.log(_STRIDE))
    return [first * _STRIDE**at for at in range(max(strides, 0) + 1)]


_STRIDE = 1.25


@dataclass(frozen=True, slots=True)
class _Stepped:
    """A scene seen from so far back."""

    setup: Setup
    near: float
    far: float
    keep: float | None
    keeping: Keeping

    def crop(self, back: float) -> float:
        """How much smaller the thing to keep has become, focus between the ends each time."""
        if self.keeping is Keeping.AS_IT_IS or self.keep is None or back == 0:
            return 1.0
        sizes = [image_scale(self.setup, self.keep + s, self._focus(s)) for s in (0.0, back)]
        return sizes[0] / sizes[1]

    def _focus(self, back: float) -> float:
        least = nearest_focus(self.setup)
        near, far = max(self.near + back, least), max(self.far + back, least)
        return between(self.setup, near, far)

    def _seen(self, back: float) -> Setup:
        crop = self.crop(back) if self.keeping is Keeping.CROP else 1.0
        return replace(self.setup, coc=self.setup.coc / crop)

    def misses(self, back: float) -> float:
        """Above 0 while the window is closed, by how much in magnification."""
        return -signed_window(self._seen(back), self.near + back, self.far + back)

    def circles(self, back: float) -> float:
        """The worst blur between the ends, in circles as they count there."""
        seen, focus = self._seen(back), self._focus(back)
        ends = (self.near + back, self.far + back)
        return max(counted_blur(seen, end, focus) for end in ends) / seen.coc

    def step(self, back: float) -> Step:
        seen = self._seen(back)
        near, far = self.near + back, self.far + back
        window = focus_window(seen, near, far)
        assert window is not None
        return Step(back, self.crop(back), seen.coc, window)


@dataclass(frozen=True, slots=True)
class Longer:
    """A longer lens instead of cropping, from the same place.

    ``focal_length``  that keeps the size of the thing without cropping, mm.
    ``circles``       the worst blur at the same f-number, in circles; the same circle as before.
    ``f_number``      the smallest that would hold both ends with it; None if none would.
    """

    focal_length: float
    circles: float
    f_number: float | None


def longer_lens(setup: Setup, near: float, far: float, keep: float, back: float) -> Longer:
    """What a longer focal length does from ``back`` farther away, instead of cropping.

    Its picture needs no cropping, so the standard stays; but blur grows with the square of the
    focal length and the size of things only in proportion. So at the same f-number it holds less
    than the crop does, by the crop. As ``step_back``; ``back`` mm, 0 or more.
    """
    require_order(near, far)
    require_finite("keep", keep, "depth of the mark to keep")
    require_finite("back", back, "step")
    crop = _Stepped(setup, near, far, keep, Keeping.CROP).crop(back)
    focal_length = setup.focal_length * crop
    # The first guess is right for far things; close up the lens breathes: correct it once or twice.
    for _ in range(20):
        longer = replace(setup, focal_length=focal_length)
        focus = between(longer, near + back, far + back)
        wanted = image_scale(setup, keep, between(setup, near, far))
        ratio = wanted / image_scale(longer, keep + back, focus)
        focal_length *= ratio
        if abs(ratio - 1) < 1e-12:
            break
    longer = replace(setup, focal_length=focal_length)
    focus = between(longer, near + back, far + back)
    blurs = [counted_blur(longer, end + back, focus) for end in (near, far)]
    return Longer(
        focal_length=focal_length,
        circles=max(blurs) / setup.coc,
        f_number=widest_holding(longer, near + back, far + back),
    )
