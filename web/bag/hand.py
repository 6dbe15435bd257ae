"""In hand: what is chosen from the bag for a planner, and what that choice means in its link.

A planner's link carries plain numbers, so that it says the same to everybody. The panel shows which
things of the bag they are, if any; choosing another changes the numbers, and the choice is
remembered for the next scene.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any

from optics import units
from optics.aperture import THIRDS
from optics.formats import by_key
from web.bag.models import OWN_FORMAT, Attachment, Body, InHand, Lens, Standard
from web.people.models import Owner

AS_TYPED = ""


@dataclass(frozen=True, slots=True)
class Choice:
    """A thing of the bag in a list. ``value``: its key as text."""

    value: str
    label: str
    chosen: bool


@dataclass(frozen=True, slots=True)
class Told:
    """What a link tells of a lens, for those in whose bag it is not: its widest and its smallest
    aperture, its closest focus in mm; None for what it does not tell."""

    apertures: tuple[float, float] | None = None
    closest: float | None = None


NOT_TOLD = Told()


class InUse:
    """The things of the bag that a planner's texts speak of; None for each that is in no bag.

    ``body`` is looked for only when it is asked for.
    """

    def __init__(
        self,
        lens: Lens | None = None,
        attachment: Attachment | None = None,
        find_body: Callable[[], Body | None] = lambda: None,
        told: Told = NOT_TOLD,
    ) -> None:
        self.lens, self.attachment, self._find_body = lens, attachment, find_body
        self._told = told

    def or_as_told(self, told: Told) -> InUse:
        """The same; but where no lens of the bag is in hand, with what a link tells of one."""
        return self if self.lens is not None else InUse(None, None, self._find_body, told)

    @property
    def tells(self) -> Told:
        """What a link should tell of the lens in hand."""
        lens = self.lens
        if lens is None:
            return self._told
        longest = self.ends(lens.longest_mm * self.factor)
        shortest = self.ends(lens.shortest_mm * self.factor)
        ends = shortest if shortest == longest else None  # a zoom that darkens has no one range
        return Told(ends, None if self.attachment is not None else lens.closest_mm)

    @property
    def closest(self) -> float:
        """The nearest that it focuses, mm; 0 where nobody knows."""
        return self.tells.closest or 0.0

    @cached_property
    def body(self) -> Body | None:
        """The body of that format with those pixels."""
        return self._find_body()

    @property
    def factor(self) -> float:
        """What stands behind the lens does to its focal length, and so to its f-numbers."""
        return 1.0 if self.attachment is None else self.attachment.factor

    def ends(self, focal_length: float) -> tuple[float, float]:
        """The widest and the smallest aperture of the lens in hand, as ``apertures``."""
        if self.lens is None:
            assert self._told.apertures is not None
            return self._told.apertures
        widest = self.lens.widest_at(focal_length / self.factor) * self.factor
        return widest, self.lens.smallest_or_assumed.value * self.factor

    def apertures(self, focal_length: float) -> tuple[float, ...]:
        """The f-numbers that what is in hand can be set to, in the body's steps; all where no lens
        of the bag is. ``focal_length``: mm, with whatever is on the lens."""
        series = THIRDS if self.body is None else self.body.series
        if self.lens is None and self._told.apertures is None:
            return series.names
        widest, smallest = self.ends(focal_length)
        engraved = series.from_to(widest * (1 - _SAME), smallest * (1 + _SAME))
        return engraved or series.names


@dataclass(frozen=True, slots=True)
class Hand:
    """The lists of the panel, and what of the bag is in hand now."""

    bodies: tuple[Choice, ...]
    lenses: tuple[Choice, ...]
    attachments: tuple[Choice, ...]
    standards: tuple[Choice, ...]
    in_use: InUse

    @property
    def attachment(self) -> Attachment | None:
        """What is between lens and body."""
        return self.in_use.attachment


_SAME = 0.03
"""An f-number that close to the end of a lens's range is that end."""


def hand(owner: Owner, texts: Mapping[str, str]) -> Hand:
    """Which things of a bag a planner's texts speak of."""
    bodies = list(Body.objects.filter(owner=owner))
    lenses = list(Lens.objects.filter(owner=owner))
    standards = list(Standard.objects.filter(owner=owner).select_related("than"))
    body = next((b for b in bodies if _is_body(b, texts)), None)
    attachments = list(Attachment.objects.filter(owner=owner))
    lens, attachment = _named(texts["lens"], lenses, attachments)
    seen = body or _typed_body(texts)
    circles = {s.pk: s.circle(seen) for s in standards}
    counts = bool(texts["diffraction"])
    standard = next(
        (
            s
            for s in standards
            if _text(circles[s.pk]) == texts["circle_mm"] and s.counts_diffraction == counts
        ),
        None,
    )
    return Hand(
        bodies=_choices(bodies, body),
        lenses=_choices(lenses, lens),
        standards=tuple(
            Choice(str(s.pk), f"{s.name}, {_text(circles[s.pk])}", s == standard)
            for s in standards
            if circles[s.pk]
        ),
        attachments=_choices(attachments, attachment),
        in_use=InUse(lens, attachment, lambda: body),
    )


def in_use(whose: Owner | Mapping[str, Any], texts: Mapping[str, str]) -> InUse:
    """The things of a bag that a planner's texts speak of, without the lists.

    ``whose``: an owner, or a filter for their things (``owners.whose``).
    """
    own = whose if isinstance(whose, Mapping) else {"owner": whose}
    lens = attachment = None
    if " + " in texts["lens"]:
        attachments = list(Attachment.objects.filter(**own))
        lens, attachment = _named(texts["lens"], list(Lens.objects.filter(**own)), attachments)
    elif texts["lens"]:
        lens = _lens_named(own, texts["lens"])

    def find_body() -> Body | None:
        return next((b for b in Body.objects.filter(**own) if _is_body(b, texts)), None)

    return InUse(lens, attachment, find_body)


def _lens_named(own: Mapping[str, Any], name: str) -> Lens | None:
    """One lens of a bag. Asked at every answer, and writing such a query anew costs as much as all
    the optics: what the ORM wrote the first time is used again."""
    values = {key: getattr(value, "pk", value) for key, value in own.items()} | {"name": name}
    sql, places = _lens_query(tuple(values), tuple(value is True for value in values.values()))
    params = [values.get(place, place) for place in places]
    return next(iter(Lens.objects.raw(sql, params)), None)


@lru_cache(maxsize=8)
def _lens_query(keys: tuple[str, ...], flags: tuple[bool, ...]) -> tuple[str, tuple[Any, ...]]:
    """The query for a lens by some keys, and which key each of its parameters is of. A flag is
    written into the query itself."""
    # Numbers that stand for their keys: no parameter of its own is as large.
    marks = {_FIRST_MARK + at: key for at, key in enumerate(keys)}
    given = {
        key: True if flag else str(mark) if key == "name" else mark
        for (mark, key), flag in zip(marks.items(), flags, strict=True)
    }
    sql, params = Lens.objects.filter(**given).query.sql_with_params()
    return sql, tuple(marks.get(_whole(value), value) for value in params)


_FIRST_MARK = 7_000_001


def _whole(value: Any) -> int:
    return int(value) if str(value).isdecimal() else 0


def _named(
    text: str, lenses: list[Lens], attachments: list[Attachment]
) -> tuple[Lens | None, Attachment | None]:
    """The lens, and what is on it, that a planner's text names: ``50 mm + 1.4× converter``."""
    for lens in lenses:
        if text == lens.name:
            return lens, None
        for attachment in attachments:
            if text == _together(lens, attachment):
                return lens, attachment
    return None, None


def _together(lens: Lens, attachment: Attachment | None) -> str:
    """Both names, as a planner's lens field says them; at most as long as that field takes."""
    return (lens.name if attachment is None else f"{lens.name} + {attachment.name}")[:80]


def _choices(
    things: Sequence[Body | Lens | Attachment], chosen: Body | Lens | Attachment | None
) -> tuple[Choice, ...]:
    return tuple(Choice(str(thing.pk), thing.name, thing == chosen) for thing in things)


def _text(circle: float | None) -> str:
    return "" if circle is None else f"{units.significant(circle, 4):g}"


def _is_body(body: Body, texts: Mapping[str, str]) -> bool:
    pixels = "" if body.pixels_across is None else str(body.pixels_across)
    return (body.frame.key, pixels) == (texts["format"], texts["pixels_across"])


def _typed_body(texts: Mapping[str, str]) -> Body:
    """A body as far as a planner's texts describe one."""
    frame = by_key(texts["format"]) or by_key("full-frame")
    assert frame is not None
    pixels = texts["pixels_across"]
    return Body(
        format=OWN_FORMAT,
        own_width_mm=frame.width,
        own_height_mm=frame.height,
        pixels_across=int(pixels) if pixels.isdecimal() and int(pixels[:9]) else None,
    )


def taken(
    texts: Mapping[str, str],
    body: Body | None,
    lens: Lens | None,
    standard: Standard | None,
    attachment: Attachment | None = None,
    factor_before: float = 1.0,
) -> dict[str, str]:
    """A planner's texts after a choice: only what the choice means changes.

    A zoom keeps the focal length if it has it, else its nearer end; the aperture likewise. A
    standard is a circle on the body, so another body changes it too. A converter or reducer
    multiplies focal length and f-number alike; ``factor_before`` is of what was on until now.
    """
    new = dict(texts)
    if body is not None:
        new["format"] = body.frame.key
        new["pixels_across"] = "" if body.pixels_across is None else str(body.pixels_across)
    if lens is not None:
        factor = 1.0 if attachment is None else attachment.factor
        new["lens"] = _together(lens, attachment)
        focal_length = _clamped(
            texts["focal_length_mm"], lens.shortest_mm, lens.longest_mm, factor_before
        )
        new["focal_length_mm"] = f"{units.significant(focal_length * factor, 4):g}"
        widest, smallest = lens.widest_at(focal_length), lens.smallest_or_assumed.value
        f_number = _clamped(
            texts["f_number"], units.significant(widest, 3), smallest, factor_before
        )
        new["f_number"] = f"{units.significant(f_number * factor, 3):g}"
    if standard is not None:
        circle = standard.circle(body or _typed_body(new))
        new["circle_mm"] = _text(circle) or texts["circle_mm"]
        new["diffraction"] = "1" if standard.counts_diffraction else ""
    return new


def _clamped(text: str, low: float, high: float, over: float = 1.0) -> float:
    try:
        value = float(text.replace(",", ".")) / over
    except ValueError:
        return low
    return min(max(value, low), high) if value == value else low


def remember(
    owner: Owner,
    body: Body | None,
    lens: Lens | None,
    standard: Standard | None,
    attachment: Attachment | None,
    texts: Mapping[str, str],
) -> None:
    """Keep the choice, with its focal length and aperture."""
    InHand.objects.update_or_create(
        owner=owner,
        defaults={
            "body": body,
            "lens": lens,
            "standard": standard,
            "attachment": attachment,
            "focal_length_mm": _clamped(texts["focal_length_mm"], 1.0, 3000.0),
            "f_number": _clamped(texts["f_number"], 0.5, 128.0),
        },
    )


def gear_of(owner: Owner, usual: Mapping[str, str]) -> dict[str, str]:
    """What a planner opens with: the last choice, in texts; ``usual`` where nothing was chosen."""
    chosen = (
        InHand.objects.filter(owner=owner)
        .select_related("body", "lens", "attachment", "standard", "standard__than")
        .first()
    )
    gear = {**usual, "units": owner.units}
    if chosen is None:
        return gear
    if chosen.focal_length_mm and chosen.f_number:
        gear["focal_length_mm"] = f"{chosen.focal_length_mm:g}"
        gear["f_number"] = f"{chosen.f_number:g}"
    factor = 1.0 if chosen.attachment is None else chosen.attachment.factor
    return taken(gear, chosen.body, chosen.lens, chosen.standard, chosen.attachment, factor)


def factor_of(owner: Owner, texts: Mapping[str, str]) -> float:
    """What the attachment that a planner's texts name does to the focal length; 1 for none."""
    return in_use(owner, texts).factor
