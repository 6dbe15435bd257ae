"""Everything of an outing's frames as open data: CSV for tables, JSON for all of it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from web.outings.handing import told_of
from web.outings.models import Frame, Item
from web.ui.tables import csv_of

COLUMNS = (
    "name", "at", "of", "sure", "focal_length_mm", "f_number", "exposure_s", "iso", "body", "lens",
    "focus_mm", "width", "height", "rating", "keywords", "held", "focus_fell_mm",
    "focus_missed", "soft_marks", "first_cause", "wrong",
)  # fmt: skip
"""Of a table of frames. Lengths mm from the sensor, times by the camera's own clock."""


def table_of(frames: Iterable[Frame], items: dict[int, Item]) -> str:
    """A table of frames, a line each."""
    return csv_of((_row(told_of(frame, items)) for frame in frames), COLUMNS)


def _row(told: dict[str, Any]) -> dict[str, Any]:
    found = told["found"] or {}
    soft = [mark for mark in found.get("marks", []) if mark["word"] == "soft"]
    fell = found.get("fell") or {}
    return {
        **told,
        "keywords": ", ".join(told["keywords"]),
        "held": found.get("held"),
        "focus_fell_mm": fell.get("at_mm"),
        "focus_missed": fell.get("missed"),
        "soft_marks": ", ".join(mark["letter"] for mark in soft),
        "first_cause": soft[0]["parts"][0][0].lower() if soft and soft[0]["parts"] else "",
    }
