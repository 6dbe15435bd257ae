"""What is typed on Street, as it stands in the form and in the URL, to checked values."""

from __future__ import annotations

import math
import re
from functools import partial
from typing import Any

from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics.base import amounts, settable
from optics.light.exposure import LIGHTS
from optics.zones.subjects import Spread
from web.hand.asker import ANYBODY, Asker
from web.hand.fields import FIELDS
from web.hand.reader import Hand, read_hand, type_before
from web.hand.touch import touched_on
from web.hand.typed import Typed
from web.street.marks import bar_circle
from web.street.placing import nearest_held
from web.street.reading import Reading, parted
from web.street.sample import GEAR
from web.street.streets import MOST_POSITIONS, Street
from web.ui.fields import NumberField, WholeNumberField

_COUNT = WholeNumberField(
    low=1,
    high=MOST_POSITIONS,
    sentence=f"Ask for 1 to {MOST_POSITIONS} positions: no thumb learns more.",
)
_ANGLE = NumberField(
    low=0, high=80, sentence="They come at 0° (straight at you) to 80° from the lens’s axis."
)
_ISO = NumberField(low=50, high=1e6, sentence="Give an ISO ceiling from 50 to 1 000 000.")
_LIGHT = NumberField(low=-10, high=20, sentence="Choose a light from the list.")
_NEAREST_LIKED, _FARTHEST_LIKED = 100.0, 100_000.0
_FASTEST = 20_000.0
_LATEST = 5.0
_LONGEST = 30.0


def read_street(
    data: QueryDict, before: type_before = lambda: None, who: Asker = ANYBODY
) -> Reading:
    """Check everything a form or link says.

    ``before`` gives the link to fall back on for what cannot be used, before the sample is.
    """
    hand = read_hand(data, GEAR, before, who)
    texts, kit = hand.texts, hand.kit
    typed = Typed(texts, hand.system, who, hand.errors)
    own = ANYBODY.own() if texts["judge"] and texts["lag"] else who.own()
    near = typed.get("near", lambda text: _near(typed, text))
    far = typed.get("far", lambda text: _far(typed, text, hand, near))
    home = typed.get("home", lambda text: _settable(typed, text, kit.closest))
    locked = typed.get("locked", lambda text: _locked(typed, text, kit.closest), ())
    count = typed.get("count", _COUNT.clean, 3)
    together = {*locked, *(() if home is None else (home,))}
    if len(together) > count:
        said = f"{len(together)} positions are locked: shown with that many."
        typed.errors.setdefault("count", said)
        count = len(together)
    street = Street(
        kit=kit,
        f_number=hand.f_number,
        format=hand.frame,
        pixels_across=hand.pixels_across,
        upright=hand.upright,
        system=hand.system,
        like=_liked(typed, kit.closest),
        near=near,
        far=far,
        count=count,
        home=home,
        locked=locked,
        judging=typed.get("judge", _judge, own.judging),
        in_use=hand.in_use,
        touched=tuple(
            (felt.words, settable.typed(felt.at, hand.system, kit.closest))
            for felt in touched_on(hand.in_use)
        ),
        bar=typed.get("bar", partial(_bar, typed, kit.focal_length)),
        set_for=typed.get("set_for", lambda text: _set_for(text, hand)),
        **({"lag": own.lag} | _of_the_street(typed)),
    )
    return Reading(hand, texts, typed.errors, hand.assumed, street)


USUAL_LIKE = 1400.0


def _of_the_street(typed: Typed) -> dict[str, Any]:
    """What was said of people, of light and of the finger; what was not keeps its usual."""
    said = {
        "speed": typed.get("speed", lambda text: _speed(text, typed.system)),
        "angle": typed.get("angle_deg", lambda text: math.radians(_ANGLE.clean(text))),
        "lag": typed.get("lag", _lag),
        "ev": typed.get("light", _LIGHT.clean),
        "iso_most": typed.get("iso_most", _ISO.clean),
        "slowest": typed.get("slowest", _slowest),
        "spread": typed.get("spread", _spread),
    }
    return {name: value for name, value in said.items() if value is not None}


def _liked(typed: Typed, closest: float) -> float:
    """Where somebody likes to work, mm; a usual distance, or the lens's closest if that is more,
    where that cannot be said."""
    usual = max(USUAL_LIKE, closest)
    return float(typed.get("like", lambda text: _like(typed, text, closest, usual), usual))


def _like(typed: Typed, text: str, closest: float, meanwhile: float) -> float:
    length = typed.length(text)
    if not _NEAREST_LIKED <= length <= _FARTHEST_LIKED:
        raise ValidationError("Work at 10 cm to 100 m; 1.5 m is a usual distance.")
    if length < closest * (1 - 1e-9):
        from_, shown = typed.nearest(closest), typed.nearest(meanwhile)
        raise ValidationError(f"This lens focuses from {from_}. Shown with {shown} meanwhile.")
    return length


def _set_for(text: str, hand: Hand) -> float | None:
    """The aperture that the ring was set for; None where the lens has it no more, or has it on."""
    number = FIELDS["f_number"].clean(text)
    has = hand.kit.apertures
    on_it = abs(number / hand.f_number - 1) < _SAME_APERTURE
    return None if on_it or not has[0] * 0.97 <= number <= has[-1] * 1.03 else number


_SAME_APERTURE = 0.01


def _bar(typed: Typed, focal_length: float, text: str) -> float:
    return bar_circle(text, focal_length, typed.length, typed.system)


def _spread(text: str) -> Spread:
    try:
        return Spread(text)
    except ValueError:
        raise ValidationError("Choose from the list how people spread.") from None


def _near(typed: Typed, text: str) -> float:
    near = typed.length(text)
    if math.isinf(near):
        raise ValidationError("The near end cannot be infinity: give how near people come.")
    if not _NEAREST_LIKED <= near <= _FARTHEST_LIKED:
        raise ValidationError("Begin at 10 cm to 100 m.")
    return near


def _far(typed: Typed, text: str, hand: Hand, near: float | None) -> float:
    far = typed.length(text)
    if near is not None and far <= near:
        raise ValidationError("The far end lies before the near end: exchange them.")
    held = nearest_held(hand.kit.at(hand.f_number), hand.kit.closest)
    if far <= held * (1 + 1e-6):
        nearest = typed.nearest(held)
        raise ValidationError(f"This lens holds nothing nearer than {nearest}: end farther off.")
    return far


def _settable(typed: Typed, text: str, closest: float) -> float:
    focus = typed.length(text)
    if focus < closest * (1 - 1e-9):
        raise ValidationError(f"Too near: this lens focuses from {typed.nearest(closest)}.")
    return settable.typed(focus, typed.system, closest)


def _locked(typed: Typed, text: str, closest: float) -> tuple[float, ...]:
    parts = parted(text)
    if len(parts) > MOST_POSITIONS:
        raise ValidationError(f"Lock at most {MOST_POSITIONS} positions.")
    return tuple(sorted({_settable(typed, part, closest) for part in parts}))


def _judge(text: str) -> float:
    share = amounts.parse_share(text.removeprefix("±"))
    if share >= 1:
        raise ValidationError("An error of 100 % or more is no judging: give less.")
    return share


def _speed(text: str, system: str) -> float:
    speed = amounts.parse_speed(text, system)
    if speed == 0:
        raise ValidationError("Somebody who stands stays in the zone: give a speed above 0.")
    if speed > _FASTEST:
        raise ValidationError("Nobody walks as fast as that: up to 20 m/s.")
    return speed


def _lag(text: str) -> float:
    cleaned = text.strip().lower()
    if re.fullmatch(r"0+(?:[.,]0*)?\s*s?", cleaned):
        return 0.0
    lag = amounts.parse_seconds(text)
    if lag > _LATEST:
        raise ValidationError("A finger is late by up to 5 s; 0.2 s is usual.")
    return lag


def _slowest(text: str) -> float:
    seconds = amounts.parse_seconds(text)
    if seconds > _LONGEST:
        raise ValidationError("Give a time up to 30 s, such as 1/250.")
    return seconds


LIGHT_CHOICES = [("", "open shade, or heavy cloud")] + [
    (f"{light.ev100:g}", light.name) for light in LIGHTS if light.ev100 != 12 and light.ev100 >= 0
]
SPREAD_CHOICES = [
    ("", "round where you like to work"),
    (Spread.STRIDE.value, "as many in every stride"),
]
