"""What is typed at the bench, checked: what files did not say."""

from __future__ import annotations

from django import forms

from web.ui.fields import NumberField


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
