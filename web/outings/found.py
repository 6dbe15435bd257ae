"""What is said of a frame that belongs to a plan: where focus fell, and why things are soft."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from imaging.trails import POINT_WIDTH
from optics import Setup
from optics.base import units
from optics.base.errors import OpticsError
from optics.lens.conjugates import magnification
from optics.lens.meant import Meant
from optics.scene.fell import Fell, Shown, fell_on
from optics.scene.why_soft import Part, Why, why_soft
from web.outings.models import Frame
from web.outings.taken_out import TakenOut

INFINITE = "infinity"
_LEAST_ERROR = 0.05
"""Pixels: no blur is told better."""
_DISC_OF_WIDTH = 1.0 / 0.66
"""A disc is that many times the width at half height of a star behind it."""
_STAR_ERROR = 0.1
_LEAST_LENGTH = 1.0
"""Pixels: a shorter movement is none that is told from edges of pixels."""
_STAR_PIXELS = 0.1
"""What the width of a star is right within: as a share of it, and pixels at the least."""


def placed(frame: Frame, meant: Sequence[Meant]) -> dict[str, tuple[float, float]]:
    """Where what was meant stands in a frame: as was said of it, else as the plan has it. Shares
    from the left and from above."""
    found = {}
    for one in meant:
        said = frame.marks.get(one.letter)
        if isinstance(said, list) and len(said) == 2:
            found[one.letter] = (float(said[0]), float(said[1]))
        elif one.at is not None:
            found[one.letter] = (one.at[0], 1.0 - one.at[1])
    return found


def found_of(frame: Frame, one: TakenOut) -> dict[str, Any]:
    """What is said of a frame, as plain data: ``cannot``, why nothing is; else all there is."""
    seen = None if frame.look is None else frame.look.whole
    if seen is None or one.answer is None:
        return {"cannot": "Nothing was measured in it."}
    pitch = pitch_of(frame, one)
    setup = setup_of(frame, one)
    shot = _shot(frame, one)
    places = placed(frame, one.meant)
    shown: list[tuple[Meant, Shown]] = []
    lacks = []
    for meant in one.meant:
        what = _star(meant, seen, pitch) if meant.star else _thing(meant, places, seen, pitch)
        if isinstance(what, Shown):
            shown.append((meant, what))
        else:
            lacks.append({"letter": meant.letter, "name": meant.name, "why": what})
    said: dict[str, Any] = {
        "f_number": setup.f_number, "focal_length_mm": setup.focal_length, "pitch_mm": pitch,
        "circle_mm": setup.coc, "planned_mm": _plain(shot), "lens": one.item.lens,
        "place": one.reading.texts.get("place", ""), "way": one.reading.texts.get("focus_by", ""),
        "kind": one.kind.key, "marks": [], "lacks": lacks, "fell": None,
    }  # fmt: skip
    try:
        told = why_soft(setup, shot, [what for _, what in shown]) if shown else ()
        said["marks"] = [
            _mark(meant, what, _by_own_circle(setup, shot, meant, why, shown), pitch)
            for (meant, what), why in zip(shown, told, strict=True)
        ]
        fell = told[0].fell if told else None
        if fell is not None:
            said["fell"] = _fell(setup, shot, fell)
    except OpticsError as error:
        said["cannot"] = error.sentence
    said["held"] = _held([mark["word"] for mark in said["marks"]], lacks)
    return said


def _held(words: Sequence[str], lacks: Sequence[object]) -> bool | None:
    """Whether a frame held: not if anything in it is soft; only if all that must be sharp was
    looked at, and can be told. None for what cannot be said."""
    if "soft" in words:
        return False
    return None if lacks or not words or "unknown" in words else True


def _by_own_circle(
    setup: Setup, shot: float, meant: Meant, why: Why, shown: list[tuple[Meant, Shown]]
) -> Why:
    """What is said of something that is held to a standard of its own."""
    if meant.circle != meant.circle or meant.circle == setup.coc:
        return why
    own = why_soft(replace(setup, coc=meant.circle), shot, [what for _, what in shown])
    return next(one for one in own if one.letter == meant.letter)


def pitch_of(frame: Frame, one: TakenOut) -> float:
    """mm between the frame's pixels: as its file says, else by the format in hand."""
    if frame.pitch_mm:
        return float(frame.pitch_mm)
    held = one.reading.hand.frame
    return float(max(held.width, held.height)) / max(frame.width, frame.height, 1)


def setup_of(frame: Frame, one: TakenOut) -> Setup:
    """The lens as it was when the frame was taken, and what is called sharp."""
    planned: Setup = one.reading.setup
    if frame.f_number is None:
        return planned
    at: Setup = one.reading.hand.kit.at(frame.f_number)
    return at


def _shot(frame: Frame, one: TakenOut) -> float:
    """Where the ring was meant to be, mm: of several frames, that which the file's own distance is
    nearest to."""
    focus = [shot.focus for shot in one.shots]
    if not focus:
        return math.inf
    if len(focus) == 1 or frame.focus_mm is None:
        return focus[0]
    return min(focus, key=lambda at: abs(1.0 / at - 1.0 / float(frame.focus_mm or 1.0)))


def _star(meant: Meant, seen: dict[str, Any], pitch: float) -> Shown | str:
    trails = seen.get("trails")
    if not trails:
        return "No stars stand clear in it."
    beyond = math.sqrt(max(trails["width"] ** 2 - POINT_WIDTH**2, 0.0))
    disc = beyond * _DISC_OF_WIDTH * pitch
    error = max(_STAR_ERROR * disc, _STAR_PIXELS * pitch)
    length, length_error = 0.0, _LEAST_ERROR
    if trails["moved"]:
        length, length_error = trails["length"], max(trails["error"], _LEAST_ERROR)
    return Shown(
        meant.letter, math.inf, disc, error, length * pitch, length_error * pitch,
        trails["direction"], star=True,
    )  # fmt: skip


def _thing(
    meant: Meant, places: dict[str, tuple[float, float]], seen: dict[str, Any], pitch: float
) -> Shown | str:
    place = places.get(meant.letter)
    if place is None:
        return "Point at it in the picture."
    width, height = seen["size"]
    near = sorted(
        seen["windows"],
        key=lambda w: ((w[0] - place[0]) * width) ** 2 + ((w[1] - place[1]) * height) ** 2,
    )
    if not near or len(near[0]) < 9:
        return "There are no edges there to measure: point at something with detail."
    _, _, contrast, disc, disc_error, length, length_error, direction, moved = near[0]
    if not moved or length < _LEAST_LENGTH:
        length = 0.0
    return Shown(
        meant.letter, meant.depth, disc * pitch, max(disc_error, _LEAST_ERROR) * pitch,
        length * pitch, max(length_error, _LEAST_ERROR) * pitch, direction, contrast,
    )  # fmt: skip


def _mark(meant: Meant, what: Shown, why: Why, pitch: float) -> dict[str, Any]:
    """What is said of one thing: blur in pixels, and in circles, rounded before it is judged."""
    circles = units.significant(why.total / why.wanted, 2)
    soft = why.soft and (circles > 1.0 or _hazy(why))
    word = "soft" if soft else "unknown" if not why.known else "holds" if circles <= 1.0 else "just"
    return {
        "letter": meant.letter, "name": meant.name, "depth_mm": _plain(meant.depth),
        "circles": circles, "pixels": units.significant(why.total / pitch, 2), "word": word,
        "error_px": units.significant(what.error / pitch, 1),
        "parts": [[part.cause.name, units.significant(_amount(part, pitch), 2)]
                  for part in why.parts],
        "length_px": units.significant(what.length / pitch, 2), "direction": what.direction,
        "contrast": units.significant(what.contrast, 2),
        "left_px": units.significant(why.left / pitch, 2) if why.left else 0.0,
    }  # fmt: skip


def _hazy(why: Why) -> bool:
    return any(part.cause.name == "HAZE" for part in why.parts)


def _amount(part: Part, pitch: float) -> float:
    return part.blur if part.cause.name == "HAZE" else part.blur / pitch


def _fell(setup: Setup, planned: float, fell: Fell) -> dict[str, Any]:
    """Where focus fell: from where to where, and whether that is where it was meant."""
    low, high = (
        Fell(ring, fell.error, fell.sure)
        for ring in (fell.ring - fell.error, fell.ring + fell.error)
    )
    meant = float(magnification(setup, planned))
    off = abs(fell.ring - meant) / max(fell.error, 1e-12)
    return {
        "at_mm": _plain(fell_on(setup, fell)), "near_mm": _plain(fell_on(setup, high)),
        "far_mm": _plain(fell_on(setup, low)), "sure": fell.sure,
        "missed": "" if off <= 2.0 else "near" if fell.ring > meant else "far",
        "off_um": units.significant((fell.ring - meant) * setup.focal_length * 1000.0, 2),
    }  # fmt: skip


def _plain(length: float) -> float | str | None:
    if length != length:
        return None
    return INFINITE if math.isinf(length) else round(length, 3)


def length_of(value: float | str | None) -> float:
    """A length as it is kept, as a number; nan for None."""
    if value is None:
        return math.nan
    return math.inf if value == INFINITE else float(value)
