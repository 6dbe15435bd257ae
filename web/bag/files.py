"""A bag as one JSON file, and back: what is in it, what it would change, and putting it in.

The form is described in docs/bag-file.md. Unknown fields are refused with their place, so that
nothing is silently lost; an import first says what it will add or change, and is then done whole or
not at all. Things are known by their names; lengths are mm, angles degrees.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django.db import IntegrityError, transaction

from web.bag.models import Attachment, Body, Lens, Standard, Thing
from web.bag.soundness import FORMS, NotTyped, faults, typed
from web.people import quota
from web.people.forms import measure_limits
from web.people.models import Owner
from web.people.owners import tells
from web.ui.text import cleaned

VERSION = 1
FORMAT = "aim-still-bag"
LARGEST = 1_000_000
"""Bytes. A bag of a thousand lenses is smaller."""
MOST_THINGS = 500


class Refused(ValueError):
    """A file that cannot be taken. ``place``: where in it; ``sentence``: what is wrong there."""

    def __init__(self, place: str, sentence: str) -> None:
        self.place, self.sentence = place, sentence
        super().__init__(f"{place}: {sentence}" if place else sentence)


_LISTS: dict[str, type[Thing]] = {
    "bodies": Body,
    "lenses": Lens,
    "adapters": Attachment,
    "standards": Standard,
}
_NOUNS = {"bodies": "body", "lenses": "lens", "adapters": "adapter", "standards": "standard"}
_KINDS: dict[str, tuple[type, ...]] = {
    "FloatField": (int, float),
    "PositiveIntegerField": (int,),
    "SmallIntegerField": (int,),
    "CharField": (str,),
    "BooleanField": (bool,),
    "JSONField": (list,),
}


def written(owner: Owner) -> dict[str, Any]:
    """Everything in a bag, as plain data in a fixed order."""
    data: dict[str, Any] = {"format": FORMAT, "version": VERSION}
    for key, model in _LISTS.items():
        things = model.objects.filter(owner=owner).order_by("created_at", "pk")
        data[key] = [_finite(thing.said()) for thing in things]
    data["measures"] = {
        "pace_mm": owner.pace_mm,
        "arm_mm": owner.arm_mm,
        "eye_height_mm": owner.eye_height_mm,
        "judgement_error": owner.judgement_error,
        "lag_s": owner.lag_s,
    }
    return data


@tells
def _told(owner: Owner) -> dict[str, Any]:
    return {"bag": written(owner)}


def _finite(said: dict[str, Any]) -> dict[str, Any]:
    """Without what JSON has no word for, which only a broken thing has."""
    return {
        name: None if isinstance(value, float) and not math.isfinite(value) else value
        for name, value in said.items()
    }


def text_of(owner: Owner) -> str:
    """The file itself."""
    return json.dumps(written(owner), indent=2, ensure_ascii=False, allow_nan=False) + "\n"


@dataclass(frozen=True, slots=True)
class Change:
    """One thing an import would add or change. ``fields``: the names of those that differ."""

    kind: str
    name: str
    adds: bool
    fields: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Import:
    """A file that has been read and found to be all right, and what taking it would do."""

    data: dict[str, Any]
    changes: tuple[Change, ...]
    same: int


def read(raw: bytes, owner: Owner) -> Import:
    """Read a file and say what taking it would do. Raises Refused."""
    if len(raw) > LARGEST:
        raise Refused("", "The file is larger than 1 MB: that is no bag.")
    try:
        data = json.loads(raw.decode("utf-8"), parse_constant=_no_constant)
    except (ValueError, RecursionError) as error:
        raise Refused("", "The file is cut short or is not JSON. Nothing was taken.") from error
    _checked(data)
    with transaction.atomic():  # tried whole, and undone: what the database refuses is said now
        try:
            changes, same = _put(data, Owner.objects.get(pk=owner.pk))
        finally:
            transaction.set_rollback(True)
    return Import(data, tuple(changes), same)


def _no_constant(name: str) -> float:
    raise ValueError(f"{name} is no number")


def take(data: dict[str, Any], owner: Owner) -> tuple[Change, ...]:
    """Put all of a file that ``read`` has passed into a bag, or nothing."""
    _checked(data)
    with transaction.atomic():
        changes, _ = _put(data, owner)
        owner.save()
    return tuple(changes)


def _checked(data: Any) -> None:
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise Refused("format", f"This is not a bag: its format should be {FORMAT}.")
    if data.get("version") != VERSION:
        raise Refused("version", f"Only version {VERSION} is known here.")
    _only("", data, {"format", "version", "measures", *_LISTS})
    count = 0
    for key, model in _LISTS.items():
        things = data.get(key, [])
        if not isinstance(things, list):
            raise Refused(key, "This should be a list.")
        count += len(things)
        names = [field.name for field in model.told()]
        seen: set[str] = set()
        for at, thing in enumerate(things):
            place = f"{key}[{at}]"
            if not isinstance(thing, dict):
                raise Refused(place, "This should be an object with named values.")
            _only(f"{place}.", thing, names)
            name = thing.get("name")
            if not isinstance(name, str) or not name.strip():
                raise Refused(f"{place}.name", "A name is missing.")
            if cleaned(name) != name:
                raise Refused(f"{place}.name", "There is a character in it that cannot be shown.")
            if name in seen:
                raise Refused(f"{place}.name", f"“{name}” stands twice.")
            seen.add(name)
    if count > MOST_THINGS:
        raise Refused("", f"That is {count} things; {MOST_THINGS} are the most.")


def _only(place: str, data: dict[str, Any], known: Iterable[str]) -> None:
    for key in data:
        if key not in known:
            raise Refused(f"{place}{key}", "This field is not known.")


def _put(data: dict[str, Any], owner: Owner) -> tuple[list[Change], int]:
    changes: list[Change] = []
    same = 0
    for key, model in _LISTS.items():
        for at, said in _in_order(key, data.get(key, [])):
            change = _put_one(f"{key}[{at}]", _NOUNS[key], model, said, owner)
            if change is None:
                same += 1
            else:
                changes.append(change)
    changed = _measures(data.get("measures", {}), owner)
    if changed:
        changes.append(Change("measures", "your own measures", adds=False, fields=changed))
    return changes, same


def _in_order(key: str, things: list[dict[str, Any]]) -> list[tuple[int, dict[str, Any]]]:
    """Things with their places, those that others are made from before these."""
    left = list(enumerate(things))
    found: list[tuple[int, dict[str, Any]]] = []
    while left:
        names = {said["name"] for _, said in left}
        ready = [(at, said) for at, said in left if said.get("than") not in names]
        if not ready:
            raise Refused(f"{key}[{left[0][0]}].than", "These are made from each other, in a ring.")
        found += ready
        left = [one for one in left if one not in ready]
    return found


def _put_one(
    place: str, noun: str, model: type[Thing], said: dict[str, Any], owner: Owner
) -> Change | None:
    """Send what a file says of a thing through the form that it is typed in."""
    there = model.objects.filter(owner=owner, name=said["name"]).first()
    thing = there if there is not None else model(owner=owner)
    values = {f.name: getattr(thing, f.name) for f in model.told()} | _of_right_kinds(
        place, model, said
    )
    form_of = FORMS[model]
    try:
        data = typed(form_of, {**values, "than": None})
    except NotTyped as error:
        raise Refused(f"{place}.{error.name}", _WRONG_KIND) from error
    if values.get("than") is not None:
        data["than"] = str(_than(f"{place}.than", values["than"], owner))
    before = {} if there is None else there.said()
    form = form_of(data, instance=thing, owner=owner)
    if not form.is_valid():
        name, messages = next(iter(form.errors.items()))
        at = place if name == "__all__" else f"{place}.{name}"
        raise Refused(at, " ".join(map(str, messages)))
    thing = form.save(commit=False)
    if wrong := faults(thing):
        name, message = next(iter(wrong.items()))
        raise Refused(f"{place}.{name}", message)
    now = thing.said()
    differs = tuple(name for name in now if there is None or before[name] != now[name])
    if there is not None and not differs:
        return None
    if there is None:
        try:
            quota.check(owner, model.with_deleted.all(), f"{noun}s")
        except quota.Full as full:
            raise Refused(place, full.sentence) from full
    try:
        with transaction.atomic():
            thing.save()
    except (IntegrityError, OverflowError) as error:
        raise Refused(place, "Its values do not go together.") from error
    return Change(noun, thing.name, there is None, tuple(n for n in differs if n in said))


_WRONG_KIND = "This is the wrong kind of value."


def _of_right_kinds(place: str, model: type[Thing], said: dict[str, Any]) -> dict[str, Any]:
    """What is said, each of the kind that its field keeps. Raises Refused."""
    for field in model.told():
        value = said.get(field.name)
        if value is None:
            if field.name in said and not field.null:
                raise Refused(f"{place}.{field.name}", "A value is missing.")
            continue
        wanted = _KINDS.get(field.get_internal_type(), (str,))
        if not isinstance(value, wanted) or (isinstance(value, bool) and bool not in wanted):
            raise Refused(f"{place}.{field.name}", _WRONG_KIND)
        if isinstance(value, float) and not math.isfinite(value):
            raise Refused(f"{place}.{field.name}", "This is not a number.")
    return said


def _than(place: str, than: Any, owner: Owner) -> int:
    """The key of the standard that one is made from, by its name."""
    if isinstance(than, Standard):
        return than.pk
    other = Standard.objects.filter(owner=owner, name=than).first()
    if other is None:
        raise Refused(place, f"There is no standard called “{than}”.")
    return int(other.pk)


def _measures(said: Any, owner: Owner) -> tuple[str, ...]:
    if not isinstance(said, dict):
        raise Refused("measures", "This should be an object with named values.")
    limits = measure_limits()
    _only("measures.", said, limits)
    changed = []
    for name, value in said.items():
        low, high = limits[name]
        if (
            isinstance(value, bool)
            or not isinstance(value, (int, float))
            or not low <= value <= high
        ):
            raise Refused(f"measures.{name}", f"This should be a number from {low} to {high}.")
        if getattr(owner, name) != value:
            changed.append(name)
            setattr(owner, name, float(value))
    return tuple(changed)
