"""Pages as PDF, as tightly set as the paper asks, one at a time, and an honest no beyond."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from queue import SimpleQueue

from django.conf import settings
from django.contrib.staticfiles.finders import get_finders
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from web.ui.downloads import named
from web.ui.imposing import joined
from web.ui.press import Busy, CannotPrint, Press, TooLong

OURS = "http://aim.invalid"
"""A name under which our static files are known to the printer, and that leads nowhere else."""


class Paper(StrEnum):
    """Papers to print on. ``CARD``: a quarter of A4, 105 × 148 mm."""

    CARD = "card"
    A4 = "a4"
    LETTER = "letter"

    @property
    def words(self) -> str:
        """What it is called."""
        return {"card": "card, A6", "a4": "A4", "letter": "Letter"}[self]


DENSITIES = ("", "close", "closer", "closest")
"""How tightly a sheet is set: each is tried until it fits one page."""

_RETRY = "10"
"""s: after how long to ask again."""


def press(which: int = 0) -> Press:
    """This process's press; ``which`` = 1: its second, which helps where several sides are set."""
    return _press(which)


@cache
def _press(which: int) -> Press:
    folders = [str(settings.STATIC_ROOT)]
    for finder in get_finders():
        folders += [each.location for each in getattr(finder, "storages", {}).values()]
    return Press(folders, OURS)


def pdf(html_of: Callable[[str], str], pages: int = 1, shorter: Sequence[str] = ()) -> bytes:
    """A document, set as tightly as it takes to fit so many pages, and no tighter.

    ``html_of``: the document at one of ``DENSITIES``; ``shorter``: what to set if even the last of
    these is too long. Raises CannotPrint, Busy, TooLong.
    """
    return press().set([*_at_each(html_of(_ANY)), *shorter], pages)[1]


@dataclass(frozen=True, slots=True)
class Side:
    """A side of a card, as ``side`` makes it: the document, written once for every density."""

    html: str
    loosest: int = 0

    @property
    def tries(self) -> list[str]:
        """It at each density that may be tried."""
        return _at_each(self.html)[self.loosest :]


def side(html_of: Callable[[str], str], loosest: int = 0) -> Side:
    """A side of a card. ``html_of``: the document at one of ``DENSITIES``; ``loosest``: the first
    of them that it is set at, so that cards of one kind look alike."""
    return Side(html_of(_ANY), loosest)


def cards(sides: Sequence[Side]) -> tuple[list[int], bytes]:
    """Sides of cards, each as large as it has room for: how many pages each took, and all as one
    PDF: of two, each is set by a press of its own, where both are free. As ``pdf``."""
    if len(sides) == 2 and press(1).idle:
        return cards_of([sides[:1], sides[1:]])
    return press().cards([side.tries for side in sides])


def cards_of(batches: Iterable[Sequence[Side]]) -> tuple[list[int], bytes]:
    """The same of many, a few at a time: while both presses set some, the next are made. Whichever
    press is done first takes the next."""
    free: SimpleQueue[Press] = SimpleQueue()
    for one in (press(), press(1)):
        free.put(one)

    def done_of(batch: Sequence[Side]) -> tuple[list[int], bytes]:
        one = free.get()
        try:
            return one.cards([side.tries for side in batch])
        finally:
            free.put(one)

    with ThreadPoolExecutor(2) as pool:
        asked = [pool.submit(done_of, batch) for batch in batches if batch]
        done = [one_asked.result() for one_asked in asked]
    return [pages for counts, _ in done for pages in counts], joined([data for _, data in done])


PICTURES = {"png": "image/png", "svg": "image/svg+xml"}
"""What a page can be besides PDF."""
DPI = 300.0


def picture(side: Side, ending: str, title: str) -> bytes:
    """A side as a picture: as PNG at 300 dpi, or as SVG. As ``pdf``."""
    return press().picture(side.tries, ending, DPI, title)


def density_for(side: Side) -> str:
    """How tightly that is for one page. As ``pdf``."""
    which, _ = press().set(side.tries, 1, number_only=True)
    return DENSITIES[side.loosest + which]


_ANY = "density-to-come"


def _at_each(html: str) -> list[str]:
    """A document at each density. A density is a class and nothing else, so it is written once."""
    return [html.replace(_ANY, density) for density in DENSITIES]


_WHY_NOT: dict[type[Exception], tuple[int, str, str]] = {
    CannotPrint: (
        501,
        "No PDF here",
        "This machine lacks the libraries that make a PDF. Open the page of it and print that "
        "from the browser instead.",
    ),
    Busy: (
        503,
        "Others are printing",
        "Ask again in a few seconds, or print the page of it from the browser.",
    ),
    TooLong: (
        503,
        "This takes too long to set",
        "It was given up, so that others can go on. Try again; if it happens again, print the page "
        "of it from the browser, or make it shorter.",
    ),
}


def why_not(error: type[Exception]) -> str:
    """What is said of one of those."""
    return _WHY_NOT[error][2]


def answered(
    request: HttpRequest, made: Callable[[], bytes], name: str, ending: str = "pdf"
) -> HttpResponse:
    """A PDF or a picture as what is sent back, under a name; or a page that says why there is
    none."""
    try:
        data = made()
    except tuple(_WHY_NOT) as error:
        status, title, text = _WHY_NOT[type(error)]
        response = render(request, "ui/error.html", {"title": title, "text": text}, status=status)
        if status == 503:
            response["Retry-After"] = _RETRY
        return response
    kind = PICTURES.get(ending, "application/pdf")
    response = HttpResponse(data, content_type=kind)
    # A drawing is kept, not opened here: it is a document of its own.
    how = "attachment" if ending == "svg" else "inline"
    response["Content-Disposition"] = named(f"{name}.{ending}", how)
    return response
