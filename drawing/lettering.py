"""How wide a label is, so that labels can be kept apart without a browser.

Advance widths in thousandths of the type size, read from the fonts that ship with the product
(the text face at weight 400 with tabular figures, the symbols face for ∞ ′ ″).
"""

from __future__ import annotations

_FIGURE = 632
_ADVANCE = {
    **dict.fromkeys("0123456789", _FIGURE),
    ".": 210, ",": 210, " ": 280, "/": 387, "∞": 740, "′": 242, "″": 419, "½": 820,
    "m": 845, "f": 314, "t": 326, "i": 252, "n": 550, "c": 485,
}  # fmt: skip
_WIDEST_LETTER = 882
"""Used for any character not measured: labels may stand farther apart, never closer."""


def text_width(text: str, size: float) -> float:
    """The advance of ``text`` at a type size, in drawing units; never too small."""
    return sum(_ADVANCE.get(character, _WIDEST_LETTER) for character in text) * size / 1000.0
