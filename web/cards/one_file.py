"""All cards of a lens in one file, with everything in it: for a phone without a signal."""

from __future__ import annotations

import base64
import re
from functools import lru_cache
from pathlib import Path
from typing import Any

from django.contrib.staticfiles import finders
from django.template.loader import render_to_string

_SHEETS = ("ui/theme.css", "ui/card.css", "cards/cards.css", "cards/pocket.css")
_SCRIPTS = ("cards/strip.js", "cards/pocket.js")
_URL = re.compile(r"""url\((["']?)([^"')]+\.woff2)\1\)""")


def written(context: dict[str, Any]) -> str:
    """The file. ``context``: what the cards' templates need."""
    more = {"style": _style(), "script": _script()}
    return render_to_string("cards/pocket.html", {**context, **more})


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
