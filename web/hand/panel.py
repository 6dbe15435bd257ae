"""In hand: what is chosen from the bag for a planner, and what that choice means in its link.

A planner's link carries plain numbers, so that it says the same to everybody. The panel shows which
things of the bag they are, if any; choosing another changes the numbers, and the choice is
remembered for the next scene.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar

from optics.base import units
from web.bag.models import Attachment, Body, InHand, Lens, Standard, Thing
from web.bag.soundness import faults, sound
from web.hand import typical
from web.hand.fields import TOLD, opening_in
from web.hand.in_use import InUse, chosen_body, circle_text, standard_of
from web.hand.naming import named, together
from web.hand.sensors import body_of, sensor_of
from web.people.models import Owner

Typical = TypeVar("Typical", typical.Body, typical.Lens)
Some = TypeVar("Some", bound=Thing)


@dataclass(frozen=True, slots=True)
class Choice:
    """A thing of the bag in a list. ``value``: its key as text."""

    value: str
    label: str
    chosen: bool


@dataclass(frozen=True, slots=True)
class Hand:
    """The lists of the panel, and what of the bag is in hand now."""

    bodies: tuple[Choice, ...]
    lenses: tuple[Choice, ...]
    attachments: tuple[Choice, ...]
    standards: tuple[Choice, ...]
    in_use: InUse
    typical_bodies: tuple[Choice, ...]
    typical_lenses: tuple[Choice, ...]

    @property
    def knows_lens(self) -> bool:
        """Whether more of the lens is known than what is typed."""
        return self.in_use.lens is not None or any(one.chosen for one in self.typical_lenses)

    @property
    def ring_off(self) -> float:
        """How much more the lens in hand stands out than its ring reads, mm; 0 if none is known."""
        return self.in_use.tells.ring_off if self.in_use.lens is not None else 0.0

    @property
    def ring_off_says(self) -> str:
        """That, as a length."""
        return f"{units.significant(abs(self.ring_off), 2):g} mm"

    @property
    def attachment(self) -> Attachment | None:
        """What is between lens and body."""
        return self.in_use.attachment


def hand(owner: Owner, texts: Mapping[str, str]) -> Hand:
    """Which things of a bag a planner's texts speak of."""
    bodies = sound(Body.objects.filter(owner=owner))
    lenses = sound(Lens.objects.filter(owner=owner))
    standards = sound(Standard.objects.filter(owner=owner).select_related("than"))
    body = body_of(bodies, texts, lambda: chosen_body({"owner": owner}))
    attachments = sound(Attachment.objects.filter(owner=owner))
    lens, attachment = named(texts["lens"], lenses, attachments)
    seen = body or sensor_of(texts)
    circles = {s.pk: s.circle(seen) for s in standards}
    standard = standard_of(standards, seen, texts)
    return Hand(
        bodies=_choices(bodies, body),
        lenses=_choices(lenses, lens),
        standards=tuple(
            Choice(str(s.pk), s.name, s == standard) for s in standards if circles[s.pk]
        ),
        attachments=_choices(attachments, attachment),
        in_use=InUse(lens, attachment, lambda: body, find_standard=lambda: standard),
        typical_bodies=_typical(
            typical.BODIES, body is None, lambda one: one.said(texts).items() <= texts.items()
        ),
        typical_lenses=_typical(
            typical.LENSES, lens is None, lambda one: one.label == texts["lens"]
        ),
    )


def _typical(
    kinds: Sequence[Typical], free: bool, is_it: Callable[[Typical], bool]
) -> tuple[Choice, ...]:
    """``free``: nothing of the bag is in hand, so that one of these may be."""
    return tuple(
        Choice(typical.key(at), one.label, free and is_it(one)) for at, one in enumerate(kinds)
    )


def _choices(
    things: Sequence[Body | Lens | Attachment], chosen: Body | Lens | Attachment | None
) -> tuple[Choice, ...]:
    return tuple(Choice(str(thing.pk), thing.name, thing == chosen) for thing in things)


def taken(
    texts: Mapping[str, str],
    body: Body | None,
    lens: Lens | None,
    standard: Standard | None,
    attachment: Attachment | None,
    factor_before: float,
    *,
    let_go: bool = False,
) -> dict[str, str]:
    """A planner's texts after a choice: only what the choice means changes.

    A zoom keeps the focal length if it has it, else its nearer end; the aperture likewise. A
    standard is a circle on the body, so another body changes it too. A converter or reducer
    multiplies focal length and f-number alike; ``factor_before`` is of what was on until now.
    ``let_go``: with no lens, all that is known of the one that was in hand is forgotten.
    """
    new = dict(texts)
    if lens is None and let_go:
        new.update(dict.fromkeys(("lens", *TOLD), ""))
    if body is not None:
        new["format"] = body.frame.key
        new["pixels_across"] = "" if body.pixels_across is None else str(body.pixels_across)
    if lens is not None:
        factor = 1.0 if attachment is None else attachment.factor
        new["lens"] = together(lens, attachment)
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
        circle = standard.circle(body or sensor_of(new))
        new["circle_mm"] = circle_text(circle) or texts["circle_mm"]
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
    uses: Mapping[str, Any],
) -> None:
    """Keep the choice, with its focal length and aperture, and where lenses were left."""
    InHand.objects.update_or_create(
        owner=owner,
        defaults={
            "body": body,
            "lens": lens,
            "standard": standard,
            "attachment": attachment,
            "focal_length_mm": _clamped(texts["focal_length_mm"], 1.0, 3000.0),
            "f_number": _clamped(texts["f_number"], 0.5, 128.0),
            "uses": dict(uses),
        },
    )


def uses_of(owner: Owner) -> dict[str, Any]:
    """Where planners left an owner's lenses."""
    found = InHand.objects.filter(owner=owner).values_list("uses", flat=True).first()
    return found if isinstance(found, dict) else {}


def lengths_of(texts: Mapping[str, str], factor: float) -> tuple[float, float]:
    """Focal length and f-number of the lens itself, behind which something multiplies them."""
    return (
        _clamped(texts["focal_length_mm"], 1.0, 3000.0) / factor,
        _clamped(texts["f_number"], 0.5, 128.0) / factor,
    )


def gear_of(owner: Owner, usual: Mapping[str, str]) -> dict[str, str]:
    """What a planner opens with: the last choice, in texts; ``usual`` where nothing was chosen."""
    chosen = (
        InHand.objects.filter(owner=owner)
        .select_related("body", "lens", "attachment", "standard", "standard__than")
        .first()
    )
    gear = opening_in(owner.units, usual)
    if chosen is None:
        return gear
    if chosen.focal_length_mm and chosen.f_number:
        gear["focal_length_mm"] = f"{chosen.focal_length_mm:g}"
        gear["f_number"] = f"{chosen.f_number:g}"
    body, lens, attachment, standard = (
        _whole(chosen.body),
        _whole(chosen.lens),
        _whole(chosen.attachment),
        _whole(chosen.standard),
    )
    factor = 1.0 if attachment is None else attachment.factor
    return taken(gear, body, lens, standard, attachment, factor)


def _whole(thing: Some | None) -> Some | None:
    return None if thing is None or faults(thing) else thing
