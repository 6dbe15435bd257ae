"""The code to scan on a card: an address that holds the card's numbers and the link they came of.

The numbers stand in it as words, so that whatever reads it shows them; the page it leads to writes
them large, without asking anybody, and so works without a signal once it is on the phone.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from functools import lru_cache
from typing import Any

import segno
from django.http import HttpRequest, QueryDict
from django.urls import reverse
from django.utils.html import format_html
from django.utils.safestring import SafeString

from optics.lens.shot import Shot
from web.kept.printed import Opened, Printed
from web.ui.templatetags import format

MOST_LINES = 8
_SAFE = "/:,'"
MOST_BYTES = 1100
"""Longer codes are too fine for a phone to read from a card; the link is left out of those."""
NAME, LINE, IN = "c", "n", "in"
"""The fields of the address: the card's name, its numbers a line each, and the planner they came
of. All other fields are that planner's link."""
PLANNERS = ("view", "street", "sky")


def lines(shots: Iterable[Shot], system: str) -> list[str]:
    """Frames to take, in words that can be typed: a line each."""
    return [line(shot, system) for shot in list(shots)[:MOST_LINES]]


def line(shot: Shot, system: str) -> str:
    """One: Sky: ring 22 m, f/2, sharp 8.6 m to inf, 10 s, ISO 6400."""
    parts = [f"ring {format.reading(shot, system)}"]
    if not math.isnan(shot.f_number):
        parts.append(format.f_number(shot.f_number))
    if shot.held is not None:
        near, far = (format.exactly(end, system) for end in (shot.held.near, shot.held.far))
        parts.append(f"sharp {near} to {far}")
    if shot.seconds is not None:
        parts.append(format.shutter(shot.seconds))
    if shot.iso is not None:
        parts.append(f"ISO {format.iso(shot.iso)}")
    said = ", ".join(parts)
    return plain(f"{shot.name}: {said}" if shot.name else said)


def plain(text: str) -> str:
    """With signs that need no more than a byte each."""
    for sign, written in (("∞", "inf"), ("′", "'"), ("″", '"'), ("–", "-"), ("\u202f", " ")):
        text = text.replace(sign, written)
    return text


def address(
    request: HttpRequest, name: str, said: Sequence[str], planner: str = "", query: str = ""
) -> str:
    """What the code holds. ``query``: the planner's link to the same."""
    found = QueryDict(mutable=True)
    found[NAME] = name
    found.setlist(LINE, list(said[:MOST_LINES]))
    start = request.build_absolute_uri(reverse("cards:at"))
    short = f"{start}?{found.urlencode(safe=_SAFE)}"
    link = QueryDict(query).urlencode(safe=_SAFE)
    whole = f"{short}&{IN}={planner}&{link}"
    return whole if planner in PLANNERS and len(whole) <= MOST_BYTES else short


def link_of(said: QueryDict) -> str:
    """The planner's link that such an address holds; empty for none."""
    planner = said.get(IN, "")
    rest = said.copy()
    for name in (NAME, LINE, IN):
        rest.pop(name, None)
    return f"/{planner}/?{rest.urlencode(safe=_SAFE)}" if planner in PLANNERS and rest else ""


@lru_cache(256)
def drawn(text: str) -> SafeString:
    """The code as a picture that takes its size from its place.

    Its mask is given, not looked for: looking takes longer than setting the card. What was drawn is
    kept for a while: who looks at a card prints it, and a pack again after a change.
    """
    made = segno.make(text, error="l", micro=False, mask=0)
    there = made.png_data_uri(border=2, scale=1)
    return format_html(
        '<img class="card-code" src="{}" alt="A code that holds these numbers">', there
    )


def of_context(
    request: HttpRequest, how: Printed, opened: Opened[Any], context: Mapping[str, Any]
) -> SafeString:
    """The code of a card of something kept, or of a link: its frames. ``context``: the card's."""
    reading = opened.reading
    said = lines(how.kind.shots(context["answered"]), reading.system)
    name, query = str(context["name"]), str(reading.query())
    return drawn(address(request, name, said, how.kind.app, query))
