"""Why a mark is soft, in words: what speaks for each cause, what would have shown it in the field,
and what to do next time."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from optics.base import units
from optics.lens.aperture import THIRDS
from optics.light.dial import longest_named
from optics.scene.why_soft import Cause
from web.outings.found import length_of
from web.ui.templatetags import format


@dataclass(frozen=True, slots=True)
class Reason:
    """A cause of softness. ``pixels``, ``print_mm``: how much, on the sensor and in the print
    wanted; nan for what is no blur. ``says``: in words, what it is; ``evidence``; ``shown_by``;
    ``next_time``."""

    cause: Cause
    pixels: float
    print_mm: float
    says: str
    evidence: str
    shown_by: str
    next_time: str


@dataclass(frozen=True, slots=True)
class Said:
    """What is said of one mark: ``mark`` as it was found; ``print_mm``: its blur in the print;
    ``reasons``, the largest first; ``cannot``: what of it cannot be known."""

    mark: dict[str, Any]
    print_mm: float
    reasons: tuple[Reason, ...]
    cannot: tuple[str, ...]

    @property
    def first(self) -> Reason | None:
        """What made it soft most of all; None where it is not."""
        return self.reasons[0] if self.mark["word"] == "soft" and self.reasons else None


_NAMES = {
    Cause.NEAR: "Focused too near",
    Cause.FAR: "Focused too far",
    Cause.MISSED: "Out of focus, near or far",
    Cause.DEPTH: "Outside the depth of field",
    Cause.DIFFRACTION: "Diffraction",
    Cause.LENS: "The lens itself",
    Cause.SHIFT: "Focus shift",
    Cause.MOVING: "It moved",
    Cause.SHAKE: "The camera moved",
    Cause.DRIFT: "The stars moved on",
    Cause.HAZE: "Haze",
}
_SHOWN_BY = {
    Cause.NEAR: "The farthest mark magnified, before the light was right.",
    Cause.FAR: "The nearest mark magnified, before the light was right.",
    Cause.MISSED: "This mark magnified, at the taking aperture.",
    Cause.DEPTH: "The verdict of the plan at this aperture; or both ends magnified, closed down.",
    Cause.DIFFRACTION: "The same view a stop or two more open, magnified.",
    Cause.LENS: "The same thing in the middle of the frame, magnified.",
    Cause.SHIFT: "The mark magnified at the taking aperture, not wide open.",
    Cause.MOVING: "Two frames after each other under the loupe; what is still, what not.",
    Cause.SHAKE: "A second frame with the delay: if it is sharp, it was the camera.",
    Cause.DRIFT: "A test frame magnified in a corner: points, or little lines.",
    Cause.HAZE: "The ridge magnified: grey even where it is in focus.",
}
_NEXT_TIME = {
    Cause.NEAR: "Set the ring to {planned}, then magnify what is farthest. When unsure, rather too "
    "far than too near.",
    Cause.FAR: "Set the ring to {planned}, then magnify what is nearest.",
    Cause.MISSED: "Magnify it and turn the ring until it is sharpest; then lock.",
    Cause.DEPTH: "Close the aperture, step back, want fewer marks, or take two frames.",
    Cause.DIFFRACTION: "Open to about {open}: what is lost in depth, take in a second frame.",
    Cause.LENS: "Close a stop, or keep what matters out of the corners; test it on the bench.",
    Cause.SHIFT: "Focus at the taking aperture; or as the bench says, so much beside it.",
    Cause.MOVING: "Wait for the lull, or a shorter time: {time} or less.",
    Cause.SHAKE: "Release: {release}. Legs firm, strap in, wind behind your back; or {time}.",
    Cause.DRIFT: "Expose no longer than {time}, or let a mount follow.",
    Cause.HAZE: "Nothing of focus helps: clearer air, an earlier hour, or let it be soft.",
}


def said_of(found: dict[str, Any], mark: dict[str, Any], about: About) -> Said:
    """What is said of one mark of a frame."""
    reasons = tuple(
        _reason(found, mark, Cause[name], amount, about) for name, amount in mark["parts"]
    )
    return Said(mark, about.in_print(mark["pixels"]), reasons, tuple(_cannot(found, mark)))


@dataclass(frozen=True, slots=True)
class About:
    """What is known beside what was found: the units; the exposure, s; how it was released; and how
    wide the print wanted is, against the frame's pixels."""

    system: str
    seconds: float | None
    release: str
    print_width: float
    frame_width: int

    def in_print(self, pixels: float) -> float:
        """Pixels of the frame as mm of the print."""
        return units.significant(pixels * self.print_width / max(self.frame_width, 1), 2)


def _reason(
    found: dict[str, Any], mark: dict[str, Any], cause: Cause, amount: float, about: About
) -> Reason:
    is_blur = cause is not Cause.HAZE
    return Reason(
        cause,
        amount if is_blur else math.nan,
        about.in_print(amount) if is_blur else math.nan,
        _within(found, amount) if cause is Cause.DEPTH else _NAMES[cause],
        _EVIDENCE[cause](found, mark, about, amount),
        _SHOWN_BY[cause],
        _NEXT_TIME[cause].format(**_filled(found, mark, about)),
    )


def _within(found: dict[str, Any], amount: float) -> str:
    """What the blur of depth is called: a mark can be soft while that alone would hold."""
    allowed = found["circle_mm"] / found["pitch_mm"]
    return "Its distance from the focus" if amount <= allowed else _NAMES[Cause.DEPTH]


def _filled(found: dict[str, Any], mark: dict[str, Any], about: About) -> dict[str, str]:
    """What next time's words need: where to set the ring, how far to open, how short to expose."""
    allowed = found["circle_mm"] / found["pitch_mm"]
    open_to = found["f_number"] * min(
        1.0, 0.7 * allowed / max(_part(mark, Cause.DIFFRACTION), 1e-6)
    )
    moved = max(mark["length_px"], 1e-6)
    time = "a shorter time"
    if about.seconds:
        time = format.shutter(longest_named(about.seconds * min(1.0, 0.8 * allowed / moved)))
    return {
        "planned": _at(found["planned_mm"], about),
        "open": format.f_number(_named(open_to)),
        "time": time,
        "release": about.release,
    }


def _named(f_number: float) -> float:
    """The engraved one that is no more closed."""
    return max((name for name in THIRDS.names if name <= f_number), default=THIRDS.names[0])


def _part(mark: dict[str, Any], cause: Cause) -> float:
    return float(dict(mark["parts"]).get(cause.name, 0.0))


def _at(length: float | str, about: About) -> str:
    return format.coarse(length_of(length), about.system)


def _focus(found: dict[str, Any], mark: dict[str, Any], about: About, amount: float) -> str:
    fell = found["fell"]
    if fell is None:
        return "It is blurred alike all round, and nothing else in the frame tells which way."
    near, far = _at(fell["near_mm"], about), _at(fell["far_mm"], about)
    where = near if near == far else f"{near} to {far}"
    others = ", ".join(
        f"{one['letter']} {format.figures2(one['pixels'])} px" for one in found["marks"]
    )
    return (
        f"Focus fell at {where}, and was meant at {_at(found['planned_mm'], about)}: "
        f"so wide are the marks blurred, alike all round ({others})."
    )


def _depth(found: dict[str, Any], mark: dict[str, Any], about: About, amount: float) -> str:
    if mark["depth_mm"] is None:
        return "How far away it stands is not known."
    return (
        f"At {_at(mark['depth_mm'], about)} and {format.f_number(found['f_number'])}, with the "
        f"ring where it was, a point is {format.figures2(amount)} px wide."
    )


def _diffraction(found: dict[str, Any], mark: dict[str, Any], about: About, amount: float) -> str:
    return (
        f"{format.f_number(found['f_number'])} alone makes {format.figures2(amount)} px of a "
        "point, everywhere in the frame."
    )


def _lens(found: dict[str, Any], mark: dict[str, Any], about: About, amount: float) -> str:
    return f"Tested on the bench: {format.figures2(amount)} px at this aperture."


def _shift(found: dict[str, Any], mark: dict[str, Any], about: About, amount: float) -> str:
    return (
        f"Tested on the bench: closing to {format.f_number(found['f_number'])} moves this lens’s "
        f"focus, which makes {format.figures2(amount)} px of it here."
    )


def _way(mark: dict[str, Any]) -> str:
    """Which way something was drawn out, in words."""
    degrees = math.degrees(math.remainder(mark["direction"], math.pi))
    if abs(degrees) < 22.5:
        return "sideways"
    if abs(degrees) > 67.5:
        return "up and down"
    return "down to the right" if degrees > 0 else "up to the right"


def _moving(found: dict[str, Any], mark: dict[str, Any], about: About, amount: float) -> str:
    return (
        f"Drawn out by {format.figures2(mark['length_px'])} px, {_way(mark)}, and the other marks "
        "are not."
    )


def _shake(found: dict[str, Any], mark: dict[str, Any], about: About, amount: float) -> str:
    alike = [one["letter"] for one in found["marks"] if one["length_px"] > 0]
    return (
        f"Drawn out by {format.figures2(mark['length_px'])} px, {_way(mark)}; so are "
        f"{', '.join(alike)}, alike."
    )


def _drift(found: dict[str, Any], mark: dict[str, Any], about: About, amount: float) -> str:
    seconds = f" in {format.shutter(about.seconds)}" if about.seconds else ""
    return f"Trails of {format.figures2(mark['length_px'])} px{seconds}, all one way."


def _haze(found: dict[str, Any], mark: dict[str, Any], about: About, amount: float) -> str:
    return f"{format.share(amount)} of the contrast of the clearest mark is lost, farther away."


_EVIDENCE: dict[Cause, Callable[[dict[str, Any], dict[str, Any], About, float], str]] = {
    Cause.NEAR: _focus,
    Cause.FAR: _focus,
    Cause.MISSED: _focus,
    Cause.DEPTH: _depth,
    Cause.DIFFRACTION: _diffraction,
    Cause.LENS: _lens,
    Cause.SHIFT: _shift,
    Cause.MOVING: _moving,
    Cause.SHAKE: _shake,
    Cause.DRIFT: _drift,
    Cause.HAZE: _haze,
}


def _cannot(found: dict[str, Any], mark: dict[str, Any]) -> list[str]:
    """What of a mark cannot be known."""
    said = []
    if mark["left_px"]:
        said.append(
            f"{format.figures2(mark['left_px'])} px of its blur are explained by nothing that is "
            "known here."
        )
    if mark["word"] == "unknown":
        said.append("Its blur is too near the standard to say whether it holds.")
    names = [name for name, _ in mark["parts"]]
    if Cause.MISSED.name in names:
        said.append("Which way focus was missed: marks at other distances would tell.")
    if Cause.MOVING.name in names and len(found["marks"]) < 2:
        said.append("Whether it moved or the camera: another mark would tell.")
    if mark["word"] == "soft" and not {Cause.LENS.name, Cause.SHIFT.name} & set(names):
        said.append(
            "What the lens itself adds, or whether its focus shifts: no test of it tells that at "
            "this aperture."
        )
    return said
