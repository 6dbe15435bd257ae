"""What is typed about a body, checked."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from optics.base.formats import Format
from web.bag.bodies import MEGAPIXELS
from web.bag.layout import CHOICE, TICK, Row, Section, ThingForm, choice, words
from web.bag.models import OWN_FORMAT, Body
from web.ui.fields import NumberField, WholeNumberField

PITCH_MM = (0.0005, 0.05)
"""A pixel smaller than 0.5 µm or larger than 50 µm is asked about."""


class PixelsField(WholeNumberField):
    """Pixels along the long side, or megapixels: then a negative number of a million of them, as
    the format must be known first."""

    def to_python(self, value: Any) -> int | None:
        found = MEGAPIXELS.fullmatch(str(value or "").strip().lower())
        if found is None:
            return super().to_python(value)
        megapixels = float(found[1].replace(",", "."))
        if not 0.1 <= megapixels <= 1000:
            raise ValidationError(self.sentence)
        return -round(megapixels * 1e6)


class BodyForm(ThingForm):
    """A body: three questions, the rest folded."""

    noun = "body"
    format = choice(Body, "format")
    own_width_mm = NumberField(
        low=1, high=500, required=False, sentence="Give the side in mm, from 1 to 500."
    )
    own_height_mm = NumberField(
        low=1, high=500, required=False, sentence="Give the side in mm, from 1 to 500."
    )
    pixels_across = PixelsField(
        low=1,
        high=1_000_000,
        required=False,
        sentence="Pixels along the long side: a whole number, 24 MP, or empty for film.",
    )
    sure_of_pixels = forms.BooleanField(required=False)
    steps = choice(Body, "steps")
    starts_focus = choice(Body, "starts_focus")
    button = words(40)
    hold_or_toggle = choice(Body, "hold_or_toggle")
    shutter_refocuses = forms.BooleanField(required=False, initial=True)
    magnify = words(60)
    release = words(60)
    focuses_at = choice(Body, "focuses_at")
    limiter = words(60)
    iso_usable = WholeNumberField(
        low=50, high=4_000_000, required=False, unit="iso",
        sentence="Give an ISO from 50 to 4 000 000, or none.",
    )  # fmt: skip
    iso_highest = WholeNumberField(
        low=50, high=4_000_000, required=False, unit="iso",
        sentence="Give an ISO from 50 to 4 000 000, or none.",
    )  # fmt: skip

    class Meta:
        model = Body
        fields = [
            "name", "format", "own_width_mm", "own_height_mm", "pixels_across", "steps",
            "starts_focus", "button", "hold_or_toggle", "shutter_refocuses", "magnify", "release",
            "focuses_at", "limiter", "iso_usable", "iso_highest",
        ]  # fmt: skip

    sections = (
        Section(
            "",
            (
                Row("name", "Name", placeholder="Full frame, 24 MP"),
                Row("format", "Format", kind=CHOICE),
                Row("pixels_across", "Pixels, long side", placeholder="24 MP; film: none"),
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
            when=("format", (OWN_FORMAT,)),
        ),
        Section(
            "Its ISO",
            (
                Row("iso_usable", "Highest that you use", placeholder="6400, assumed"),
                Row("iso_highest", "Highest that it has", placeholder="not known"),
            ),
            folded=True,
            help="What a night asks for beyond that is made of several frames laid together.",
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
        usable, highest = cleaned.get("iso_usable"), cleaned.get("iso_highest")
        if usable and highest and highest < usable:
            self.add_error("iso_highest", "It has at least what you use.")
        if cleaned.get("format") == OWN_FORMAT:
            for name in ("own_width_mm", "own_height_mm"):
                if cleaned.get(name) is None and name not in self.errors:
                    self.add_error(name, "Own millimetres need both sides of the picture.")
        width = self._width(cleaned)
        pixels = cleaned.get("pixels_across")
        if pixels is not None and pixels < 0:
            frame = self._frame(cleaned)
            pixels = None if frame is None else frame.pixels_across(-pixels / 1e6)
            cleaned["pixels_across"] = pixels
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

    def _frame(self, cleaned: dict[str, Any]) -> Format | None:
        """The format as it is said so far; None for one of its own without both sides."""
        sides = (cleaned.get("own_width_mm"), cleaned.get("own_height_mm"))
        if cleaned.get("format") == OWN_FORMAT and None in sides:
            return None
        body = Body(
            format=cleaned.get("format") or "full-frame",
            own_width_mm=sides[0],
            own_height_mm=sides[1],
        )
        return body.frame

    def _width(self, cleaned: dict[str, Any]) -> float | None:
        frame = self._frame(cleaned)
        return None if frame is None else max(frame.width, frame.height)
