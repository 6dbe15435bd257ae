"""What a thing keeps is in its form, in the file, and in what the file is described by.

Asked of the models themselves: a new field is asked too. Each is changed to something else that its
form takes: the form shows it, and saving what the form shows keeps it.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from django import forms
from django.db import models
from django.test import TestCase

from tests.web.test_findings import ROWS, finding
from web.bag.models import Thing
from web.bag.views import KINDS
from web.demo.world import load
from web.kept.models import Kept
from web.people.models import Owner

DOCS = Path(__file__).resolve().parents[2] / "docs"
BOOKS = {"id", "owner", "copied_from", "deleted_at", "created_at", "updated_at", "once", "than"}
"""How a thing is kept, not what it is. ``than`` is another thing."""
LISTS = {"body": "bodies", "lens": "lenses", "adapter": "adapters", "standard": "standards"}
NUMBERS = (1.0, 2.0, 0.5, 5.0, 1.2, 50.0, 90.0, 250.0, 400.0, 0.025, 1500.0, 6000.0, -6.0)


def others(field: Any, value: Any) -> Iterator[Any]:
    """Values of a field that are not this one."""
    if field.choices:
        yield from (key for key, _ in field.choices if key != value)
    elif isinstance(field, models.BooleanField):
        yield not value
    elif field.name == "findings":
        yield [finding(ROWS)]
    elif isinstance(field, models.JSONField):
        yield from ([[700.0, 60.0], [2000.0, 20.0], [None, 0.0]], [8.0, 11.0, 16.0])
    elif isinstance(field, models.CharField):
        yield from ("Other words", "Others")
    else:
        whole = isinstance(field, models.IntegerField)
        near = (value * 1.25, value * 0.8, value + 1) if value else ()
        yield from (int(number) if whole else number for number in (*near, *NUMBERS)
                    if number != value and (not whole or number == int(number)))  # fmt: skip


def same(one: Any, other: Any) -> bool:
    """Whether two values are: the form writes numbers to four figures and more."""
    if isinstance(one, (int, float)) and isinstance(other, (int, float)):
        return abs(one - other) <= 1e-3 * max(abs(one), abs(other))
    if isinstance(one, list) and isinstance(other, list):
        return len(one) == len(other) and all(map(same, one, other))
    return bool(one == other)


class FieldsTest(TestCase):
    def setUp(self) -> None:
        load()
        self.client.post("/view/save/", {"name": "Mine", "state": ""})  # makes a bag of one's own
        self.owner = Owner.objects.get(is_sample=False)

    def keeps(self, kind: Any, thing: Thing, name: str, value: Any) -> bool:
        """Whether the form of a thing shows a value, and saving what it shows keeps it."""
        whole = {name: value} if name == "way" else {"pk": None}
        key = thing.pk
        plain = kind.form(instance=kind.model.objects.get(pk=key), owner=self.owner)
        altered = kind.model.objects.get(pk=key)
        for donor in kind.model.objects.filter(owner=self.owner, **whole):
            for field in kind.model.told():  # with all that goes with it there
                setattr(altered, field.name, getattr(donor, field.name))
            altered.name = thing.name
        setattr(altered, name, value)
        try:
            shown = kind.form(instance=altered, owner=self.owner)
            texts = {one: shown.text_of(one) for one in shown.fields}
        except TypeError:
            return False  # marks of the other kind
        if texts == {one: plain.text_of(one) for one in plain.fields}:
            return False
        typed = kind.form(texts, instance=kind.model.objects.get(pk=key), owner=self.owner)
        if not typed.is_valid():
            return False
        return same(getattr(typed.save(commit=False), name), value)

    def test_every_field_of_things(self) -> None:
        described = (DOCS / "bag-file.md").read_text("utf-8")
        for slug, kind in KINDS.items():
            (row,) = re.findall(rf"^\| `{LISTS[slug]}` \|.*$", described, re.MULTILINE)
            things = list(kind.model.objects.filter(owner=self.owner))
            told = {field.name for field in kind.model.told()}
            for field in kind.model._meta.concrete_fields:
                if field.name in BOOKS:
                    continue
                with self.subTest(kind=slug, field=field.name):
                    self.assertIn(field.name, told, "is in the file")
                    self.assertIn(f"`{field.name}`", row, "is described")
                    asked: Any = kind.form.base_fields.get(field.name)
                    if isinstance(field, models.CharField) and isinstance(asked, forms.CharField):
                        self.assertEqual(asked.max_length, field.max_length, "as many letters")
                    self.assertTrue(
                        any(
                            self.keeps(kind, thing, field.name, value)
                            for thing in things
                            for value in others(field, getattr(thing, field.name))
                        ),
                        "is in the form, and kept",
                    )

    def test_all_that_is_kept_is_taken_along(self) -> None:
        Kept.objects.filter(owner=self.owner).update(note="A note of mine")
        taken = self.client.get("/you/export/").content.decode()
        data = json.loads(taken)
        for field in Kept._meta.concrete_fields:
            if field.name not in BOOKS | {"lens", "was", "deleted"}:  # the link says the lens
                self.assertIn(f'"{field.name}"', taken, field.name)
        self.assertIn("A note of mine", taken)
        for slug, kind in KINDS.items():
            things = kind.model.objects.filter(owner=self.owner)
            said = data["bag"][LISTS[slug]]
            self.assertEqual(sorted(one["name"] for one in said), sorted(t.name for t in things))
            for field in kind.model.told():
                self.assertIn(field.name, said[0])
