"""What is said of an outing, checked."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.http import QueryDict

from web.outings.models import NAME_LIMIT, PLACE_LIMIT, WORDS_LIMIT, Outing
from web.ui.care import CARE, PEOPLE
from web.ui.fields import WholeNumberField, WordsField
from web.ui.text import cleaned

GROUNDS = {**{key: title for key, (title, _) in CARE.items()}, "people": PEOPLE[0]}
"""What a place can be like, by key."""


class OutingForm(forms.Form):
    """Its name, where, when, what it waits for, what is to be better, when to check again."""

    name = WordsField(
        max_length=NAME_LIMIT,
        error_messages={
            "required": "Give it a name to find it by.",
            "max_length": f"Keep the name to {NAME_LIMIT} letters.",
        },
    )
    place = WordsField(
        required=False,
        max_length=PLACE_LIMIT,
        error_messages={"max_length": f"Keep the place to {PLACE_LIMIT} letters."},
    )
    on = forms.DateField(
        required=False,
        error_messages={"invalid": "Give the day as year-month-day: 2026-03-01; or leave it."},
    )
    waits_for = WordsField(
        required=False,
        max_length=WORDS_LIMIT,
        error_messages={"max_length": f"Keep it to {WORDS_LIMIT} letters."},
    )
    better = forms.CharField(required=False)
    again_minutes = WholeNumberField(
        low=0, high=600, required=False, sentence="Minutes, 0 to 600; 0 for never."
    )
    again_frames = WholeNumberField(
        low=0, high=600, required=False, sentence="Frames, 0 to 600; 0 for never."
    )
    again_waves = WholeNumberField(
        low=0, high=600, required=False, sentence="Waves, 0 to 600; 0 for never."
    )

    def clean_better(self) -> str:
        text = cleaned(self.cleaned_data["better"], lines=True).strip()
        if len(text) > WORDS_LIMIT:
            raise ValidationError(f"It has {len(text)} letters; {WORDS_LIMIT} have room.")
        return text

    def values(self, data: QueryDict) -> dict[str, Any]:
        """What of an outing it says, once it is valid."""
        found: dict[str, Any] = dict(self.cleaned_data)
        for name in ("again_minutes", "again_frames", "again_waves"):
            value = found[name]
            if value is None:
                del found[name]
            else:
                found[name] = int(value)
        found["grounds"] = [key for key in data.getlist("grounds") if key in GROUNDS]
        return found


def texts_of(outing: Outing) -> dict[str, Any]:
    """What the form shows of one."""
    return {
        "name": outing.name,
        "place": outing.place,
        "on": "" if outing.on is None else outing.on.isoformat(),
        "waits_for": outing.waits_for,
        "better": outing.better,
        "again_minutes": outing.again_minutes,
        "again_frames": outing.again_frames,
        "again_waves": outing.again_waves,
        "grounds": outing.grounds,
    }
