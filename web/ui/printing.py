"""Pages as PDF, as tightly set as the paper asks, with nothing fetched from anywhere but our own
files."""

from __future__ import annotations

import mimetypes
from collections.abc import Callable
from enum import StrEnum
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.contrib.staticfiles import finders
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

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


class CannotPrint(Exception):
    """This machine lacks the libraries that make a PDF."""


def pdf(html_of: Callable[[str], str], pages: int = 1) -> bytes:
    """A document, set as tightly as it takes to fit so many pages, and no tighter.

    ``html_of``: the document at one of ``DENSITIES``. Raises CannotPrint.
    """
    _, document = _fitted(html_of, pages)
    written: bytes = document.write_pdf()
    return written


def density_for(html_of: Callable[[str], str], pages: int = 1) -> str:
    """How tightly that is. As ``pdf``."""
    return _fitted(html_of, pages)[0]


def _fitted(html_of: Callable[[str], str], pages: int) -> tuple[str, Any]:
    try:
        import weasyprint
        from weasyprint.urls import URLFetcher, URLFetcherResponse
    except (ImportError, OSError) as error:
        raise CannotPrint from error

    class OwnFiles(URLFetcher):  # type: ignore[misc]
        """Our static files, and nothing else."""

        def fetch(self, url: str, headers: dict[str, str] | None = None) -> URLFetcherResponse:
            path = own_file(url)
            kind = mimetypes.guess_type(path.name)[0] or "application/octet-stream"
            return URLFetcherResponse(url, path.read_bytes(), {"Content-Type": kind})

    def rendered(density: str) -> Any:
        page = weasyprint.HTML(string=html_of(density), base_url=f"{OURS}/", url_fetcher=OwnFiles())
        return page.render()

    for density in DENSITIES:
        document = rendered(density)
        if len(document.pages) <= pages:
            break
    return density, document


def answered(request: HttpRequest, made: Callable[[], bytes], name: str) -> HttpResponse:
    """A PDF as what is sent back, under a name; or a page that says why there is none."""
    try:
        data = made()
    except CannotPrint:
        sentence = (
            "This machine lacks the libraries that make a PDF. Open the page of it and print that "
            "from the browser instead."
        )
        return render(
            request, "ui/error.html", {"title": "No PDF here", "text": sentence}, status=501
        )
    response = HttpResponse(data, content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="{name}.pdf"'
    return response


def own_file(url: str) -> Path:
    """The static file that a URL of ours names. Raises ValueError for any other."""
    parts = urlsplit(url)
    prefix = "/" + settings.STATIC_URL.strip("/") + "/"
    if f"{parts.scheme}://{parts.netloc}" != OURS or not parts.path.startswith(prefix):
        raise ValueError("Only our own files are printed.")
    found = finders.find(parts.path.removeprefix(prefix))
    if not found:
        raise ValueError("There is no such file of ours.")
    return Path(str(found))
