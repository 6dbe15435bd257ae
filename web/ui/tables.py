"""Tables and records to be kept elsewhere: CSV and JSON."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from django.http import HttpResponse

from web.ui.downloads import named

_TYPES = {"csv": "text/csv; charset=utf-8", "json": "application/json; charset=utf-8"}
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def csv_of(rows: Iterable[Mapping[str, Any]], columns: Sequence[str]) -> str:
    """With a head line; None is empty. Text that a table would take for a formula stays text."""
    out = io.StringIO()
    writer = csv.DictWriter(out, columns, lineterminator="\r\n", extrasaction="ignore")
    writer.writeheader()
    writer.writerows({name: _safe(value) for name, value in row.items()} for row in rows)
    return out.getvalue()


def _safe(value: Any) -> Any:
    return f"'{value}" if isinstance(value, str) and value.startswith(_FORMULA) else value


def json_of(found: Mapping[str, Any]) -> str:
    """As it is sent."""
    return json.dumps(found, ensure_ascii=False, indent=1)


def sent(body: str, name: str, ending: str) -> HttpResponse:
    """A file to be kept. ``ending``: csv or json."""
    response = HttpResponse(body, content_type=_TYPES[ending])
    response["Content-Disposition"] = named(f"{name}.{ending}", "attachment")
    return response
