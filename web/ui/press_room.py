"""The other end of ``web.ui.press``: sets what it is sent, with nothing fetched but our own files.

Knows no Django. Its first message says where those files lie, every other is a job. Faces and
styles are read once and kept: reading them anew takes longer than setting a card.
"""

from __future__ import annotations

import base64
import gc
import json
import mimetypes
import re
import resource
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from web.ui import pages_drawn
from web.ui.press import read, write

MOST_MEMORY = 1_200_000_000
"""Bytes of address space: what asks for more is given up, and the machine goes on."""
FAR_OVER = 1.0
"""By how many times the pages wanted one may overrun before the tries between are left out."""
SHRINKS = (1.0, 0.88, 0.78, 0.57)
"""How large type is, at the smallest, at each density, against the first."""
_PICTURE = "data:image/png;base64,"
_STYLE = re.compile(r'<link rel="stylesheet" href="([^"]+)">')


def own_file(url: str, ours: str, folders: Sequence[str]) -> Path:
    """The static file that a URL of ours names. Raises ValueError for any other."""
    parts = urlsplit(url)
    prefix = "/static/"
    if f"{parts.scheme}://{parts.netloc}" != ours or not parts.path.startswith(prefix):
        raise ValueError("Only our own files are printed.")
    for folder in folders:
        root = Path(folder).resolve()
        path = (root / unquote(parts.path.removeprefix(prefix))).resolve()
        if path.is_relative_to(root) and path.is_file():
            return path
    raise ValueError("There is no such file of ours.")


class Room:
    """Faces, styles, and how a document is laid out with them."""

    def __init__(self, folders: Sequence[str], ours: str) -> None:
        import weasyprint
        from weasyprint.text.fonts import FontConfiguration
        from weasyprint.urls import URLFetcher, URLFetcherResponse

        class OwnFiles(URLFetcher):  # type: ignore[misc]
            """Our static files, and pictures in the page itself."""

            def fetch(self, url: str, headers: dict[str, str] | None = None) -> URLFetcherResponse:
                if url.startswith(_PICTURE):  # in the page itself
                    data = base64.b64decode(url.removeprefix(_PICTURE))
                    return URLFetcherResponse(url, data, {"Content-Type": "image/png"})
                path = own_file(url, ours, folders)
                kind = mimetypes.guess_type(path.name)[0] or "application/octet-stream"
                return URLFetcherResponse(url, path.read_bytes(), {"Content-Type": kind})

        self._weasyprint, self._ours = weasyprint, ours
        self._files, self._faces = OwnFiles(), FontConfiguration()
        self._styles: dict[str, Any] = {}

    def laid_out(self, html: str) -> Any:
        """A document, laid out. Its styles must be links of ours."""
        styles = [self._style(url) for url in _STYLE.findall(html)]
        document = self._weasyprint.HTML(
            string=_STYLE.sub("", html), base_url=f"{self._ours}/", url_fetcher=self._files
        )
        return document.render(stylesheets=styles, font_config=self._faces)

    def fitted(
        self, tries: Sequence[str], pages: int, *, densities: bool = False
    ) -> tuple[int, Any]:
        """Which of some documents is the first to fit so many pages, else the last; and it, laid
        out. A try that is far over is followed by the last two and no other; where they are the
        last ``densities``, those are passed over that have no chance: smaller type takes that
        much less of a page."""
        at, document = 0, self.laid_out(tries[0])
        while len(document.pages) > pages and at < len(tries) - 1:
            far = len(document.pages) - pages > FAR_OVER * pages
            least = max(at + 1, len(tries) - 2) if far else at + 1
            if densities and at == 0:
                over, sizes = fullness(document), SHRINKS[-len(tries) :]
                area = [(size / sizes[0]) ** 2 for size in sizes]
                fits = (k for k in range(least, len(tries)) if over * area[k] <= 1.0)
                least = next(fits, len(tries) - 1)
            at, document = least, self.laid_out(tries[least])
        return at, document

    @property
    def styles(self) -> int:
        """How many of them it has read."""
        return len(self._styles)

    def _style(self, url: str) -> Any:
        if url not in self._styles:
            self._styles[url] = self._weasyprint.CSS(
                url, font_config=self._faces, url_fetcher=self._files
            )
        return self._styles[url]


def fullness(document: Any) -> float:
    """How many pages' height what is laid out takes, the last only as far as it is used."""
    last = document.pages[-1]
    box = last._page_box.children[0]
    used = max(
        (one.position_y + one.height for one in box.descendants() if isinstance(one.height, float)),
        default=box.position_y,
    )
    height = last._page_box.height
    return float(len(document.pages) - 1 + min((used - box.position_y) / height, 1.0))


def done(room: Room, job: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
    """What a job asks for: what there is to say of it, and its data.

    ``tries`` of one document for so many ``pages``; or ``cards``: sides, each its tries, all in one
    document, and how many pages each took; as a ``picture``, the first page of these.
    """
    if "tries" in job:
        at, document = room.fitted(job["tries"], job["pages"])
        return {"which": at}, b"" if job["number_only"] else document.write_pdf()
    sides = [room.fitted(tries, 1, densities=True)[1] for tries in job["cards"]]
    pages = [page for side in sides for page in side.pages]
    said, data = {"pages": [len(side.pages) for side in sides]}, sides[0].copy(pages).write_pdf()
    if job.get("picture") == "png":
        data = pages_drawn.png(data, 0, job["dpi"])
    elif job.get("picture") == "svg":
        data = pages_drawn.svg(data, 0, job["title"])
    return said, data


def main() -> None:
    """Serve jobs until the other end goes."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    source, sink = sys.stdin.buffer, sys.stdout.buffer
    room, frozen = None, 0
    try:
        order = json.loads(read(source))
        while True:
            job = json.loads(read(source))
            gc.disable()  # a page is thousands of small things, of which none goes before it is set
            try:
                if room is None:
                    room = Room(order["folders"], order["ours"])
                said, data = done(room, job)
            except Exception as error:  # said to whoever asked; the next is served
                write(sink, json.dumps({"cannot": str(error)}).encode())
                continue
            finally:
                gc.enable()
            write(sink, json.dumps(said).encode())
            write(sink, data)
            gc.collect()
            if room.styles > frozen:  # these stay: what is looked for from now on is a page's alone
                frozen = room.styles
                gc.freeze()
    except (EOFError, BrokenPipeError):
        return


if __name__ == "__main__":
    main()
