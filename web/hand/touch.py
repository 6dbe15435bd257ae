"""Where the thumb finds the ring of what is in hand."""

from __future__ import annotations

from collections.abc import Iterable

from optics.lens.focus_window import Window
from web.bag.touch import BY_THE_SCALE, Felt, Wanted, labels, width_in_fingers
from web.hand.in_use import InUse

__all__ = ["BY_THE_SCALE", "touched_on", "touches", "width_in_fingers"]


def touched_on(in_use: InUse) -> tuple[Felt, ...]:
    """The settings of the lens in hand that a thumb finds without looking."""
    lens = in_use.lens
    return () if lens is None or in_use.hands is None else in_use.felt


def touches(
    in_use: InUse, settings: Iterable[tuple[float, Window | None]], system: str
) -> tuple[str, ...]:
    """Where a thumb finds each of some ring settings, in words; empty where nobody knows the ring.

    Beside each, mm, where the ring may stand for what it is for; None where nobody said.
    """
    wanted = [Wanted(focus, window) for focus, window in settings]
    lens = in_use.lens
    if lens is None or in_use.hands is None:
        return ("",) * len(wanted)
    return labels(lens, wanted, system, in_use.felt, in_use.hands)
