"""What is typed about a lens, checked."""

from __future__ import annotations

import math
import re
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from optics.base import units
from optics.base.errors import OpticsError
from optics.lens import standards
from optics.lens.conjugates import NEAREST_FOCUS_IN_FOCAL_LENGTHS
from optics.lens.ring import Ring
from web.bag.layout import CHOICE, LINES, TICK, Row, Section, ThingForm, choice
from web.bag.models import Closing, Lens, Turn
from web.ui.fields import LengthField, NumberField, read_length, shortened

_ANGLE = re.compile(
    r"^\s*(?P<distance>.+?)\s*(?:[:;=@→\t]|\s{2,}|\s(?=\S+$))\s*(?P<angle>-?[\d.,]+)\s*°?\s*$"
)


def read_marks(text: str, system: str) -> list[list[float | None]]:
    """Engraved distances and angles, a pair a line: ``0.7 m: 108``. Raises ValidationError."""
    pairs: list[list[float | None]] = []
    for line in text.splitlines():
        if not line.strip():
            continue
        match = _ANGLE.match(line)
        if match is None:
            raise ValidationError(
                f"“{shortened(line.strip())}” is not understood. Write a distance, a colon and "
                "degrees, such as 0.7 m: 108."
            )
        distance = read_length(match["distance"], system)
        try:
            degrees = float(match["angle"].replace(",", "."))
        except ValueError:
            raise ValidationError(f"“{shortened(match['angle'])}” is not an angle.") from None
        pairs.append([None if math.isinf(distance) else distance, degrees])
    return pairs


class LensForm(ThingForm):
    """A lens: a name, its focal length and its widest aperture; the rest folded."""

    noun = "lens"
    shortest_mm = NumberField(low=1, high=3000, sentence="Give a focal length from 1 to 3000 mm.")
    longest_mm = NumberField(
        low=1, high=3000, required=False, sentence="Give a focal length from 1 to 3000 mm, or none."
    )
    widest = NumberField(low=0.5, high=128, sentence="Give an aperture from 0.5 to 128.")
    widest_at_long_end = NumberField(
        low=0.5, high=128, required=False, sentence="Give an aperture from 0.5 to 128, or none."
    )
    smallest = NumberField(
        low=0.5, high=256, required=False, sentence="Give an aperture from 0.5 to 256, or none."
    )
    closest_mm = LengthField(
        low=1, high=1e5, required=False, sentence="Give a distance up to 100 m, or none."
    )
    has_scale = forms.BooleanField(required=False, initial=True)
    ring_kind = choice(Lens, "ring_kind")
    to_infinity = forms.TypedChoiceField(
        choices=Turn.choices,
        coerce=int,
        error_messages={"invalid_choice": "Choose one from the list."},
    )
    throw_deg = NumberField(
        low=1, high=2000, required=False, sentence="Give degrees from 1 to 2000, or none."
    )
    tab_at_infinity_hours = NumberField(
        low=0, high=12, required=False, sentence="Give hours on a clock, 0 to 12, or none."
    )
    marks = forms.CharField(required=False, max_length=2000)
    depth_marks = forms.CharField(required=False, max_length=200)
    depth_marks_circle_mm = NumberField(
        low=0.0005, high=1, required=False, sentence="Give a circle from 0.0005 to 1 mm, or none."
    )
    read_f_number = NumberField(
        low=0.5, high=256, required=False, sentence="Give the aperture of the reading."
    )
    read_focus = LengthField(
        low=1, high=math.inf, required=False, sentence="Give the distance the ring was at."
    )
    read_near = LengthField(
        low=1, high=math.inf, required=False, sentence="Give the near limit that was read."
    )
    read_far = LengthField(
        low=1, high=math.inf, required=False, sentence="Give the far limit that was read."
    )
    as_it_closes = forms.ChoiceField(
        choices=Closing.choices,
        required=False,
        error_messages={"invalid_choice": "Choose one from the list."},
    )
    pupil_ratio = NumberField(
        low=0.1, high=10, required=False, sentence="Give a ratio from 0.1 to 10, or none."
    )
    pupil_to_sensor_mm = NumberField(
        low=1, high=1000, required=False, sentence="Give millimetres from 1 to 1000, or none."
    )
    hiatus_mm = NumberField(
        low=-200, high=500, required=False, sentence="Give millimetres from −200 to 500, or none."
    )
    front_mm = NumberField(
        low=5, high=2000, required=False, sentence="Give millimetres from 5 to 2000, or none."
    )
    ring_off_mm = NumberField(
        low=-2, high=2, required=False, sentence="Give millimetres from −2 to 2, or none."
    )

    class Meta:
        model = Lens
        fields = [
            "name", "shortest_mm", "longest_mm", "widest", "widest_at_long_end", "smallest",
            "closest_mm", "has_scale", "ring_kind", "to_infinity", "throw_deg",
            "tab_at_infinity_hours", "as_it_closes", "marks", "depth_marks",
            "depth_marks_circle_mm", "pupil_ratio", "hiatus_mm", "front_mm",
            "ring_off_mm",
        ]  # fmt: skip

    sections = (
        Section(
            "",
            (
                Row("name", "Name", placeholder="28 mm f/2.8 with tab"),
                Row("shortest_mm", "Focal length", unit="mm"),
                Row("widest", "Widest aperture", prefix="f/"),
            ),
        ),
        Section(
            "A zoom, and the rest of its apertures",
            (
                Row("longest_mm", "To focal length", unit="mm", placeholder="no zoom"),
                Row("widest_at_long_end", "Widest there", prefix="f/", placeholder="the same"),
                Row("smallest", "Smallest aperture", prefix="f/", placeholder="22, assumed"),
            ),
            folded=True,
        ),
        Section(
            "The focus ring",
            (
                Row("closest_mm", "Closest focus", placeholder="ten focal lengths, assumed",
                    help="From the sensor mark on the body."),
                Row("has_scale", "It has a distance scale", kind=TICK),
                Row("ring_kind", "The ring", kind=CHOICE),
                Row("to_infinity", "To infinity it turns", kind=CHOICE,
                    help="As seen from behind the camera."),
                Row("as_it_closes", "As it closes, its focus", kind=CHOICE,
                    help="Focus it wide open and at f/4 on one thing: are both as sharp?"),
                Row("throw_deg", "Infinity to closest", unit="°", placeholder="90, assumed"),
                Row("tab_at_infinity_hours", "Tab, at infinity, stands at", unit="o’clock",
                    placeholder="no tab"),
                Row("marks", "Measured marks", kind=LINES,
                    placeholder="0.7 m: 108\n1 m: 74\ninf: 0",
                    help="A distance and its angle a line, if you have measured them."),
            ),
            folded=True,
        ),
        Section(
            "Depth-of-field marks",
            (
                Row("depth_marks", "Engraved for f/", placeholder="8 11 16 22"),
                Row("depth_marks_circle_mm", "Made for a circle of", unit="mm",
                    placeholder="not known"),
                Row("read_f_number", "Or one reading: at", prefix="f/"),
                Row("read_focus", "with the ring at"),
                Row("read_near", "sharp from"),
                Row("read_far", "to"),
            ),
            folded=True,
            help="If you do not know that circle: one reading of the scale, or of the camera’s "
            "bar on the screen, gives it.",
        ),
        Section(
            "Close work",
            (
                Row("pupil_ratio", "Pupil ratio", placeholder="1, assumed",
                    help="Exit ÷ entrance pupil: how wide the aperture looks from behind ÷ from "
                    "the front."),
                Row("pupil_to_sensor_mm", "Or from entrance pupil to sensor", unit="mm",
                    placeholder="with the ring at infinity"),
                Row("hiatus_mm", "Between the principal planes", unit="mm",
                    placeholder="0, assumed"),
                Row("front_mm", "Sensor mark to the lens’s front", unit="mm",
                    placeholder="about 100, assumed"),
                Row("ring_off_mm", "Stands out beyond its ring’s reading", unit="mm",
                    placeholder="0", help="As a trial frame showed it."),
            ),
            folded=True,
            help="These matter nearer than about ten focal lengths, and hardly beyond.",
        ),
    )  # fmt: skip

    def text_of(self, name: str) -> str:
        if self.is_bound:
            return super().text_of(name)
        if name == "marks":
            return "\n".join(
                f"{'inf' if mm is None else units.write(mm, self.owner.units, 4)}: {degrees:g}"
                for mm, degrees in self.instance.marks
            )
        if name == "depth_marks":
            return " ".join(f"{number:g}" for number in self.instance.depth_marks)
        if name == "longest_mm" and not (self.instance.pk and self.instance.is_zoom):
            return ""
        return super().text_of(name)

    def clean_as_it_closes(self) -> str:
        return self.cleaned_data["as_it_closes"] or Closing.UNKNOWN

    def clean_marks(self) -> list[list[float | None]]:
        pairs = read_marks(self.cleaned_data["marks"], self.owner.units)
        if not pairs:
            return []
        try:
            Ring(
                (math.inf if mm is None else mm, math.radians(degrees or 0))
                for mm, degrees in pairs
            )
        except OpticsError as error:
            raise ValidationError(error.sentence) from error
        return pairs

    def clean_depth_marks(self) -> list[float]:
        numbers: list[float] = []
        for word in re.split(r"[\s,;]+", self.cleaned_data["depth_marks"].strip()):
            text = word.lower().removeprefix("f/")
            try:
                number = float(text) if text else None
            except ValueError:
                number = math.nan
            if number is not None and not 0.5 <= number <= 256:
                raise ValidationError(f"“{shortened(word)}” is not an aperture. Write 8 11 16 22.")
            if number is not None:
                numbers.append(number)
        return sorted(set(numbers))

    def clean(self) -> dict[str, Any]:
        cleaned: dict[str, Any] = super().clean() or {}
        shortest, longest = cleaned.get("shortest_mm"), cleaned.get("longest_mm")
        if shortest and longest and longest < shortest:
            self.add_error("longest_mm", "The long end is shorter than the short end.")
        if shortest and "longest_mm" not in self.errors:
            cleaned["longest_mm"] = longest or shortest
        widest = cleaned.get("widest")
        for name, sentence in (
            ("smallest", "The smallest aperture is wider than the widest."),
            ("widest_at_long_end", "At the long end no zoom is wider than at the short end."),
        ):
            if widest and cleaned.get(name) and cleaned[name] < widest:
                self.add_error(name, sentence)
        if shortest and cleaned.get("hiatus_mm") is None and cleaned.get("pupil_to_sensor_mm"):
            # The pupil stands f(2 − 1/p) + hiatus from the sensor: optics.lens.cone, equation (3).
            behind = shortest * (2.0 - 1.0 / (cleaned.get("pupil_ratio") or 1.0))
            cleaned["hiatus_mm"] = units.significant(cleaned["pupil_to_sensor_mm"] - behind, 4)
        hiatus = cleaned.get("hiatus_mm") or 0.0
        closest = cleaned.get("closest_mm")
        if shortest and closest:
            least = NEAREST_FOCUS_IN_FOCAL_LENGTHS * shortest + min(hiatus, 0.0)
            if closest < least:
                nearest = units.write(least, self.owner.units, 3)
                self.add_error(
                    "closest_mm",
                    f"No lens of {shortest:g} mm focuses nearer than {nearest}, four focal "
                    "lengths.",
                )
        self._circle_from_reading(cleaned)
        return cleaned

    def _circle_from_reading(self, cleaned: dict[str, Any]) -> None:
        names = ("read_f_number", "read_focus", "read_near", "read_far")
        reading = [cleaned.get(name) for name in names]
        if not any(reading) or cleaned.get("depth_marks_circle_mm"):
            return
        missing = [name for name, value in zip(names, reading, strict=True) if value is None]
        for name in missing:
            if name not in self.errors:
                self.add_error(name, "One reading needs all four of these.")
        shortest = cleaned.get("shortest_mm")
        if missing or not shortest:
            return
        f_number, focus, near, far = (float(value) for value in reading if value is not None)
        try:
            circle = standards.from_limits(shortest, f_number, focus, near, far)
        except OpticsError as error:
            self.add_error("read_focus", error.sentence)
            return
        cleaned["depth_marks_circle_mm"] = units.significant(circle, 3)

    def save(self, commit: bool = True) -> Any:
        for name in ("depth_marks_circle_mm", "hiatus_mm"):  # may have been worked out
            setattr(self.instance, name, self.cleaned_data[name])
        return super().save(commit)
