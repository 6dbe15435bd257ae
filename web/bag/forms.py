"""What is typed about a thing in the bag, checked, and laid out for its page.

A form is a list of sections; a section is open or folded; a row is one question. Lengths are typed
in any unit and kept in mm. Nothing typed is lost: rows show the text as it came.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from optics import standards, units
from optics.aperture import THIRDS
from optics.errors import OpticsError
from optics.lens import NEAREST_FOCUS_IN_FOCAL_LENGTHS
from optics.ring import Ring
from web.bag.models import OWN_FORMAT, Attachment, Body, Lens, Standard, Thing, Turn, Way
from web.people.models import Owner
from web.ui.fields import LengthField, NumberField, WholeNumberField, read_length, shortened

TEXT, CHOICE, TICK, LINES = "text", "choice", "tick", "lines"

PITCH_MM = (0.0005, 0.05)
"""A pixel smaller than 0.5 µm or larger than 50 µm is asked about."""


@dataclass(frozen=True, slots=True)
class Row:
    """A question on a page. ``name``: of the form's field. ``only``: another field and the value of
    it with which this one matters."""

    name: str
    label: str
    unit: str = ""
    prefix: str = ""
    placeholder: str = ""
    help: str = ""
    kind: str = TEXT


@dataclass(frozen=True, slots=True)
class Section:
    """Questions that belong together; folded until wanted if not needed for a first answer."""

    title: str
    rows: tuple[Row, ...]
    folded: bool = False
    help: str = ""


@dataclass(frozen=True, slots=True)
class Shown:
    """A row with what is in it."""

    row: Row
    value: str
    ticked: bool
    error: str
    options: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class ShownSection:
    """A section with what is in it; open if anything in it is filled or wrong."""

    title: str
    help: str
    rows: tuple[Shown, ...]
    folded: bool
    open: bool


class ThingForm(forms.ModelForm):  # type: ignore[type-arg]
    """What all things in the bag share: a name of its own, texts shown as typed."""

    sections: tuple[Section, ...] = ()
    noun = "thing"
    name = forms.CharField(
        max_length=60,
        error_messages={
            "required": "Give it a name to know it by.",
            "max_length": "Keep the name to 60 letters.",
        },
    )

    def __init__(self, *args: Any, owner: Owner, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.owner = owner
        for field in self.fields.values():
            if isinstance(field, LengthField):
                field.system = owner.units

    def clean_name(self) -> str:
        name = str(self.cleaned_data["name"])
        model: type[Thing] = self._meta.model
        others = model.objects.filter(owner=self.owner, name=name).exclude(pk=self.instance.pk)
        if others.exists():
            raise ValidationError(f"You have a {self.noun} of that name. Call this one otherwise.")
        return name

    def text_of(self, name: str) -> str:
        """What stands in a field: as typed, or as kept, written for its unit."""
        if self.is_bound:
            return str(self.data.get(name, ""))
        value = self.initial.get(name, self.fields[name].initial)
        if value is None or value is False:
            return ""
        if isinstance(self.fields[name], LengthField):
            return units.write(float(value), self.owner.units, 4)
        return f"{value:.6g}" if isinstance(value, float) else str(value)

    def shown(self) -> list[ShownSection]:
        """The sections with their rows, texts and messages."""
        return [self._section(section) for section in self.sections]

    def _section(self, section: Section) -> ShownSection:
        rows = tuple(self._row(row) for row in section.rows)
        filled = any(row.error or self._told(row) for row in rows)
        return ShownSection(section.title, section.help, rows, section.folded, filled)

    def _told(self, shown: Shown) -> bool:
        """Whether a row says something that it would not say by itself."""
        if shown.row.kind == TICK:
            return shown.ticked and not self.fields[shown.row.name].initial
        return bool(shown.value) and shown.row.kind in (TEXT, LINES)

    def _row(self, row: Row) -> Shown:
        field = self.fields[row.name]
        choices: Iterable[Any] = getattr(field, "choices", ()) if row.kind == CHOICE else ()
        text = self.text_of(row.name)
        return Shown(
            row=row,
            value=text,
            ticked=text not in ("", "False"),
            error=" ".join(map(str, self.errors.get(row.name, []))),
            options=tuple((str(key), str(label)) for key, label in choices),
        )


def _choice(field_of: Any, name: str) -> forms.ChoiceField:
    return forms.ChoiceField(
        choices=field_of._meta.get_field(name).choices,
        error_messages={"invalid_choice": "Choose one from the list.", "required": "Choose one."},
    )


def _words(most: int) -> forms.CharField:
    return forms.CharField(
        required=False,
        max_length=most,
        error_messages={"max_length": f"Keep it to {most} letters."},
    )


class BodyForm(ThingForm):
    """A body: three questions, the rest folded."""

    noun = "body"
    format = _choice(Body, "format")
    own_width_mm = NumberField(
        low=1, high=500, required=False, sentence="Give the side in mm, from 1 to 500."
    )
    own_height_mm = NumberField(
        low=1, high=500, required=False, sentence="Give the side in mm, from 1 to 500."
    )
    pixels_across = WholeNumberField(
        low=1,
        high=1_000_000,
        required=False,
        sentence="Pixels along the long side: a whole number, or empty for film.",
    )
    sure_of_pixels = forms.BooleanField(required=False)
    steps = _choice(Body, "steps")
    starts_focus = _choice(Body, "starts_focus")
    button = _words(40)
    hold_or_toggle = _choice(Body, "hold_or_toggle")
    shutter_refocuses = forms.BooleanField(required=False, initial=True)
    magnify = _words(60)
    release = _words(60)
    focuses_at = _choice(Body, "focuses_at")
    limiter = _words(60)

    class Meta:
        model = Body
        fields = [
            "name", "format", "own_width_mm", "own_height_mm", "pixels_across", "steps",
            "starts_focus", "button", "hold_or_toggle", "shutter_refocuses", "magnify", "release",
            "focuses_at", "limiter",
        ]  # fmt: skip

    sections = (
        Section(
            "",
            (
                Row("name", "Name", placeholder="Full frame, 24 MP"),
                Row("format", "Format", kind=CHOICE),
                Row("pixels_across", "Pixels, long side", placeholder="film: none"),
            ),
        ),
        Section(
            "Its own format, and its aperture steps",
            (
                Row("own_width_mm", "Long side", unit="mm", placeholder="with own millimetres"),
                Row("own_height_mm", "Short side", unit="mm", placeholder="with own millimetres"),
                Row("steps", "Aperture in", kind=CHOICE),
            ),
            folded=True,
        ),
        Section(
            "How this body keeps focus put",
            (
                Row("starts_focus", "Autofocus starts with", kind=CHOICE),
                Row("button", "That button is called", placeholder="the words on your camera"),
                Row("hold_or_toggle", "To keep it going", kind=CHOICE),
                Row("shutter_refocuses", "The shutter button refocuses", kind=TICK),
                Row("focuses_at", "It focuses at", kind=CHOICE),
                Row("magnify", "To magnify", placeholder="the button or dial"),
                Row("release", "Delay or release", placeholder="two seconds, a cable"),
                Row("limiter", "Focus limiter", placeholder="none"),
            ),
            folded=True,
            help="In your own words for its buttons: every checklist then speaks in them.",
        ),
    )

    def clean(self) -> dict[str, Any]:
        cleaned: dict[str, Any] = super().clean() or {}
        if cleaned.get("format") == OWN_FORMAT:
            for name in ("own_width_mm", "own_height_mm"):
                if cleaned.get(name) is None and name not in self.errors:
                    self.add_error(name, "Own millimetres need both sides of the picture.")
        width = self._width(cleaned)
        pixels = cleaned.get("pixels_across")
        if width and pixels and not cleaned.get("sure_of_pixels"):
            pitch = width / pixels
            if not PITCH_MM[0] <= pitch <= PITCH_MM[1]:
                self.unusual_pitch = pitch
                self.add_error(
                    "pixels_across",
                    f"That makes a pixel {pitch * 1000:.2g} µm wide, which is unusual. "
                    "If it is right, say so below and send it again.",
                )
        return cleaned

    unusual_pitch: float | None = None

    def _width(self, cleaned: dict[str, Any]) -> float | None:
        if cleaned.get("format") == OWN_FORMAT:
            sides = (cleaned.get("own_width_mm"), cleaned.get("own_height_mm"))
            return max(sides) if None not in sides else None  # type: ignore[type-var]
        body = Body(format=cleaned.get("format") or "full-frame")
        return body.frame.width


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
    ring_kind = _choice(Lens, "ring_kind")
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
    pupil_ratio = NumberField(
        low=0.1, high=10, required=False, sentence="Give a ratio from 0.1 to 10, or none."
    )
    pupil_to_sensor_mm = NumberField(
        low=1, high=1000, required=False, sentence="Give millimetres from 1 to 1000, or none."
    )
    hiatus_mm = NumberField(
        low=-200, high=500, required=False, sentence="Give millimetres from −200 to 500, or none."
    )

    class Meta:
        model = Lens
        fields = [
            "name", "shortest_mm", "longest_mm", "widest", "widest_at_long_end", "smallest",
            "closest_mm", "has_scale", "ring_kind", "to_infinity", "throw_deg",
            "tab_at_infinity_hours", "marks", "depth_marks", "depth_marks_circle_mm",
            "pupil_ratio", "hiatus_mm",
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
            # The pupil stands f(2 − 1/p) + hiatus from the sensor: optics.cone, equation (3).
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


class AttachmentForm(ThingForm):
    """An adapter, converter or focal reducer."""

    noun = "adapter"
    factor = NumberField(
        low=0.3, high=4, sentence="Give a factor from 0.3 to 4: 1.4, 0.71, or 1 for none."
    )
    keeps_infinity = forms.BooleanField(required=False, initial=True)

    class Meta:
        model = Attachment
        fields = ["name", "factor", "keeps_infinity"]

    sections = (
        Section(
            "",
            (
                Row("name", "Name", placeholder="1.4× converter"),
                Row("factor", "Focal length ×", placeholder="1.4",
                    help="A converter is over 1, a focal reducer under 1, a plain adapter 1."),
                Row("keeps_infinity", "Infinity can still be reached", kind=TICK),
            ),
        ),
    )  # fmt: skip


class StandardForm(ThingForm):
    """A named idea of sharp, by its use."""

    noun = "standard"
    way = _choice(Standard, "way")
    print_width_mm = LengthField(
        low=10, high=50_000, required=False, sentence="A print is 1 cm to 50 m wide."
    )
    print_height_mm = LengthField(
        low=10, high=50_000, required=False, sentence="A print is 1 cm to 50 m high."
    )
    fills = forms.BooleanField(required=False)
    viewing_mm = LengthField(
        low=50, high=500_000, required=False, sentence="Looked at from 5 cm to 500 m."
    )
    keen = forms.BooleanField(required=False)
    screen_pixels = WholeNumberField(
        low=100,
        high=100_000,
        required=False,
        sentence="Pixels: a whole number from 100 to 100 000.",
    )
    pixels = NumberField(low=0.1, high=100, required=False, sentence="Pixels: from 0.1 to 100.")
    parts = NumberField(low=100, high=20_000, required=False, sentence="Parts: from 100 to 20 000.")
    circle_mm = NumberField(
        low=0.0005, high=1, required=False, sentence="Give a circle from 0.0005 to 1 mm."
    )
    than = forms.ModelChoiceField(queryset=Standard.objects.none(), required=False)
    stops = NumberField(low=-10, high=10, required=False, sentence="Stops: from −10 to 10.")
    counts_diffraction = forms.BooleanField(required=False)

    class Meta:
        model = Standard
        fields = [
            "name", "way", "print_width_mm", "print_height_mm", "fills", "viewing_mm", "keen",
            "screen_pixels", "pixels", "parts", "circle_mm", "than", "stops", "counts_diffraction",
        ]  # fmt: skip

    sections = (
        Section(
            "",
            (
                Row("name", "Name", placeholder="wall print at arm’s length"),
                Row("way", "Sharp enough for", kind=CHOICE),
            ),
        ),
        Section(
            "A print",
            (
                Row("print_width_mm", "Width", placeholder="60 cm"),
                Row("print_height_mm", "Height", placeholder="as the picture"),
                Row("fills", "Cropped to fill the paper", kind=TICK),
                Row("viewing_mm", "Looked at from", placeholder="25 cm"),
                Row("keen", "By a keen eye: one arc minute", kind=TICK,
                    help="Else the classic one: 0.2 mm at 25 cm."),
            ),
            folded=True,
        ),
        Section(
            "A screen, pixels, or a part of the frame",
            (
                Row("screen_pixels", "Screen pixels across the picture", placeholder="3840"),
                Row("pixels", "The sensor’s own pixels", placeholder="1"),
                Row("parts", "One part of the diagonal in", placeholder="1500"),
            ),
            folded=True,
        ),
        Section(
            "A circle, or stops from another standard",
            (
                Row("circle_mm", "Circle of confusion", unit="mm", placeholder="0.025"),
                Row("than", "Tighter than", kind=CHOICE),
                Row("stops", "by stops", placeholder="1"),
            ),
            folded=True,
        ),
        Section(
            "Diffraction",
            (Row("counts_diffraction", "Diffraction counts towards the circle", kind=TICK),),
            folded=True,
        ),
    )  # fmt: skip

    _NEEDED = {
        Way.PRINT: ("print_width_mm",),
        Way.SCREEN: ("screen_pixels",),
        Way.PIXELS: ("pixels",),
        Way.DIAGONAL: ("parts",),
        Way.GIVEN: ("circle_mm",),
        Way.TIGHTER: ("than", "stops"),
    }

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        others = Standard.objects.filter(owner=self.owner).exclude(pk=self.instance.pk)
        than = self.fields["than"]
        assert isinstance(than, forms.ModelChoiceField)
        than.queryset = others
        than.empty_label = "choose one"

    def clean(self) -> dict[str, Any]:
        cleaned: dict[str, Any] = super().clean() or {}
        for name in self._NEEDED.get(Way(cleaned["way"]), ()) if "way" in cleaned else ():
            if cleaned.get(name) in (None, "") and name not in self.errors:
                self.add_error(name, "This way of saying it needs an answer here.")
        other, seen = cleaned.get("than"), 0
        while other is not None and seen < 20:
            if other.pk == self.instance.pk:
                self.add_error("than", "That one is itself made from this one.")
                break
            other, seen = other.than, seen + 1
        return cleaned


ENGRAVED = tuple(units.significant(n, 3) for n in THIRDS.names)
