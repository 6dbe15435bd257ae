"""Every bounded field takes what its own sentence invites, and nothing beyond."""

from __future__ import annotations

import importlib
import math
import pkgutil
import re
from collections.abc import Iterator

from django import forms
from django.core.exceptions import ValidationError
from django.test import SimpleTestCase

import web
from optics.base import units
from web.ui.fields import LengthField, NumberField

FIGURE = re.compile(r"(?P<sign>−?)(?P<number>\d[\d. ]*\d|\d)(?P<unit> (?:cm|m)\b)?")
NEITHER = {
    "pixels_across",
    "focus",
    "read_f_number",
    "read_focus",
    "read_near",
    "read_far",
    "distance_mm",
    "says_mm",
    "focus_mm",
    "near_mm",
    "far_mm",
    "_LIGHT",
}
"""Whose sentence names no limits: what a list offers, or a reading."""
ONE_END = {"closest_mm"}


def bounded() -> Iterator[tuple[str, NumberField | LengthField]]:
    """Every bounded field of the application, with where it stands."""
    met: set[int] = set()
    for found in pkgutil.walk_packages(web.__path__, "web."):
        if ".migrations" in found.name or ".settings" in found.name:
            continue
        for name, value in vars(importlib.import_module(found.name)).items():
            fields: dict[str, object] = {name: value}
            if isinstance(value, dict):
                fields = value
            elif isinstance(value, type) and issubclass(value, forms.BaseForm):
                fields = dict(value.base_fields)
            for each, field in fields.items():
                if isinstance(field, (NumberField, LengthField)) and id(field) not in met:
                    met.add(id(field))
                    yield str(each), field


def figures(sentence: str) -> set[float]:
    """The numbers of a sentence; lengths in mm."""
    found = set()
    for one in FIGURE.finditer(sentence):
        number = float(one["number"].replace(" ", "")) * (-1 if one["sign"] else 1)
        found.add(number * (units.TABLE[one["unit"].strip()].mm if one["unit"] else 1))
    return found


class FieldsTest(SimpleTestCase):
    def takes(self, field: NumberField | LengthField, value: float) -> bool:
        text = "inf" if math.isinf(value) else f"{value:.10g}"
        try:
            field.clean(f"{text} mm" if isinstance(field, LengthField) and text != "inf" else text)
        except ValidationError:
            return False
        return True

    def test_what_the_sentence_says_is_what_is_taken(self) -> None:
        count = 0
        for name, field in bounded():
            with self.subTest(name, sentence=field.sentence):
                count += 1
                if name not in NEITHER:
                    said = figures(field.sentence)
                    self.assertIn(field.high, said)
                    if name not in ONE_END:
                        self.assertIn(field.low, said)
                whole = all(float(end).is_integer() for end in (field.low, field.high))
                step = 1 if whole else 1e-6
                if math.isfinite(field.high):
                    self.assertTrue(self.takes(field, field.high))
                    self.assertFalse(self.takes(field, field.high + step))
                self.assertTrue(self.takes(field, field.low))
                if not isinstance(field, LengthField):
                    self.assertFalse(self.takes(field, field.low - step))
                elif field.low > step:
                    self.assertFalse(self.takes(field, field.low * 0.999))
        self.assertGreater(count, 45)
