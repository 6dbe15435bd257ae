"""One style sheet and one script for each screen: on a slow line every file more is a wait more.

Put together from the source files in their order, once for each process, under an address that
changes with what is in it, so that browsers keep it for good.
"""

from __future__ import annotations

import gzip
import re
from dataclasses import dataclass
from functools import lru_cache
from hashlib import sha256
from pathlib import Path, PurePosixPath

from django.conf import settings
from django.contrib.staticfiles import finders
from django.http import Http404, HttpRequest, HttpResponse
from django.templatetags.static import static
from django.urls import reverse
from django.utils.cache import patch_vary_headers
from django.views.decorators.http import require_safe

from web.ui import screens

COMMON = {
    "css": (
        ("vendor/bootstrap/bootstrap-used.min.css", "ui/theme.css", "ui/controls.css",
         "ui/fields.css", "ui/lists.css", "ui/words.css", "ui/top.css", "ui/pages.css"),
        (),
    ),
    "js": (("ui/page.js", "ui/lists.js"), ("vendor/alpine/alpine-csp.min.js",)),
}  # fmt: skip
"""What every page has, before and after a screen's own."""
_TYPES = {"css": "text/css; charset=utf-8", "js": "text/javascript; charset=utf-8"}
_NO_SCREEN = "page"
_URL = re.compile(r"""url\((["']?)(?!data:|/|https?:|#)([^"')]+)\1\)""")


@dataclass(frozen=True, slots=True)
class Bundle:
    """``text``: all of it; ``packed``: for browsers that take it so; ``digest``: of what is in
    it."""

    text: bytes
    packed: bytes
    digest: str


def address(key: str, kind: str) -> str:
    """Where the bundle of a screen is. ``kind``: css or js."""
    args = [bundle(key, kind).digest, key or _NO_SCREEN, kind]
    return reverse("ui:bundle", args=args)


def bundle(key: str, kind: str) -> Bundle:
    """That of a screen, by its key; of pages that are no screen's for any other."""
    if settings.DEBUG:
        return _made.__wrapped__(key, kind)
    return _made(key, kind)


@lru_cache(maxsize=64)
def _made(key: str, kind: str) -> Bundle:
    screen = screens.known(key)
    first, last = COMMON[kind]
    own = screen.styles if kind == "css" else screen.scripts
    texts = [_read(name) for name in (*first, *own, *last)]
    text = (";\n" if kind == "js" else "\n").join(texts).encode()
    return Bundle(text, gzip.compress(text, 9, mtime=0), sha256(text).hexdigest()[:12])


def _read(name: str) -> str:
    found = finders.find(name)
    if found is None:
        raise FileNotFoundError(name)
    text = Path(found).read_text(encoding="utf-8")
    here = PurePosixPath(name).parent

    def resolved(match: re.Match[str]) -> str:
        parts: list[str] = []
        for part in (here / match[2]).parts:
            if part == "..":
                parts.pop()
            else:
                parts.append(part)
        return f'url("{static("/".join(parts))}")'

    return _URL.sub(resolved, text) if name.endswith(".css") else text


@require_safe
def send(request: HttpRequest, digest: str, key: str, kind: str) -> HttpResponse:
    """A bundle; for good under its own address, asked for again under an older one."""
    if kind not in COMMON or (key != _NO_SCREEN and screens.known(key) is screens.NONE):
        raise Http404("There is no such screen.")
    found = bundle("" if key == _NO_SCREEN else key, kind)
    packed = "gzip" in request.headers.get("Accept-Encoding", "")
    response = HttpResponse(found.packed if packed else found.text, content_type=_TYPES[kind])
    if packed:
        response["Content-Encoding"] = "gzip"
    patch_vary_headers(response, ["Accept-Encoding"])
    lasting = "public, max-age=31536000, immutable"
    response["Cache-Control"] = lasting if digest == found.digest else "no-cache"
    return response
