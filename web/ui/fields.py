"""Form fields that planners share."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from optics.base import amounts, formats, units
from optics.base.errors import NotUnderstood
from web.ui.text import cleaned


class NumberField(forms.Field):
    """A bounded number, typed with a point or a comma, with one sentence for all that is wrong.

    ``sentence`` says what is wanted, in the words shown beside the field; ``unit`` is what stands
    beside it, and may be typed too.
    """

    def __init__(
        self, *, low: float, high: float, sentence: str, unit: str = "mm", **kwargs: Any
    ) -> None:
        self.low, self.high, self.sentence, self.unit = low, high, sentence, unit
        super().__init__(error_messages={"required": sentence}, **kwargs)

    def to_python(self, value: Any) -> float | None:
        text = str(value or "").strip().lower().removeprefix("f/").removesuffix(self.unit).strip()
        if not text:
            return None
        try:
            number = float(text.replace(",", "."))
        except ValueError:
            raise ValidationError(f"“{shortened(text)}” is not a number. {self.sentence}") from None
        if not self.low <= number <= self.high:  # nan fails too
            raise ValidationError(self.sentence)
        return number


class DegreesField(NumberField):
    """A bounded tilt or slope, degrees: ``15``, ``1 in 10``, ``10 %``."""

    def to_python(self, value: Any) -> float | None:
        text = str(value or "").strip()
        try:
            degrees = amounts.parse_degrees(text) if text else None
        except NotUnderstood:
            said = f"“{shortened(text)}” is not understood. {self.sentence}"
            raise ValidationError(said) from None
        if degrees is not None and not self.low <= degrees <= self.high:
            raise ValidationError(self.sentence)
        return degrees


class WholeNumberField(NumberField):
    """A bounded whole number."""

    def to_python(self, value: Any) -> int | None:
        number = super().to_python(value)
        if number is None:
            return None
        if number != int(number):
            raise ValidationError(self.sentence)
        return int(number)


def read_length(text: str, system: str, measures: units.Measures = units.USUAL) -> float:
    """The length that ``text`` means, mm. Raises ValidationError in the words of the core."""
    try:
        return units.parse(text, system, measures)
    except NotUnderstood as error:
        raise ValidationError(error.sentence) from error


def shortened(text: str, most: int = 24) -> str:
    """Text that can be quoted back in a message."""
    return text if len(text) <= most else text[: most - 1] + "…"


class LengthField(forms.Field):
    """A bounded length, typed in any unit; mm inside. ``sentence`` says what is wanted.

    ``system``: the unit of a bare number; ``units_of`` sets it for one reading.
    """

    def __init__(
        self, *, low: float, high: float, sentence: str, system: str = units.METRES, **kwargs: Any
    ) -> None:
        self.low, self.high, self.sentence, self.system = low, high, sentence, system
        super().__init__(error_messages={"required": sentence}, **kwargs)

    def to_python(self, value: Any) -> float | None:
        text = str(value or "").strip()
        if not text:
            return None
        length = read_length(text, self.system)
        if not self.low <= length <= self.high:
            raise ValidationError(self.sentence)
        return length


class WordsField(forms.CharField):
    """A few words of any script, on one line."""

    def to_python(self, value: Any) -> str:
        text = " ".join(str(super().to_python(value) or "").split())
        if text != cleaned(text):
            raise ValidationError("There is a character in it that cannot be shown.")
        return text


class FormatField(forms.Field):
    """A format by its key, or of one's own as ``60x45``; a Format inside, None for none said."""

    def to_python(self, value: Any) -> formats.Format | None:
        text = str(value or "").strip()
        if not text and not self.required:
            return None
        found = formats.by_key(text)
        if found is None:
            raise ValidationError("That format is not known. Choose one from the list.")
        return found
