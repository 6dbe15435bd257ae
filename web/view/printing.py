"""A page as PDF, on one sheet of paper, with nothing fetched from anywhere but our own files."""

from __future__ import annotations

import mimetypes
from collections.abc import Callable
from enum import StrEnum
from pathlib import Path
from urllib.parse import urlsplit

from django.conf import settings
from django.contrib.staticfiles import finders

OURS = "http://aim.invalid"
"""A name under which our static files are known to the printer, and that leads nowhere else."""


class Paper(StrEnum):
    """Papers a plan is printed on."""

    A4 = "a4"
    LETTER = "letter"


DENSITIES = ("", "close", "closer", "closest")
"""How tightly a sheet is set: each is tried until it fits one page."""


class CannotPrint(Exception):
    """This machine lacks the libraries that make a PDF."""


def pdf(html_of: Callable[[str], str]) -> bytes:
    """A page, set as tightly as it takes to fit a single sheet, and no tighter.

    ``html_of``: the page at one of ``DENSITIES``. Raises CannotPrint.
    """
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

    document = None
    for density in DENSITIES:
        page = weasyprint.HTML(string=html_of(density), base_url=f"{OURS}/", url_fetcher=OwnFiles())
        document = page.render()
        if len(document.pages) == 1:
            break
    assert document is not None
    written: bytes = document.write_pdf()
    return written


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
