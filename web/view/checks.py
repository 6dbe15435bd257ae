"""The checklist for the place, in the words of the body in hand; and care that fits the place."""

from __future__ import annotations

from optics.base import units
from optics.lens.focusing import Way
from optics.scene.answer import Answer
from web.bag.models import Closing, RingKind
from web.hand import body_words
from web.hand.in_use import InUse
from web.ui.care import CARE, minded
from web.ui.templatetags import format
from web.view.panels import Panels
from web.view.standin import stand_in
from web.view.tolerance import Tolerance

PEAKING_SHARE = 0.5
"""Focus peaking misleads once more than this share of the marks is sharp."""


def checks(answer: Answer, in_use: InUse, tolerance: Tolerance, panels: Panels) -> tuple[str, ...]:
    """What to do at the place, in order."""
    body, scene = in_use.body, answer.scene
    magnify, release = body_words.magnified(body), body_words.released(body)
    found = [body_words.off_the_shutter(body)]
    found.append(f"Aperture at f/{units.significant(scene.setup.f_number, 3):g}.")
    found.append(_focus(answer, in_use, tolerance, panels))
    if in_use.lens is not None and in_use.lens.closes == Closing.SHIFTS:
        found.append("This lens shifts focus as it closes: judge it at the taking aperture.")
    near, far = _ends(answer)
    if near and far and near != far:
        found.append(f"Magnify {near} and {far} ({magnify}): both as sharp as you want them.")
    elif near:
        found.append(f"Magnify {near} ({magnify}): as sharp as you want it.")
    else:
        found.append(f"Magnify the far end ({magnify}).")
    found.append(f"Tripod standing firmly. Release: {release}.")
    again = "Look again after each set of waves, each gust, each change of lens"
    lens = in_use.lens
    if lens is not None and lens.is_zoom:
        again += " or focal length"
    if lens is not None and lens.ring_kind == RingKind.FORGETS:
        again += ", and whenever the camera was switched off: this ring forgets its place"
    found.append(f"{again}.")
    if peaking_misleads(answer):
        found.append(
            "Do not go by focus peaking here: nearly everything is sharp, and it lights up all of "
            "it. It says little about where the ring stands."
        )
    return tuple(found)


def autofocused(answer: Answer, panels: Panels) -> str:
    """What to put the autofocus on, by how this person focuses: the mark nearest to the ring's
    setting that surely lies in the window. Empty where they do not, or there is none."""
    if panels.focus_by != Way.SPOT or answer.more_frames:
        return ""
    return _stands_in(answer, panels)


def _stands_in(answer: Answer, panels: Panels) -> str:
    names = stand_in(answer, panels).inside
    inside = [mark for mark in answer.scene.marks if mark.name in names]
    ring = answer.ring.focus
    best = min(inside, key=lambda mark: abs(1 / mark.depth - 1 / ring), default=None)
    return "" if best is None else best.name


def _focus(answer: Answer, in_use: InUse, tolerance: Tolerance, panels: Panels) -> str:
    system = answer.scene.system
    settings = [format.reading(ring, system) for ring in answer.shots]
    at = "the ring" if in_use.shows_distance else "focus"
    if len(settings) > 1:
        return f"A frame each with {at} at {', '.join(settings)}."
    window, text = answer.window, f"{'Ring' if in_use.shows_distance else 'Focus'} at {settings[0]}"
    if name := autofocused(answer, panels):
        return f"Autofocus on {name}, then lock."
    if panels.focus_by == Way.SPOT:
        reach = format.placed(window, system) if window is not None else settings[0]
        return f"Autofocus on something {reach} away, then lock: no mark stands there."
    if not in_use.shows_distance:
        there = _stands_in(answer, panels)
        do = f"magnify {there} and focus there" if there else "magnify something that far"
        return f"{text}. Nothing on this lens shows it: {do}, or autofocus on it and lock."
    if window is not None and answer.inside_window:
        text += f"; anywhere {format.placed(window, system)} will do"
    on_ring = tolerance.on_ring
    if on_ring is not None and on_ring.lens.tab_at_infinity_hours is not None:
        text += f"; {on_ring.touch}"
    return f"{text}."


def _ends(answer: Answer) -> tuple[str, str]:
    must = sorted(answer.scene.must, key=lambda mark: mark.depth)
    return (must[0].name, must[-1].name) if must else ("", "")


def peaking_misleads(answer: Answer) -> bool:
    """Whether so much is sharp that focus peaking says little."""
    sharp = [verdict for verdict in answer.verdicts if verdict.word != "soft"]
    return len(sharp) > 1 and len(sharp) > PEAKING_SHARE * len(answer.verdicts)


def care(panels: Panels) -> tuple[str, ...]:
    """What to mind at this place."""
    return minded(key for key in CARE if getattr(panels, f"care_{key}"))
