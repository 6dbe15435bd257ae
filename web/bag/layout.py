"""A form laid out as sections of questions, open or folded; shown with what was typed."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import partial
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from optics.base import units
from web.bag.models import Thing
from web.people.models import Owner
from web.ui.fields import LengthField, WordsField
from web.ui.wording import told_in

TEXT, CHOICE, TICK, LINES, HIDDEN = "text", "choice", "tick", "lines", "hidden"


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
    """Questions that belong together; folded until wanted if not needed for a first answer.
    ``at_first``: open where something new is put in. ``when``: a choice, and the values of it that
    need these; it opens with them."""

    title: str
    rows: tuple[Row, ...]
    folded: bool = False
    help: str = ""
    at_first: bool = False
    when: tuple[str, tuple[str, ...]] = ("", ())


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
    when: tuple[str, tuple[str, ...]]


class ThingForm(forms.ModelForm):  # type: ignore[type-arg]
    """What all things in the bag share: a name of its own, texts shown as typed."""

    sections: tuple[Section, ...] = ()
    noun = "thing"
    name = WordsField(
        max_length=60,
        error_messages={
            "required": "Give it a name to know it by.",
            "max_length": "Keep the name to 60 letters.",
        },
    )

    def __init__(self, *args: Any, owner: Owner, apart: bool = False, **kwargs: Any) -> None:
        """``apart``: checked by itself, whatever else there is: nothing is looked for."""
        super().__init__(*args, **kwargs)
        self.owner, self.apart = owner, apart
        for field in self.fields.values():
            if isinstance(field, LengthField):
                field.system = owner.units

    def clean_name(self) -> str:
        name = str(self.cleaned_data["name"])
        if self.apart:
            return name
        model: type[Thing] = self._meta.model
        others = model.objects.filter(owner=self.owner, name=name).exclude(pk=self.instance.pk)
        if others.exists():
            raise ValidationError(f"You have a {self.noun} of that name. Call this one otherwise.")
        return name

    def validate_unique(self) -> None:
        if not self.apart:
            super().validate_unique()

    def validate_constraints(self) -> None:
        if not self.apart:
            super().validate_constraints()

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
        filled = filled or (section.at_first and self.instance.pk is None)
        name, values = section.when
        wanted = bool(name) and (self.text_of(name) or self._first(name)) in values
        opened = filled or wanted
        help_ = told_in(section.help, self.owner.units)
        return ShownSection(section.title, help_, rows, section.folded, opened, section.when)

    def _first(self, name: str) -> str:
        """What a list shows where nothing is chosen."""
        return next((str(key) for key, _ in self.fields[name].choices), "")  # type: ignore[attr-defined]

    def _told(self, shown: Shown) -> bool:
        """Whether a row says something that it would not say by itself."""
        if shown.row.kind == TICK:
            return shown.ticked and not self.fields[shown.row.name].initial
        return bool(shown.value) and shown.row.kind in (TEXT, LINES)

    def _row(self, row: Row) -> Shown:
        field = self.fields[row.name]
        choices: Iterable[Any] = getattr(field, "choices", ()) if row.kind == CHOICE else ()
        # As it stands between its prefix and its unit, each of which may be typed too.
        text = (
            self.text_of(row.name).strip().removesuffix(row.unit).removeprefix(row.prefix).strip()
        )
        said = partial(told_in, system=self.owner.units)
        return Shown(
            row=replace(row, placeholder=said(row.placeholder), help=said(row.help)),
            value=text,
            ticked=text not in ("", "False"),
            error=said(" ".join(map(str, self.errors.get(row.name, [])))),
            options=tuple((str(key), str(label)) for key, label in choices),
        )


def choice(field_of: Any, name: str) -> forms.ChoiceField:
    """The choices of a model's field."""
    return forms.ChoiceField(
        choices=field_of._meta.get_field(name).choices,
        error_messages={"invalid_choice": "Choose one from the list.", "required": "Choose one."},
    )


def words(most: int) -> forms.CharField:
    """A few words, or none."""
    return WordsField(
        required=False,
        max_length=most,
        error_messages={"max_length": f"Keep it to {most} letters."},
    )
