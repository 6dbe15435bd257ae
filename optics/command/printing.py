"""What ``python -m optics`` prints: rows and answers as text, CSV and JSON."""

from __future__ import annotations

import csv
import json
import math
import sys
from collections.abc import Callable, Iterator
from dataclasses import fields
from typing import Any

from optics.base.units import write
from optics.command.scene_file import answer_of
from optics.command.tables import DepthRow, HyperfocalRow
from optics.scene.answer import Aim
from optics.scene.marks import Wish
from optics.scene.schools import Placed

TEXT, CSV, JSON = "text", "csv", "json"

type_row = HyperfocalRow | DepthRow


def print_rows(rows: Iterator[type_row], output: str, units: str) -> None:
    """Print a table as it comes. ``output``: TEXT, CSV or JSON."""
    if output == CSV:
        _print_csv(rows)
    elif output == JSON:
        _print_json(rows)
    else:
        _print_text(rows, units)


def _names(row: type_row) -> list[str]:
    return [field.name for field in fields(row)]


def _print_csv(rows: Iterator[type_row]) -> None:
    writer = csv.writer(sys.stdout, lineterminator="\n")
    for at, row in enumerate(rows):
        if at == 0:
            writer.writerow([_heading(name) for name in _names(row)])
        writer.writerow([f"{getattr(row, name):.7g}" for name in _names(row)])


def _heading(name: str) -> str:
    return name if name == "f_number" else f"{name}_mm"


def _print_json(rows: Iterator[type_row]) -> None:
    print("[")
    for at, row in enumerate(rows):
        values = {_heading(name): _plain_json(getattr(row, name)) for name in _names(row)}
        print((",\n" if at else "") + json.dumps(values), end="")
    print("\n]")


def _plain_json(value: float) -> float | str | None:
    if math.isnan(value):
        return None
    return "inf" if math.isinf(value) else value


def _print_text(rows: Iterator[type_row], units: str) -> None:
    headed = False
    for row in rows:
        if not headed:
            columns = (name.replace("_", " ") for name in _names(row))
            print("  ".join(f"{name:>12}" for name in columns))
            headed = True
        print("  ".join(f"{_cell(name, getattr(row, name), units):>12}" for name in _names(row)))


def _cell(name: str, value: float, units: str) -> str:
    if name == "f_number":
        return f"f/{value:g}"
    if name == "focal_length":
        return f"{value:g} mm"
    return "nothing" if math.isnan(value) else write(value, units)


def print_aim(answer: Aim, output: str, units: str) -> None:
    """Print an answer. ``output``: TEXT, CSV (of the marks) or JSON."""
    if output == JSON:
        print(json.dumps(answer_of(answer), indent=2, ensure_ascii=False))
    elif output == CSV:
        _aim_csv(answer)
    else:
        print("\n".join(_aim_text(answer, units)))


def _aim_csv(answer: Aim) -> None:
    marks: list[dict[str, Any]] = answer_of(answer)["marks"]
    names = list(marks[0]) if marks else ["name", "depth_mm", "word"]
    writer = csv.DictWriter(sys.stdout, names, lineterminator="\n")
    writer.writeheader()
    writer.writerows(marks)


def _aim_text(answer: Aim, units: str) -> Iterator[str]:
    def say(distance: float) -> str:
        return write(distance, units)

    aperture = f"f/{float(answer.scene.setup.f_number):g}"
    if answer.setting is None or answer.placed is None:
        yield f"No setting: {answer.chosen.why_not}"
    elif len(answer.placed.settings) > 1:
        settings = ", ".join(say(setting) for setting in answer.placed.settings)
        yield f"Set the ring in turn to {settings}, at {aperture}."
    else:
        ring = write(answer.setting.focus, units, answer.setting.figures)
        yield f"Set the ring to {ring}, {aperture}."
    if answer.tolerance is None:
        yield "No setting holds all that must be sharp."
    else:
        near, far = answer.tolerance.near, answer.tolerance.far
        kept = (
            "keeps infinity sharp" if answer.apertures is None else "holds all that must be sharp"
        )
        yield f"Anywhere from {say(near)} to {say(far)} {kept}."
    if answer.sharp is not None:
        yield f"Sharp from {say(answer.sharp.near)} to {say(answer.sharp.far)}."
    if answer.apertures is not None:
        needed = answer.apertures.next_settable
        widest = (
            f"The widest aperture that holds it is f/{needed:g}" if needed else "No aperture does"
        )
        yield f"{widest}; the sharpest about f/{answer.apertures.sharpest:.2g}."
    if answer.placed is not None and answer.placed.verdicts:
        yield ""
        for verdict in answer.placed.verdicts:
            name = verdict.mark.name or "mark"
            yield (
                f"  {name:<20.20} {say(verdict.mark.depth):>10}  {verdict.word.value:<5}"
                f"  {verdict.circles:5.2f} × the standard"
            )
    yield ""
    for placed in answer.schools:
        what = placed.why_not or _what(placed, say)
        yield f"  {placed.school.value:<12} {what}"


def _what(placed: Placed, say: Callable[[float], str]) -> str:
    assert placed.cost is not None
    settings = ", ".join(say(setting) for setting in placed.settings)
    if all(verdict.mark.wish is not Wish.SHARP for verdict in placed.verdicts):
        assert placed.limits is not None
        if placed.limits.empty:
            return f"{settings}: nothing is sharp"
        near, far = float(placed.limits.near), float(placed.limits.far)
        return f"{settings}: sharp from {say(near)} to {say(far)}"
    lost = len(placed.cost.lost)
    held = "holds all" if not lost else f"loses {lost}"
    return f"{settings}: {held}, worst {placed.cost.worst:.2f} × the standard"
