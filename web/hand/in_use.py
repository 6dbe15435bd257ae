"""The things of a bag that a planner's texts speak of, found without the lists of the panel.

Asked at every answer, so it looks for no more than an answer needs.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from functools import cached_property, lru_cache
from typing import Any, TypeVar, cast

from django.db import connection

from optics.base import units
from optics.lens.aperture import THIRDS
from optics.lens.focusing import Tried
from optics.lens.kit import Fault
from optics.lens.touch import Hands
from web.bag.counted import faults, ring_off, ways_of
from web.bag.models import Attachment, Body, InHand, Lens, Standard, Thing
from web.bag.soundness import sound
from web.bag.standards import Sensor
from web.bag.touch import Felt, places
from web.hand.naming import named
from web.hand.sensors import body_of, sensor_of
from web.hand.told import NOT_TOLD, Pupils, Told
from web.people.models import Owner

Kind = TypeVar("Kind", bound=Thing)


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
        find_standard: Callable[[], Standard | None] = lambda: None,
    ) -> None:
        self.lens, self.attachment, self._find_body = lens, attachment, find_body
        self._told, self._find_standard = told, find_standard
        self.focal_length: float | None = None
        """That it is used at, mm, once it is known: of a ring that has it not, nothing is said."""
        self.counts_tests = True
        """Whether what tests found counts: a link may leave it out."""

    def or_as_told(self, told: Told) -> InUse:
        """The same; but where no lens of the bag is in hand, with what a link tells of one."""
        if self.lens is not None:
            return self
        return InUse(None, None, self._find_body, told, self._find_standard)

    @property
    def tells(self) -> Told:
        """What a link should tell of the lens in hand."""
        lens = self.lens
        if lens is None:
            return self._told
        longest = self.ends(lens.longest_mm * self.factor)
        shortest = self.ends(lens.shortest_mm * self.factor)
        ends = shortest if shortest == longest else None  # a zoom that darkens has no one range
        if self.attachment is not None:
            found = faults(lens.found, self.focal_length, self.attachment.name)
            return Told(ends, faults=found)  # it makes other distances and pupils of a lens
        pupils = None
        if lens.pupil_ratio is not None or lens.hiatus_mm is not None:
            pupils = Pupils(lens.pupil_ratio or 1.0, lens.hiatus_mm or 0.0)
        found = faults(lens.found, self.focal_length)
        return Told(ends, lens.closest_mm, pupils, lens.ring_off_mm or 0.0, found)

    def faults_at(self, focal_length: float) -> tuple[Fault, ...]:
        """What tests found of the lens in hand, at a focal length, mm."""
        if self.lens is None:
            return self._told.faults
        if not self.lens.findings:
            return ()
        return faults(self.lens.found, focal_length, self.behind)

    def ring_off_at(self, focal_length: float) -> float:
        """How much more the lens in hand stands out than its ring reads, by its tests, mm."""
        if self.lens is None or not self.lens.findings:
            return 0.0
        return ring_off(self.lens.found, focal_length, self.behind)

    @property
    def behind(self) -> str:
        """The name of what stands behind the lens; empty for nothing."""
        return "" if self.attachment is None else self.attachment.name

    @property
    def tried(self) -> dict[str, Tried]:
        """How well ways of focusing did in tests of the lens in hand on the body in hand, where
        those count."""
        return self.known_ways if self.counts_tests else {}

    @property
    def known_ways(self) -> dict[str, Tried]:
        """The same, whether they count or not."""
        if self.lens is None or self.body is None or not self.lens.findings:
            return {}
        return ways_of(self.lens.found, self.body.name)

    def pupils_at(self, focal_length: float) -> Pupils | None:
        """The pupils of the lens in hand; None where they are not known, or not at a focal length,
        mm: those of a lens that has not got it are no guide, nor are any that no lens has."""
        lens, pupils = self.lens, self.tells.pupils
        if pupils is None or (lens is not None and not self._has(lens, focal_length)):
            return None
        low, high = (share * focal_length for share in BELIEVABLE_HIATUS)
        return pupils if low <= pupils.hiatus <= high else None

    def _has(self, lens: Lens, focal_length: float) -> bool:
        own = focal_length / self.factor
        return lens.shortest_mm * (1 - _SAME) <= own <= lens.longest_mm * (1 + _SAME)

    @property
    def closest(self) -> float:
        """The nearest that it focuses, mm; 0 where nobody knows."""
        return self.tells.closest or 0.0

    @property
    def shows_distance(self) -> bool:
        """Whether the ring in hand is known to show distances, or nothing is known of it."""
        return self.lens is None or self.lens.has_scale

    @property
    def front(self) -> float | None:
        """From the sensor mark to the front of the lens in hand, mm; None where nobody knows it."""
        return None if self.lens is None or self.attachment is not None else self.lens.front_mm

    @cached_property
    def body(self) -> Body | None:
        """The body of that format with those pixels."""
        return self._find_body()

    @cached_property
    def standard(self) -> Standard | None:
        """The named standard that the circle is of."""
        return self._find_standard()

    @cached_property
    def hands(self) -> Hands | None:
        """The ring of the lens in hand as hands turn it; None where nobody knows it, or where what
        stands behind the lens makes other distances of it."""
        lens = self.lens
        known = lens is not None and lens.has_scale and self.ring_is_known
        return lens.hands if lens is not None and known else None

    @property
    def ring_is_known(self) -> bool:
        """Whether the ring of a lens in hand goes by its own distances, at this focal length."""
        if self.lens is None or self.attachment is not None:
            return False
        return self.focal_length is None or self._has(self.lens, self.focal_length)

    @cached_property
    def felt(self) -> tuple[Felt, ...]:
        """What of that a thumb finds without looking."""
        return () if self.lens is None or self.hands is None else places(self.lens, self.hands)

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


BELIEVABLE_HIATUS = (-2.0, 25.0)
"""In focal lengths: with less, four of them from subject to sensor would be none."""
_SAME = 0.03
"""An f-number that close to the end of a lens's range is that end."""


def in_use(whose: Owner | Mapping[str, Any], texts: Mapping[str, str]) -> InUse:
    """The things of a bag that a planner's texts speak of, without the lists.

    ``whose``: an owner, or a filter for their things (``owners.whose``).
    """
    own = whose if isinstance(whose, Mapping) else {"owner": whose}
    lens = attachment = None
    if " + " in texts["lens"]:
        attachments = sound(Attachment.objects.filter(**own))
        lens, attachment = named(texts["lens"], sound(Lens.objects.filter(**own)), attachments)
    elif texts["lens"]:
        lens = next(iter(_things(Lens, own, name=texts["lens"])), None)

    def find_body() -> Body | None:
        return body_of(_things(Body, own), texts, lambda: chosen_body(own))

    def find_standard() -> Standard | None:
        # A circle goes by the format and the pixels, which the texts say: no body is asked for.
        counts = bool(texts["diffraction"])
        return standard_of(_standards(own, counts=counts), sensor_of(texts), texts)

    return InUse(lens, attachment, find_body, find_standard=find_standard)


def chosen_body(own: Mapping[str, Any]) -> int | None:
    """The key of the body that was last taken in hand. ``own``: a filter for an owner's things."""
    return InHand.objects.filter(**own).values_list("body_id", flat=True).first()


def standard_of(
    standards: Iterable[Standard], body: Body | Sensor, texts: Mapping[str, str]
) -> Standard | None:
    """The standard whose circle on a body is the one that a planner's texts say."""
    counts = bool(texts["diffraction"])
    alike = (s for s in standards if s.counts_diffraction == counts)
    return next((s for s in alike if circle_text(s.circle(body)) == texts["circle_mm"]), None)


def circle_text(circle: float | None) -> str:
    """A circle as a planner's text says it; empty for none."""
    return "" if circle is None else f"{units.significant(circle, 4):g}"


def _standards(own: Mapping[str, Any], *, counts: bool) -> list[Standard]:
    """The standards of a bag that count diffraction, or leave it out. Asked at every answer, and
    plain enough to need no conversion."""
    sql, params = _written(Standard, own, {})
    with connection.cursor() as cursor:
        cursor.execute(sql, params)
        rows = [row for row in cursor.fetchall() if bool(row[_COUNTS]) == counts]
    return sound(Standard.from_db("default", _STANDARD_FIELDS, row) for row in rows)


_STANDARD_FIELDS = [field.attname for field in Standard._meta.concrete_fields]
_COUNTS = _STANDARD_FIELDS.index("counts_diffraction")


def _things(model: type[Kind], own: Mapping[str, Any], **more: str) -> Iterable[Kind]:
    """Things of a bag. Asked at every answer, and writing such a query anew costs as much as all
    the optics: what the ORM wrote the first time is used again."""
    return sound(cast("Iterable[Kind]", model._default_manager.raw(*_written(model, own, more))))


def _written(
    model: type[Thing], own: Mapping[str, Any], more: Mapping[str, str]
) -> tuple[str, list[Any]]:
    """A query for some things, and its parameters."""
    values = {key: getattr(value, "pk", value) for key, value in own.items()} | dict(more)
    flags = tuple(value is True for value in values.values())
    sql, places = _query(model, tuple(values), flags, tuple(more))
    return sql, [values.get(place, place) for place in places]


@lru_cache(maxsize=16)
def _query(
    model: type[Thing], keys: tuple[str, ...], flags: tuple[bool, ...], texts: tuple[str, ...]
) -> tuple[str, tuple[Any, ...]]:
    """The query for things by some keys, and which key each of its parameters is of. A flag is
    written into the query itself. ``texts``: keys of text."""
    # Numbers that stand for their keys: no parameter of its own is as large.
    marks = {_FIRST_MARK + at: key for at, key in enumerate(keys)}
    given = {
        key: True if flag else str(mark) if key in texts else mark
        for (mark, key), flag in zip(marks.items(), flags, strict=True)
    }
    sql, params = model.objects.filter(**given).query.sql_with_params()
    return sql, tuple(marks.get(_whole(value), value) for value in params)


_FIRST_MARK = 7_000_001


def _whole(value: Any) -> int:
    return int(value) if str(value).isdecimal() else 0
