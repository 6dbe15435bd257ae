"""The other end of ``web.ui.press``: sets what it is sent, with nothing fetched but our own files.

Knows no Django. Its first message says where those files lie, every other is a job.
"""

from __future__ import annotations

import json
import mimetypes
import resource
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from web.ui.press import read, write

MOST_MEMORY = 1_200_000_000
"""Bytes of address space: what asks for more is given up, and the machine goes on."""
FAR_OVER = 1.0
"""By how many times the pages wanted one may overrun before the tries between are left out."""


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


def fitted(tries: Sequence[str], pages: int, folders: Sequence[str], ours: str) -> tuple[int, Any]:
    """Which of some documents is the first to fit so many pages, else the last; and it, laid out.

    A try that is far over is followed by the last two and no other.
    """
    import weasyprint
    from weasyprint.urls import URLFetcher, URLFetcherResponse

    class OwnFiles(URLFetcher):  # type: ignore[misc]
        """Our static files, and nothing else."""

        def fetch(self, url: str, headers: dict[str, str] | None = None) -> URLFetcherResponse:
            path = own_file(url, ours, folders)
            kind = mimetypes.guess_type(path.name)[0] or "application/octet-stream"
            return URLFetcherResponse(url, path.read_bytes(), {"Content-Type": kind})

    def laid_out(html: str) -> Any:
        return weasyprint.HTML(string=html, base_url=f"{ours}/", url_fetcher=OwnFiles()).render()

    at, document = 0, laid_out(tries[0])
    while len(document.pages) > pages and at < len(tries) - 1:
        far = len(document.pages) - pages > FAR_OVER * pages
        at = max(at + 1, len(tries) - 2) if far else at + 1
        document = laid_out(tries[at])
    return at, document


def main() -> None:
    """Serve jobs until the other end goes."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    source, sink = sys.stdin.buffer, sys.stdout.buffer
    try:
        order = json.loads(read(source))
        while True:
            job = json.loads(read(source))
            try:
                at, document = fitted(job["tries"], job["pages"], order["folders"], order["ours"])
                data = b"" if job["number_only"] else document.write_pdf()
            except (ImportError, OSError) as error:
                write(sink, json.dumps({"cannot": str(error)}).encode())
                continue
            write(sink, json.dumps({"which": at}).encode())
            write(sink, data)
    except (EOFError, BrokenPipeError):
        return


if __name__ == "__main__":
    main()
