"""Cards in one file, with everything in it: for a phone without a signal."""

from __future__ import annotations

import base64
import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from django.contrib.staticfiles import finders
from django.http import HttpResponse
from django.template.loader import render_to_string
from django.utils.safestring import SafeString

from web.ui.downloads import file_name, named

_SHEETS = ("ui/theme.css", "ui/drawings.css", "ui/card.css", "cards/cards.css", "cards/pocket.css")
_SCRIPTS = ("cards/strip.js", "cards/pocket.js")
_URL = re.compile(r"""url\((["']?)([^"')]+\.woff2)\1\)""")


@dataclass(frozen=True, slots=True)
class Inside:
    """A card in the file: its place in it, what it is of and what it is, and itself."""

    key: str
    name: str
    noun: str
    html: SafeString


def written(title: str, cards: Sequence[Inside]) -> str:
    """The file."""
    context = {"title": title, "cards": cards, "style": _style(), "script": _script()}
    return render_to_string("cards/pocket.html", context)


def sent(title: str, cards: Sequence[Inside]) -> HttpResponse:
    """The file, to be kept."""
    response = HttpResponse(written(title, cards), content_type="text/html; charset=utf-8")
    response["Content-Disposition"] = named(f"{file_name(title, 'cards')}.html", "attachment")
    return response


@lru_cache(maxsize=1)
def _style() -> str:
    """Styles, with the fonts that they name inside."""
    return "\n".join(_with_fonts(_path(sheet)) for sheet in _SHEETS)


@lru_cache(maxsize=1)
def _script() -> str:
    return "\n".join(_path(script).read_text("utf-8") for script in _SCRIPTS)


def _path(name: str) -> Path:
    found = finders.find(name)
    assert isinstance(found, str), name
    return Path(found)


def _with_fonts(sheet: Path) -> str:
    def inside(found: re.Match[str]) -> str:
        data = (sheet.parent / found[2]).resolve().read_bytes()
        return f"url(data:font/woff2;base64,{base64.b64encode(data).decode('ascii')})"

    return _URL.sub(inside, sheet.read_text("utf-8"))
