"""The fields of what is in hand and wanted, from text to checked values."""

from __future__ import annotations

from django import forms

from web.hand.fields import FIELDS as OF_THE_HAND
from web.ui.fields import DegreesField
from web.view.choices import SCHOOLS, Choose, Look

FIELDS: dict[str, forms.Field] = {
    **OF_THE_HAND,
    "place": forms.ChoiceField(
        choices=SCHOOLS,
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
    "slope_deg": DegreesField(
        low=-60,
        high=60,
        required=False,
        sentence="The ground rises ahead by −60 to 60°, downhill negative, such as 5 or 1 in 10.",
    ),
    "tilt_deg": DegreesField(
        low=-90,
        high=90,
        required=False,
        sentence="Tilt is from −90 to 90°, down positive, such as 15.",
    ),
}
"""What is in hand, and how focus is placed. The ring and the marks are read by ``read_scene``."""
