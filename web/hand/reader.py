"""The reader of what is in hand: one for every planner.

Nothing typed is dropped: what cannot be used keeps its text and gets a message, and the last value
that made sense stands in for it, so that there is always an answer.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics import Kit
from optics.base.formats import Format, by_key
from optics.lens.conjugates import nearest_focus
from web.bag.models import Standard
from web.hand.asker import ANYBODY, Asker
from web.hand.fields import (
    ASSUMED,
    FIELDS,
    TEXT_LIMIT,
    TOLD,
    ZOOM,
    clean,
    last_good,
    meanwhile,
    opening_in,
    told,
)
from web.hand.in_use import InUse, circle_text
from web.hand.sensors import pixels_text, sensor_of
from web.hand.told import Pupils

TICKS = ("upright", "diffraction", "lens_ideal")
"""Boxes that every planner has: what is ticked says 1, whatever was sent."""

type_before = Callable[[], QueryDict | None]


@dataclass(frozen=True, slots=True)
class Hand:
    """What is in hand, read.

    ``texts``     of all of a planner's fields, as typed; ``given``: the names of those that were.
    ``values``    of the fields that could be read, and those that stand in for the others.
    ``errors``    by field name. ``assumed``: the fields that a link needs and did not have.
    ``in_use``    what of the bag it is.
    ``kit``, ``f_number``  the lens with its apertures and standard, and the one it is set to.
    ``rescaled``  the circle, as text, where it was made to go with another format just now.
    """

    texts: dict[str, str]
    given: frozenset[str]
    values: dict[str, Any]
    errors: dict[str, str]
    assumed: frozenset[str]
    in_use: InUse
    kit: Kit
    f_number: float
    rescaled: Mapping[str, str] = field(default_factory=dict)

    @property
    def frame(self) -> Format:
        """The format in hand."""
        found: Format = self.values["format"]
        return found

    @property
    def pixels_across(self) -> int | None:
        """Of the body in hand; None for film."""
        found: int | None = self.values["pixels_across"]
        return found

    @property
    def system(self) -> str:
        """The units that lengths are read in and written in."""
        return str(self.values["units"])

    @property
    def tested(self) -> bool:
        """Whether what tests found of the lens counts."""
        return bool(self.in_use.faults_at(self.kit.focal_length)) and not self.texts["lens_ideal"]

    @property
    def upright(self) -> bool:
        """Whether the camera is held upright."""
        return bool(self.texts["upright"])

    @property
    def sides(self) -> tuple[float, float]:
        """The picture's width and height as it is held, mm."""
        sides = (self.frame.width, self.frame.height)
        return sides[::-1] if self.upright else sides

    @property
    def lens_reaches(self) -> float:
        """The nearest that any lens of that focal length could focus, mm."""
        return nearest_focus(self.kit.at(self.f_number))


def read_hand(
    data: QueryDict,
    gear: Mapping[str, str],
    before: type_before = lambda: None,
    who: Asker = ANYBODY,
    *,
    fields: Mapping[str, forms.Field] = FIELDS,
    ticks: Iterable[str] = TICKS,
    changed: Callable[[dict[str, str], frozenset[str]], None] | None = None,
) -> Hand:
    """Read what is in hand, and clean a planner's own ``fields`` along with it.

    ``gear``     every text of the planner's link with what it opens with.
    ``before``   gives the link to fall back on for what cannot be used, before ``gear`` is.
    ``fields``   those of every planner, and of this one; ``ticks``: its boxes.
    ``changed``  mends the texts where one that is missing means more than its usual; is given them
                 and the names that were given.
    """
    said = {name: _text(data[name]) for name in gear if name in data}
    texts = {**opening_in(said.get("units", gear["units"]), gear), **said}
    given = frozenset(said)
    if "lens" not in given and "focal_length_mm" in given:
        texts["lens"] = ""  # the sample's lens is not the one in hand
    if ZOOM.fullmatch(texts["focal_length_mm"].lower()):
        texts.update(dict.fromkeys(("lens", *TOLD), ""))  # nor is any, under a zoom as typed
    earlier = before()
    rescaled = scaled(texts, earlier, lambda was: who.in_use(was).standard)
    texts |= rescaled
    if changed is not None:
        changed(texts, given)
    for box in ticks:
        texts[box] = "1" if texts[box] else ""
    values, errors = clean(fields, {**texts, "pixels_across": pixels_text(texts)})
    if errors:
        values = {**last_good(fields, gear, earlier), **values}
        errors = {name: f"{text}{meanwhile(name, values)}" for name, text in errors.items()}
    in_use = who.in_use(texts).or_as_told(told(texts))
    in_use.counts_tests = not texts["lens_ideal"]
    in_use.focal_length = values["focal_length_mm"]
    return Hand(
        texts=texts,
        given=given,
        values=values,
        errors=errors,
        assumed=ASSUMED - given,
        in_use=in_use,
        kit=kit_of(
            values,
            in_use,
            counts_diffraction=bool(texts["diffraction"]),
            ideal=bool(texts["lens_ideal"]),
        ),
        f_number=values["f_number"],
        rescaled=rescaled,
    )


def scaled(
    texts: Mapping[str, str],
    earlier: QueryDict | None,
    standard_of: Callable[[Mapping[str, str]], Standard | None],
) -> dict[str, str]:
    """The circle that goes with another format than was in hand before: the same standard on it, or
    as much larger as the picture. Empty where the format is the same, or the circle is another."""
    if earlier is None or not {"format", "circle_mm"} <= earlier.keys():
        return {}
    was = {**texts, **{name: str(earlier[name]) for name in _STANDARD if name in earlier}}
    old, new = by_key(was["format"]), by_key(texts["format"])
    if old is None or new is None or old == new or was["circle_mm"] != texts["circle_mm"]:
        return {}
    standard = standard_of(was)
    circle = None if standard is None else standard.circle(sensor_of(texts))
    if circle is None:
        try:
            before: float = FIELDS["circle_mm"].clean(texts["circle_mm"])
        except ValidationError:
            return {}
        circle = before * new.diagonal / old.diagonal
    return {"circle_mm": circle_text(circle)}


_STANDARD = ("format", "pixels_across", "circle_mm", "diffraction")
"""What says which standard is in hand."""


def _text(value: object) -> str:
    return str(value).strip()[: TEXT_LIMIT * 2]


class Offered(Sequence[float]):
    """The f-numbers that what is in hand can be set to. They depend on the steps of the body, and
    most answers ask for none: the body is looked for only when one does."""

    def __init__(self, in_use: InUse, focal_length: float) -> None:
        self._in_use, self._focal_length = in_use, focal_length

    @cached_property
    def numbers(self) -> tuple[float, ...]:
        """All of them."""
        return self._in_use.apertures(self._focal_length)

    def __len__(self) -> int:
        return len(self.numbers)

    def __iter__(self) -> Iterator[float]:
        return iter(self.numbers)

    def __getitem__(self, at: Any) -> Any:
        return self.numbers[at]

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Sequence) and self.numbers == tuple(other)

    def __hash__(self) -> int:
        return hash(self.numbers)


def kit_of(
    values: Mapping[str, Any], in_use: InUse, *, counts_diffraction: bool, ideal: bool = False
) -> Kit:
    """The lens with its apertures, and the standard; with its pupils where they are known, and what
    its tests found, unless it is to count as ``ideal``."""
    focal_length = values["focal_length_mm"]
    pupils = in_use.pupils_at(focal_length) or Pupils(1.0, 0.0)
    return (
        Kit(
            focal_length=focal_length,
            coc=values["circle_mm"],
            pupil_ratio=pupils.ratio,
            hiatus=pupils.hiatus,
            diffraction=counts_diffraction,
            apertures=Offered(in_use, focal_length),
            closest=in_use.closest,
        )
        .with_faults(() if ideal else in_use.faults_at(focal_length))
        .with_ring_off(in_use.tells.ring_off)
    )
