"""Every public function, method, constructor and constant of the optics, called as it may be."""

from __future__ import annotations

import inspect
import itertools
import pkgutil
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from enum import Enum
from importlib import import_module
from types import ModuleType
from typing import Any

import numpy as np

import optics
from optics.sky.parts import Part
from tests.optics.every.commands import all_printed
from tests.optics.every.names import ODD
from tests.optics.every.population import Population
from tests.optics.every.told import MOST_ITEMS, told, tried

TIMES, TIMES_OF_SCENES = 40, 80
"""How often each is called; what works out whole scenes takes longer."""
TAKE_THEIR_WORD = ("optics.base.search", "optics.lens.wave")
"""The innermost: they are given what was looked at before, and do not look again."""
LEFT_OUT = {
    "optics.base.numbers.OfNumbers", "optics.base.systems.UnitSystem", "optics.base.units.Unit",
    "optics.base.errors.require", "optics.lens.wave.Table",
    "optics.zones.coverage.holding_most",  # its arguments make sense only together; choose uses it
}  # fmt: skip


@dataclass(frozen=True)
class Called:
    """A function by its full name; ``owner``: the class it is a method of."""

    name: str
    function: Callable[..., Any]
    owner: type | None = None


def rooms() -> Iterator[ModuleType]:
    """The modules of the optics but those that read and write."""
    for found in pkgutil.walk_packages(optics.__path__, "optics."):
        if "command" not in found.name and not found.name.endswith("__main__"):
            yield import_module(found.name)


def every() -> Iterator[Called]:
    """All that can be called."""
    for module in rooms():
        for name, value in sorted(vars(module).items()):
            full = f"{module.__name__}.{name}"
            own = getattr(value, "__module__", "") == module.__name__
            if name.startswith("_") or not own or full in LEFT_OUT:
                continue
            if inspect.isclass(value):
                if issubclass(value, (Enum, BaseException)):
                    continue
                yield Called(full, value)
                yield from methods(full, value)
            elif inspect.isroutine(value) or hasattr(value, "__wrapped__"):
                yield Called(full, value)


def methods(full: str, kind: type) -> Iterator[Called]:
    """The public ones of a class."""
    for name, value in sorted(vars(kind).items()):
        if name.startswith("_"):
            continue
        if isinstance(value, classmethod):
            yield Called(f"{full}.{name}", getattr(kind, name))
        elif inspect.isfunction(value):
            yield Called(f"{full}.{name}", value, kind)


def constants() -> Iterator[tuple[str, Any]]:
    """What stands in capitals in the modules."""
    for module in rooms():
        for name, value in sorted(vars(module).items()):
            if name.isupper() and not name.startswith("_") and not inspect.ismodule(value):
                yield f"{module.__name__}.{name}", value


def arguments(called: Called, population: Population) -> tuple[list[Any], dict[str, Any]]:
    """One set of them; those with a default are left out now and then."""
    given, named = list[Any](), dict[str, Any]()
    where = called.function.__module__
    for name, parameter in inspect.signature(called.function).parameters.items():
        kind = str(parameter.annotation)
        if name == "self":
            assert called.owner is not None
            given.append(population.of("self", called.owner.__name__, where))
            continue
        if parameter.kind is parameter.VAR_POSITIONAL:
            given += population.many(name, kind, where)
            continue
        if parameter.default is not parameter.empty and population.random.random() < 0.35:
            continue
        named[name] = population.of(name, kind, where)
    return given, in_order(named)


def in_order(named: dict[str, Any]) -> dict[str, Any]:
    """Near before far, as it is mostly given."""
    for low, high in (("near", "far"), ("nearest", "farthest"), ("start", "end"),
                      ("nearer", "farther")):  # fmt: skip
        both = [named.get(one) for one in (low, high)]
        if all(isinstance(one, float) for one in both) and both[0] > both[1]:
            named[low], named[high] = both[::-1]
    return named


def only_answered(called: Called) -> bool:
    """Whether it is the class of an answer, which nobody makes but the optics."""
    if not inspect.isclass(called.function):
        return False
    try:
        for at in range(TIMES):  # some may be left out, or be None
            made(called, Population(f"{called.name} {at}"))
    except LookupError:
        return True
    return False


Said = dict[str, list[list[str] | None]]
"""By name: what each call said, in lines; None for one that was left out."""


def says(called: Called, one_in: int) -> list[list[str] | None]:
    """What it says, called one time in so many; each call has luck of its own."""
    slow = ".scene." in called.name or "tiling" in called.name or "from_list" in called.name
    usual: list[dict[str, float]] = [{}] * (TIMES_OF_SCENES if slow else TIMES)
    found = list[list[str] | None]()
    for at, odd in enumerate([*usual, *({name: value} for name, value in oddly(called))]):
        if at % one_in:
            found.append(None)
            continue
        given, named = made(called, Population(f"call {at} of {called.name}"))
        found.append(answered(called, given, named | odd))
    return found


def answered(called: Called, given: list[Any], named: dict[str, Any]) -> list[str]:
    """What a call gives, in lines."""
    value = tried(called.function, *given, **named)
    if inspect.isgenerator(value):
        value = tried(list, itertools.islice(value, MOST_ITEMS))
    if isinstance(value, Part):
        value = (value, value.outline(np.linspace(0.0, 1.0, 17)))
    return list(told(value))


def oddly(called: Called) -> Iterator[tuple[str, float]]:
    """Each of its numbers as nobody means it, one at a time."""
    if called.function.__module__ in TAKE_THEIR_WORD:
        return
    for name, parameter in inspect.signature(called.function).parameters.items():
        if str(parameter.annotation) in ("float", "npt.ArrayLike", "float | None"):
            for odd in ODD:
                yield name, odd


def made(called: Called, population: Population) -> tuple[list[Any], dict[str, Any]]:
    """Arguments that can be made: a scene may be refused while it is built."""
    while True:
        try:
            with np.errstate(all="ignore"):
                return arguments(called, population)
        except optics.OpticsError:
            continue


def all_said(room: str = "", one_in: int = 1) -> Said:
    """What everything says, of one room or of all. Constants say one thing."""
    begins = f"optics.{room}"
    said: Said = {
        called.name: says(called, one_in)
        for called in every()
        if called.name.startswith(begins) and not only_answered(called)
    }
    if room == "command." or not room:
        said |= all_printed()
    fixed: Said = {
        name: [list(told(value))] for name, value in constants() if name.startswith(begins)
    }
    return said | fixed
