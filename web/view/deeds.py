"""What would mend a picture that does not hold: each a tap that does it, and can be undone."""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from dataclasses import dataclass

from optics.base import settable
from optics.lens import depth, focusing
from optics.scene import choosing, placing
from optics.scene.answer import Answer
from optics.scene.rescue import Asked, FrameSet, Rescue, StepBack, rescue
from optics.scene.scenes import Choose
from web.hand.in_use import circle_text
from web.ui.templatetags import format
from web.view.panels import Panels
from web.view.reading import Reading
from web.view.renumbering import as_typed
from web.view.tolerance import errors_of

FRAMES = "frames"


@dataclass(frozen=True, slots=True)
class Deed:
    """One tap: what it is called, and what it writes into which fields of the scene."""

    says: str
    sets: tuple[tuple[str, str], ...]

    @property
    def written(self) -> str:
        """The fields and their texts, as the page carries them."""
        return json.dumps(dict(self.sets), ensure_ascii=False)


def deeds(answer: Answer, reading: Reading) -> tuple[Deed, ...]:
    """All that would have what must be sharp hold; none where it does, or nothing must be."""
    if not answer.failing:
        return ()
    found = rescue(answer, asked_of(answer, reading))
    return () if found is None else tuple(_deeds(answer, reading, found))


def asked_of(answer: Answer, reading: Reading) -> Asked:
    """What a rescue of this scene is asked for."""
    panels, in_use = reading.panels, reading.in_use
    longest = None if in_use.lens is None else in_use.lens.longest_mm * in_use.factor
    return panels.asked(answer.scene.seconds, longest)


def _deeds(answer: Answer, reading: Reading, found: Rescue) -> Iterator[Deed]:
    scene = answer.scene
    if found.widest is not None and found.widest.f_number != scene.f_number:
        yield _at(found.widest.f_number)
    if scene.school != FRAMES:
        yield from _frames(found.frames)
    yield from _back(answer, reading, found.as_is)
    if math.isfinite(found.print_width) and not scene.setup.diffraction:
        width = settable.floored(found.print_width)
        if 0 < width < answer.widest_print:
            circle = scene.setup.coc * answer.widest_print / width
            yield Deed(
                f"A print up to {format.at_most(found.print_width, scene.system)}",
                (("circle_mm", circle_text(circle)),),
            )


def _at(f_number: float) -> Deed:
    number = f"{f_number:g}"
    return Deed(format.f_number(f_number), (("f_number", number), ("choose", Choose.FIXED)))


def _frames(found: FrameSet) -> Iterator[Deed]:
    count = len(found.frames)
    if count > 1:
        yield Deed(f"{_COUNTED.get(count, count)} frames", (("place", FRAMES), ("ring", "")))


_COUNTED = {2: "Two", 3: "Three", 4: "Four", 5: "Five", 6: "Six"}


def _back(answer: Answer, reading: Reading, step: StepBack) -> Iterator[Deed]:
    if not step.back:
        return
    scene, moved = answer.scene, step.back + reading.reader.moved
    near = min((m for m in scene.must if m.depth < math.inf), key=lambda m: m.depth, default=None)
    shrinks = ""
    if near is not None:
        before, now = (
            float(depth.image_scale(scene.setup, far, answer.ring.focus))
            for far in (near.depth, near.depth + step.back)
        )
        shrinks = f", and {near.letter} shrinks to {_shown(now / before)}"
    says = f"Step back {format.exactly(step.back, scene.system)}{shrinks}"
    text = as_typed(moved, scene.system)
    yield Deed(says, (("moved", text if moved > 0 else f"-{text}"), ("ring", "")))


def _shown(share: float) -> str:
    if share < 0.1:
        return "less than a tenth"
    return f"{share:.0%}".replace("%", " %")


@dataclass(frozen=True, slots=True)
class Tempered:
    """That the widest aperture leaves less room than a way of focusing needs. ``way``: that;
    ``instead``: the widest that it can hit; None where none is."""

    way: str
    instead: Deed | None


def tempered(answer: Answer, reading: Reading) -> Tempered | None:
    """Whether the way of focusing hits the window of *the widest that holds*; None if it does."""
    scene, panels = answer.scene, reading.panels
    wanted = scene.choose == Choose.WIDEST and panels.focus_by and not answer.failing
    if not wanted or answer.ends is None or answer.given_window is None or answer.more_frames:
        return None
    error = _error(answer, reading, panels)
    if error is None or focusing.fit(error, _room(answer, scene.f_number)) != focusing.Fit.NOT:
        return None
    for f_number in scene.apertures:
        holds = f_number > scene.f_number and choosing.holding(scene, f_number)
        if holds and focusing.fit(error, _room(answer, f_number)) != focusing.Fit.NOT:
            return Tempered(panels.focus_by, _at(f_number))
    return Tempered(panels.focus_by, None)


def _error(answer: Answer, reading: Reading, panels: Panels) -> focusing.Error | None:
    found = errors_of(answer.scene, reading.in_use)
    return next((error for error in found if error.way == panels.focus_by), None)


def _room(answer: Answer, f_number: float) -> float:
    """To either side of the setting at an aperture, mm behind the lens."""
    scene, two = answer.scene.at(f_number), answer.ends
    window = None if two is None else placing.window_for(scene, two)
    if window is None or two is None:
        return 0.0
    focus = placing.place(scene).settings[0].focus
    return focusing.room(scene.setup, window, focus, two.near) if window.holds(focus) else 0.0
