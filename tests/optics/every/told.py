"""What an answer says, in lines: every field and every property of it.

Lines are ``place = value``; numbers are compared to eight figures: the last bit of
another machine is no difference.
"""

from __future__ import annotations

import enum
import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import fields, is_dataclass
from inspect import getattr_static
from typing import Any

import numpy as np

from optics import OpticsError

DEEPEST = 6
MOST_ITEMS = 60
RELATIVE, ABSOLUTE = 1e-8, 1e-9


def told(value: Any, place: str = "", deep: int = 0) -> Iterator[str]:
    """The lines of any value."""
    if isinstance(value, enum.Enum):
        yield f"{place} = {type(value).__name__}.{value.name}"
    elif value is None or isinstance(value, (bool, str)):
        yield f"{place} = {value!r}"
    elif isinstance(value, (int, float, np.number)):
        yield f"{place} = {float(value):.10g}"
    elif isinstance(value, np.ndarray):
        yield from told(value.tolist(), place, deep)
    elif isinstance(value, Mapping):
        for key, item in list(value.items())[:MOST_ITEMS]:
            yield from told(item, f"{place}[{key}]", deep + 1)
    elif isinstance(value, (list, tuple, set, frozenset, range)):
        items = sorted(value, key=repr) if isinstance(value, (set, frozenset)) else list(value)
        yield f"{place} has {len(items)}"
        for at, item in enumerate(items[:MOST_ITEMS]):
            yield from told(item, f"{place}[{at}]", deep + 1)
    elif callable(value) or not type(value).__module__.startswith(("optics", "drawing")):
        yield f"{place} is {type(value).__name__}"
    elif deep >= DEEPEST:
        yield f"{place} is {type(value).__name__}, not looked into"
    else:
        for name in names_of(type(value)):
            yield from told(tried(getattr, value, name), f"{place}.{name}", deep + 1)


def names_of(kind: type) -> list[str]:
    """The fields and the properties of a class, as far as they are public."""
    own = [one.name for one in fields(kind)] if is_dataclass(kind) else []
    for name in dir(kind):
        if type(getattr_static(kind, name)).__name__ in ("property", "cached_property"):
            own.append(name)
    return sorted({name for name in own if not name.startswith("_")})


def tried(function: Callable[..., Any], /, *given: Any, **named: Any) -> Any:
    """What it gives, or what it says of the input."""
    try:
        with np.errstate(all="ignore"):
            return function(*given, **named)
    except OpticsError as error:
        given = error.value
        value = f"{given:.6g}" if isinstance(given, float) else str(given)
        return f"{type(error).__name__} of {error.name}, {value}: {error.sentence}"
    except (ArithmeticError, AssertionError, AttributeError, TypeError, ValueError) as error:
        return f"escaped: {type(error).__name__}"


def differences(before: list[str], now: list[str]) -> list[str]:
    """The lines that say something else, what they said first."""
    found = [f"{old} → {new}" for old, new in zip(before, now, strict=False) if not same(old, new)]
    if len(before) != len(now):
        found.append(f"{len(before)} lines → {len(now)} lines")
    return found


def same(old: str, new: str) -> bool:
    """Whether two lines say the same."""
    if old == new:
        return True
    (place, _, before), (other, _, now) = old.partition(" = "), new.partition(" = ")
    try:
        return place == other and math.isclose(
            float(before), float(now), rel_tol=RELATIVE, abs_tol=ABSOLUTE
        )
    except ValueError:
        return False
