"""What of a text can be kept, shown and printed: any script, and nothing that hides or turns it."""

from __future__ import annotations

import unicodedata

_HIDDEN = frozenset(("Cc", "Cs", "Co", "Cn"))
_TURNING = frozenset("\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069\ufeff")
"""Marks that turn the direction of what follows them: what is read would not be what is there."""


def can_be_shown(character: str) -> bool:
    """Whether one has a place on a page. Joiners, which some scripts need, have."""
    return unicodedata.category(character) not in _HIDDEN and character not in _TURNING


def cleaned(text: str, *, lines: bool = False) -> str:
    """A text without what cannot be shown. ``lines``: ends of lines stay, each as \\n."""
    if lines:
        text = text.replace("\r\n", "\n").replace("\r", "\n")
    return "".join(c for c in text if can_be_shown(c) or (lines and c == "\n"))
