"""The fields of what is in hand and wanted, from text to checked values."""

from __future__ import annotations

from django import forms

from web.ui.choices import Units
from web.ui.fields import FormatField, NumberField, WholeNumberField
from web.view.models import Choose, Look, Place
from web.view.rows import TEXT_LIMIT

FIELDS: dict[str, forms.Field] = {
    "lens": forms.CharField(
        required=False,
        max_length=TEXT_LIMIT,
        error_messages={"max_length": f"Keep the lens's name to {TEXT_LIMIT} letters."},
    ),
    "format": FormatField(),
    "pixels_across": WholeNumberField(
        low=200,
        high=100_000,
        required=False,
        sentence="Pixels across the long side: a whole number from 200 to 100 000, or empty.",
    ),
    "focal_length_mm": NumberField(
        low=1, high=3000, sentence="Give a focal length from 1 to 3000 mm, such as 24."
    ),
    "f_number": NumberField(low=0.5, high=128, sentence="Give an aperture from 0.5 to 128."),
    "circle_mm": NumberField(
        low=0.0005, high=1, sentence="Give a circle from 0.0005 to 1 mm, such as 0.025."
    ),
    "diffraction": forms.CharField(required=False),
    "place": forms.ChoiceField(
        choices=Place.choices,
        error_messages={"invalid_choice": "That way of placing focus is not known."},
    ),
    "look": forms.ChoiceField(
        choices=Look.choices,
        required=False,
        error_messages={"invalid_choice": "That look is not known."},
    ),
    "choose": forms.ChoiceField(
        choices=Choose.choices,
        required=False,
        error_messages={"invalid_choice": "That way of choosing the aperture is not known."},
    ),
    "slope_deg": NumberField(
        low=-60,
        high=60,
        required=False,
        sentence="The ground rises ahead by −60 to 60°, downhill negative, such as 5.",
    ),
    "tilt_deg": NumberField(
        low=-90,
        high=90,
        required=False,
        sentence="Tilt is from −90 to 90°, down positive, such as 15.",
    ),
    "units": forms.ChoiceField(
        choices=Units.choices, error_messages={"invalid_choice": "Choose metres or feet."}
    ),
}
"""What is in hand, and how focus is placed. The ring and the marks are read by ``read_scene``.

Used without a Form around them: a Form copies every field for each request, which costs more
than the whole of the optics.
"""
