"""What is typed about a lens, checked."""

from __future__ import annotations

import json
import math
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from optics.base import units
from optics.base.errors import OpticsError
from optics.lens import standards
from optics.lens.conjugates import NEAREST_FOCUS_IN_FOCAL_LENGTHS
from optics.lens.ring import Ring
from web.bag.findings import NotAFinding, read_text
from web.bag.layout import ThingForm, choice
from web.bag.lens_layout import SECTIONS
from web.bag.models import Closing, Draws, Lens, Turn
from web.bag.readings import Tab, clock_text, read_apertures, read_marks, read_tab
from web.ui.fields import LengthField, NumberField

_APART = 2.0
"""A scale is read coarsely, and its two circles may differ; not by as much as that."""
_UNLIKE = 0.03
"""Angles read off a ring agree to that."""


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
        low=1, high=2000, required=False, unit="°", sentence="Give degrees from 1 to 2000, or none."
    )
    tab_at_infinity_hours = forms.CharField(required=False, max_length=60)
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
    projection = forms.ChoiceField(
        choices=Draws.choices,
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
    findings = forms.CharField(required=False)

    class Meta:
        model = Lens
        fields = [
            "name", "shortest_mm", "longest_mm", "widest", "widest_at_long_end", "smallest",
            "closest_mm", "has_scale", "ring_kind", "to_infinity", "throw_deg",
            "tab_at_infinity_hours", "as_it_closes", "projection", "marks", "depth_marks",
            "depth_marks_circle_mm", "pupil_ratio", "hiatus_mm", "front_mm",
            "ring_off_mm", "findings",
        ]  # fmt: skip

    sections = SECTIONS

    def text_of(self, name: str) -> str:
        if self.is_bound:
            return super().text_of(name)
        if name == "marks":
            return "\n".join(
                f"{'inf' if mm is None else units.write(mm, self.owner.units, 4)}: {degrees:g}"
                for mm, degrees in self.instance.marks
            )
        if name == "findings":
            return json.dumps(self.instance.findings) if self.instance.findings else ""
        if name == "depth_marks":
            return " ".join(f"{number:g}" for number in self.instance.depth_marks)
        if name == "tab_at_infinity_hours":
            hours = self.instance.tab_at_infinity_hours
            return "" if hours is None else clock_text(hours)
        if name == "longest_mm" and not (self.instance.pk and self.instance.is_zoom):
            return ""
        return super().text_of(name)

    def clean_findings(self) -> list[dict[str, Any]]:
        try:
            return read_text(self.cleaned_data["findings"])
        except NotAFinding as error:
            raise ValidationError(error.sentence) from error

    def clean_as_it_closes(self) -> str:
        return self.cleaned_data["as_it_closes"] or Closing.UNKNOWN

    def clean_projection(self) -> str:
        return self.cleaned_data["projection"] or Draws.RECTILINEAR

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

    def clean_tab_at_infinity_hours(self) -> float | None:
        text = str(self.cleaned_data["tab_at_infinity_hours"]).strip()
        if not text:
            return None
        self.tab_seen = read_tab(text, self.owner.units)
        return self.tab_seen.hours

    def clean_depth_marks(self) -> list[float]:
        return read_apertures(self.cleaned_data["depth_marks"])

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
        self._throw_and_marks(cleaned)
        self._circle_from_reading(cleaned)
        self._tab_from_distance(cleaned)
        return cleaned

    def _throw_and_marks(self, cleaned: dict[str, Any]) -> None:
        """Marks from infinity to closest turn through the throw, or one of them is wrong."""
        marks, throw = cleaned.get("marks") or [], cleaned.get("throw_deg")
        if len(marks) < 2 or not throw:
            return
        turned = [degrees for _, degrees in marks]
        through = max(turned) - min(turned)
        if through > throw * (1 + _UNLIKE):
            self.add_error(
                "throw_deg", f"The measured marks turn through {through:g}°: which is right?"
            )

    tab_seen: Tab | None = None

    def _tab_from_distance(self, cleaned: dict[str, Any]) -> None:
        """Where the tab stands at infinity, from where it was seen at a distance."""
        tab = self.tab_seen
        wrong = {"shortest_mm", "longest_mm", "throw_deg", "closest_mm", "marks"} & {*self.errors}
        if tab is None or math.isinf(tab.distance) or wrong or not cleaned.get("shortest_mm"):
            return
        if len(cleaned["marks"]) < 2 and not (cleaned.get("throw_deg") and cleaned["closest_mm"]):
            self.add_error(
                "tab_at_infinity_hours",
                "For that, its throw and closest focus are needed, or measured marks.",
            )
            return
        names = ("shortest_mm", "longest_mm", "throw_deg", "closest_mm", "marks", "to_infinity")
        lens = Lens(**{name: cleaned[name] for name in names}, tab_at_infinity_hours=0.0)
        nearest = min((mm for mm, _ in lens.marks if mm), default=lens.closest_mm or 0.0)
        if tab.distance < nearest:
            self.add_error("tab_at_infinity_hours", "The ring does not come to that distance.")
            return
        hours = (tab.hours - float(lens.hands.clock(tab.distance))) % 12.0
        cleaned["tab_at_infinity_hours"] = hours

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
            read = standards.circles_from_limits(shortest, f_number, focus, near, far)
        except OpticsError as error:
            self.add_error("read_focus", error.sentence)
            return
        if read.far is not None and not 1 / _APART < read.near / max(read.far, 1e-9) < _APART:
            self.add_error(
                "read_near",
                f"No circle explains that reading: the near limit speaks of {read.near:.2g} mm, "
                f"the far one of {read.far:.2g} mm.",
            )
            return
        cleaned["depth_marks_circle_mm"] = units.significant(read.circle, 3)

    def save(self, commit: bool = True) -> Any:
        worked_out = ("depth_marks_circle_mm", "hiatus_mm", "tab_at_infinity_hours")
        for name in worked_out:
            setattr(self.instance, name, self.cleaned_data[name])
        return super().save(commit)
