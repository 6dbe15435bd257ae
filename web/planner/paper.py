"""What the cards of all planners begin with, and the shapes they share."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from drawing import bands
from web.hand.paper import gear, sharp
from web.kept.printed import Head, Opened
from web.planner.reading import Reading

LINE = 358.0
"""How wide a card's axis is, in drawing units."""


def head(opened: Opened[Any], nameless: str, sharp_words: str = "") -> Head:
    """The head of a card. ``nameless``: what it is called without a name; ``sharp_words``: what is
    called sharp, where it is not the standard in hand."""
    reading: Reading = opened.reading
    hand = reading.hand
    in_use = hand.in_use
    words = sharp_words or sharp(in_use.standard, hand.kit.coc, hand.system)
    body = None if in_use.body is None else in_use.body.name
    length = hand.kit.focal_length
    things = gear(reading.texts["lens"] or None, body, length, tested=hand.tested)
    return Head(opened.name or nameless, things, words, hand.system)


def line(rows: Sequence[bands.Stretch], system: str) -> bands.BandsPicture | None:
    """What is sharp, and where the ring stands, on the one axis; None for nothing sharp."""
    shown = [row for row in rows if row.held is not None]
    return bands.draw(shown, LINE, system) if shown else None
