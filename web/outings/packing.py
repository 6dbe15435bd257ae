"""What to pack for an outing, by what is taken out on it and what it is like there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from web.bag.models import Body
from web.outings.models import Outing
from web.outings.taken_out import TakenOut
from web.ui.care import PEOPLE, minded


@dataclass(frozen=True, slots=True)
class Packed:
    """Something to pack, and what for."""

    what: str
    why: str = ""


def packing(outing: Outing, there: Sequence[TakenOut]) -> list[Packed]:
    """What to pack, gear first."""
    bodies: dict[str, Body | None] = {}
    lenses: dict[str, list[str]] = {}
    behind: dict[str, list[str]] = {}
    filters: dict[str, list[str]] = {}
    for one in there:
        texts, in_use = one.reading.texts, one.reading.in_use
        if in_use.body is not None:
            bodies[in_use.body.name] = in_use.body
        for thing, into in ((in_use.lens, lenses), (in_use.attachment, behind)):
            if thing is not None:
                into.setdefault(thing.name, []).append(one.name)
        if texts.get("nd"):
            filters.setdefault(f"{texts['nd']} filter", []).append(one.name)
    kinds = {one.kind.key for one in there}
    found = [Packed(name) for name in bodies]
    for named in (lenses, behind, filters):
        found += [Packed(name, _for(names)) for name, names in named.items()]
    if kinds & {"plan", "night"}:
        found.append(Packed("Tripod"))
        if not any(body is not None and body.release for body in bodies.values()):
            found.append(Packed("Cable to release with", "or use the delay"))
    found.append(
        Packed("Batteries, cards", "cold halves them" if "night" in outing.grounds else "")
    )
    found += [Packed(what, why) for ground in outing.grounds for what, why in _AT.get(ground, ())]
    if "night" in kinds and "night" not in outing.grounds:
        found += [Packed(what, why) for what, why in _AT["night"]]
    found.append(Packed("What was taken along, or its cards", "no signal is needed for either"))
    return found


_AT = {
    "water": (("Dry cloths", "spray on the front is soft everywhere"), ("Boots that hold", "")),
    "edges": (("Helmet under faces of rock", ""),),
    "night": (
        ("Red torch", "and a spare"),
        ("Tape for the ring", ""),
        ("Something warm to stand about in", ""),
    ),
    "sun": (("Certified solar filter", "or keep the sun hidden"),),
    "road": (("Something that is seen by drivers", ""),),
}


def _for(names: list[str]) -> str:
    return f"for {', '.join(dict.fromkeys(names))}"


def care(outing: Outing, there: Sequence[TakenOut]) -> list[str]:
    """What to mind there."""
    keys = set(outing.grounds)
    if any(one.kind.key == "night" for one in there):
        keys.add("night")
    *found, always = minded(keys)
    if "people" in keys or any(one.kind.key == "set" for one in there):
        found.append(PEOPLE[1])
    return [*found, always]
