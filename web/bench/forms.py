"""What is typed at the bench, checked: what files did not say, and readings by hand."""

from __future__ import annotations

import math
import re
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from web.bag.models import Lens
from web.ui.fields import LengthField, NumberField, read_length


class SaidForm(forms.Form):
    """How a frame was taken. Empty for what is known."""

    f_number = NumberField(
        low=0.5, high=256, required=False, sentence="Give an aperture from 0.5 to 256."
    )
    focal_length_mm = NumberField(
        low=1, high=3000, required=False, sentence="Give a focal length from 1 to 3000 mm."
    )
    sensor_mm = NumberField(
        low=3, high=100, required=False, sentence="Give the sensor's long side, 3 to 100 mm."
    )


class ReadingForm(forms.Form):
    """A reading by hand. ``lens``: under test; ``system``: the unit of a bare length."""

    def __init__(self, lens: Lens, system: str, data: Any = None) -> None:
        super().__init__(data)
        self.lens = lens
        for one in self.fields.values():
            if isinstance(one, LengthField):
                one.system = system

    @property
    def values(self) -> dict[str, Any]:
        """What was read; infinity a number."""
        return dict(self.cleaned_data)


_LENGTH = "Give a focal length from 1 to 3000 mm."
_NEAREST, _FARTHEST = 20.0, 1e8
_ANGLE = re.compile(
    r"(?P<degrees>\d{1,3}(?:[.,]\d+)?)\s*(?:°|deg\w*|degrees?)?\s*(?P<side>past|beyond|short|before)"
)
_AT = {"at the mark", "at it", "on the mark", "the mark", "mark", "at the stop", "stop", "0", "0°"}
_SHORT = {"short", "before"}
_MOST_DEGREES = 180.0
_STOOD = (
    "Write where the ring stood: 2° past, 1.5° short, at the mark, or the distance it says, such "
    "as 25 m."
)


class StoodField(forms.Field):
    """Where a ring stood: degrees past infinity (a float; below 0 short of it), or the distance it
    says, as {"says": mm}."""

    def __init__(self) -> None:
        super().__init__(error_messages={"required": _STOOD})
        self.system = "m"

    def to_python(self, value: Any) -> float | dict[str, float]:
        text = " ".join(str(value or "").lower().split())
        if not text:
            raise ValidationError(_STOOD)
        if text in _AT:
            return 0.0
        if (angle := _ANGLE.fullmatch(text)) is not None:
            degrees = float(angle["degrees"].replace(",", "."))
            if degrees > _MOST_DEGREES:
                raise ValidationError(_STOOD)
            return -degrees if angle["side"] in _SHORT else degrees
        try:
            says = read_length(text, self.system)
        except ValidationError as error:
            raise ValidationError(_STOOD) from error
        if math.isinf(says):
            return 0.0
        if not _NEAREST <= says <= _FARTHEST:
            raise ValidationError(_STOOD)
        return {"says": says}


class LengthOfLensForm(ReadingForm):
    """A reading at a focal length of the lens: asked for only of a zoom."""

    focal_length_mm = NumberField(low=1, high=3000, required=False, sentence=_LENGTH)

    def __init__(self, lens: Lens, system: str, data: Any = None) -> None:
        super().__init__(lens, system, data)
        if not lens.is_zoom:
            del self.fields["focal_length_mm"]

    def clean_focal_length_mm(self) -> float:
        """Within its range."""
        length = self.cleaned_data.get("focal_length_mm")
        if length is None or not self.lens.shortest_mm <= length <= self.lens.longest_mm:
            ends = f"{self.lens.shortest_mm:g} to {self.lens.longest_mm:g} mm"
            raise ValidationError(f"Give a focal length of this lens: {ends}.")
        return float(length)


class InfinityForm(LengthOfLensForm):
    """Where the ring stood when stars or far lights were sharp."""

    stood = StoodField()
    against = forms.ChoiceField(
        choices=[("mark", "the infinity mark"), ("stop", "the stop at the end")], required=False
    )

    def __init__(self, lens: Lens, system: str, data: Any = None) -> None:
        super().__init__(lens, system, data)
        stood = self.fields["stood"]
        assert isinstance(stood, StoodField)
        stood.system = system

    def clean(self) -> dict[str, Any]:
        """Against the stop only degrees short of it can be read."""
        cleaned = super().clean() or self.cleaned_data
        stood, against = cleaned.get("stood"), cleaned.get("against") or "mark"
        past = isinstance(stood, dict) or (stood or 0.0) > 0
        if against == "stop" and past:
            self.add_error("stood", "Against the stop, write how many degrees short: 3° short.")
        return cleaned

    @property
    def values(self) -> dict[str, Any]:
        """``turned_deg`` or ``says_mm``, ``against``, and the focal length of a zoom."""
        read = dict(self.cleaned_data)
        stood = read.pop("stood")
        read["against"] = read.get("against") or "mark"
        if isinstance(stood, dict):
            return {**read, "says_mm": stood["says"]}
        return {**read, "turned_deg": stood}


class ScaleForm(ReadingForm):
    """What the ring said, or how far it was turned, with a thing at a taped distance sharp."""

    distance_mm = LengthField(
        low=_NEAREST, high=math.inf, sentence="Give the taped distance, from the sensor mark."
    )
    says_mm = LengthField(
        low=_NEAREST, high=math.inf, required=False,
        sentence="Give the distance that the ring says, such as 2.1 m.",
    )  # fmt: skip
    turned_deg = NumberField(
        low=-360, high=720, required=False,
        sentence="Give how far the ring was turned from its infinity mark, −360 to 720 degrees.",
    )  # fmt: skip

    def clean(self) -> dict[str, Any]:
        """One of both; and where the lens can focus."""
        cleaned = super().clean() or self.cleaned_data
        if not self.errors and cleaned.get("says_mm") is None and cleaned.get("turned_deg") is None:
            self.add_error("says_mm", "Say what the ring says, or by how much it is turned.")
        nearest = 4.0 * self.lens.longest_mm
        for name in ("distance_mm", "says_mm"):
            value = cleaned.get(name)
            if value is not None and value < nearest:
                self.add_error(name, "No lens focuses that near: measure from the sensor mark.")
        return cleaned


class CircleForm(LengthOfLensForm):
    """Which limits a bar on the screen, or the engraved marks, gave for an aperture and a focus."""

    f_number = NumberField(low=0.5, high=256, sentence="Give an aperture from 0.5 to 256.")
    focus_mm = LengthField(
        low=_NEAREST, high=_FARTHEST, sentence="Give the distance it was focused on."
    )
    near_mm = LengthField(low=_NEAREST, high=_FARTHEST, sentence="Give the near limit it shows.")
    far_mm = LengthField(low=_NEAREST, high=math.inf, sentence="Give the far limit it shows, or ∞.")

    def clean(self) -> dict[str, Any]:
        """In order, where the lens can focus, and not infinity alone."""
        cleaned = super().clean() or self.cleaned_data
        near, focus, far = (cleaned.get(name) for name in ("near_mm", "focus_mm", "far_mm"))
        length = cleaned.get("focal_length_mm") or self.lens.shortest_mm
        if near is None or focus is None or far is None:
            return cleaned
        if near < 4.0 * length:
            self.add_error("near_mm", "No lens focuses that near: measure from the sensor mark.")
        elif not near < focus:
            self.add_error("near_mm", "The near limit should be nearer than the focus.")
        elif not focus < far:
            self.add_error("far_mm", "The far limit should be farther than the focus.")
        return cleaned
