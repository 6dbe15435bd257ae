"""What is no password, beside what Django's own validators refuse."""

from __future__ import annotations

from typing import Any

from django.core.exceptions import ValidationError

_OURS = (
    "aimstill", "hyperfocal", "infinity", "depthoffield", "focusring", "aperture", "bokeh",
    "circleofconfusion", "milkyway", "photograph",
)  # fmt: skip
_FEWEST = 5
"""Different characters."""
_ADDED = 4
"""So many characters beside one of those words, and it is one that is tried first."""


class NoneOfOurs:
    """Refuses the names of the product and its trade, and what only repeats itself."""

    def validate(self, password: str, user: Any = None) -> None:
        """Raises ValidationError."""
        plain = "".join(c for c in password.lower() if c.isalnum())
        for word in _OURS:
            if word in plain and len(plain) - len(word) <= _ADDED:
                raise ValidationError(
                    "That is among the first that would be tried here.", code="password_of_ours"
                )
        if len(set(password)) < _FEWEST or _repeats(password):
            raise ValidationError("That only repeats itself.", code="password_repeats")

    def get_help_text(self) -> str:
        """For forms."""
        return "It is not a word of this trade, and does not repeat itself."


def _repeats(text: str) -> bool:
    """Whether it is one piece, twice or more."""
    return bool(text) and text in (text + text)[1:-1]
