"""Whether a thing from the database is one that could have been typed.

What was kept by an older release, or put in past the forms, is read with the same care as what is
typed: it goes through its own form, and is tried. A broken thing is shown as broken and used by
nobody.
"""

from __future__ import annotations

import ast
import json
import math
from collections.abc import Iterable, Mapping
from decimal import Decimal
from functools import lru_cache
from typing import Any, TypeVar

from django import forms

from drawing import ring
from optics.base.errors import OpticsError
from web.bag.body_form import BodyForm
from web.bag.forms import AttachmentForm, StandardForm
from web.bag.layout import ThingForm
from web.bag.lens_form import LensForm
from web.bag.models import Attachment, Body, Lens, Standard, Thing, Turn
from web.bag.touch import places
from web.people.models import Owner
from web.ui.fields import LengthField

Some = TypeVar("Some", bound=Thing)

FORMS: Mapping[type[Thing], type[ThingForm]] = {
    Body: BodyForm,
    Lens: LensForm,
    Standard: StandardForm,
    Attachment: AttachmentForm,
}
_ANYBODY = Owner()


def sound(things: Iterable[Some]) -> list[Some]:
    """Those that are whole."""
    return [thing for thing in things if not faults(thing)]


def broken(things: Iterable[Some]) -> list[Some]:
    """Those that are not."""
    return [thing for thing in things if faults(thing)]


def faults(thing: Thing) -> Mapping[str, str]:
    """What is wrong with a thing, by field; empty where nothing is."""
    found = _own_faults(thing)
    if found or not isinstance(thing, Standard) or thing.than_id is None:
        return found
    return _of_others(thing)


def _of_others(standard: Standard) -> Mapping[str, str]:
    """What is wrong with the standards that one is made from."""
    seen: set[int] = set()
    other: Standard | None = standard
    while other is not None:
        if other.pk in seen:
            return {"than": "It is made from itself."}
        seen.add(other.pk)
        if other is not standard and _own_faults(other):
            return {"than": f"“{other.name}”, which it is made from, is broken."}
        other = other.than
    return {}


def _own_faults(thing: Thing) -> Mapping[str, str]:
    model = type(thing)
    values = tuple(_key(getattr(thing, field.attname)) for field in model.told())
    return _faults(model, values)


def as_kept(thing: Thing) -> dict[str, str]:
    """What a thing's form would be sent to make it as it is; what nobody could have typed is left
    empty."""
    form_of = FORMS[type(thing)]
    data = {"sure_of_pixels": "on"}
    for at, field in form_of.base_fields.items():
        if at in data or not hasattr(thing, at):
            continue
        value = getattr(thing, at)
        try:
            data[at] = str(value.pk) if isinstance(value, Thing) else _text(at, field, value)
        except (TypeError, ValueError, AttributeError):
            data[at] = ""
    return data


def _key(value: Any) -> Any:
    """A value that can be a key; what JSON holds by how it is written."""
    return (type(value), repr(value)) if isinstance(value, (list, dict, float)) else value


@lru_cache(maxsize=4096)
def _faults(model: type[Thing], keys: tuple[Any, ...]) -> Mapping[str, str]:
    values = {field.attname: _value(key) for field, key in zip(model.told(), keys, strict=True)}
    form_of = FORMS[model]
    try:
        data = typed(form_of, {f.name: values[f.attname] for f in model.told()})
    except NotTyped as error:
        return {error.name: "This is the wrong kind of value."}
    form = form_of(data, instance=model(**values), owner=_ANYBODY, apart=True)
    if not form.is_valid():
        return {at: " ".join(map(str, said)) for at, said in form.errors.items()}
    try:
        _tried(model(**values))
    except OpticsError as error:
        return {"marks" if model is Lens else "name": error.sentence}
    except (ArithmeticError, ValueError, TypeError):
        return {"name": "Nothing can be computed from its values."}
    return {}


def _value(key: Any) -> Any:
    if isinstance(key, tuple):
        kind, text = key
        return float(text) if kind is float else _listed(text)
    return key


def _listed(text: str) -> Any:
    try:
        return ast.literal_eval(text)
    except (ValueError, SyntaxError):  # nan or inf in a list
        return text


def _tried(thing: Thing) -> None:
    """Do with it what the pages do."""
    if isinstance(thing, Lens):
        places(thing, thing.hands)
        drawn_ring(thing, "m")
    elif isinstance(thing, Body):
        _ = thing.frame, thing.pitch, thing.series, thing.crop_factor
    elif isinstance(thing, Attachment):
        _ = thing.stops


def drawn_ring(lens: Lens, system: str, at: float | None = None) -> ring.RingPicture:
    """A lens's ring as seen from behind, with its measured marks if there are any, and a line
    ``at`` a distance, mm."""
    engraved = lens.engraved(system)
    closest = min(lens.measured, default=lens.closest_or_assumed.value)
    near_right = lens.to_infinity == Turn.CLOCKWISE
    return ring.draw(ring.CARD, lens.ring, closest, system, engraved, at, near_right=near_right)


def straight_down(lens: Lens) -> float | None:
    """The distance, mm, at which a lens's tab points straight down; None if it has none there."""
    return None if lens.tab_at_infinity_hours is None else lens.hands.distance_where(math.pi)


class NotTyped(ValueError):
    """A value that nobody could have typed. ``name``: of its field."""

    def __init__(self, name: str) -> None:
        self.name = name
        super().__init__(name)


def typed(form_of: type[ThingForm], values: Mapping[str, Any]) -> dict[str, str]:
    """Values as their form would be sent, exactly. Raises NotTyped."""
    data = {"sure_of_pixels": "on"}
    for at, field in form_of.base_fields.items():
        if at not in values:
            continue
        value = values[at]
        try:
            data[at] = _text(at, field, value)
        except (TypeError, ValueError, AttributeError) as error:
            raise NotTyped(at) from error
    return data


def _text(name: str, field: forms.Field, value: Any) -> str:
    if value is None:
        return ""
    if isinstance(field, forms.BooleanField):
        return "on" if value else ""
    if name == "marks":
        return "\n".join(f"{'inf' if mm is None else _plain(mm) + ' mm'}: {_plain(turn)}"
                         for mm, turn in value)  # fmt: skip
    if name == "findings":
        return json.dumps(value) if value else ""
    if name == "depth_marks":
        return " ".join(map(_plain, value))
    if isinstance(field, LengthField):
        return f"{_plain(value)} mm"
    return value if isinstance(value, str) else _plain(value)


def _plain(number: Any) -> str:
    """A number with all its figures and no exponent. Raises TypeError, ValueError."""
    if isinstance(number, bool) or not isinstance(number, (int, float)):
        raise TypeError
    if isinstance(number, float) and not math.isfinite(number):
        raise ValueError
    exact = repr(float(number)) if isinstance(number, float) else str(int(number))
    return format(Decimal(exact).normalize(), "f")
