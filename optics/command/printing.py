"""What ``python -m optics`` prints: rows and answers as text, CSV and JSON."""

from __future__ import annotations

import csv
import json
import math
import sys
from collections.abc import Callable, Iterator
from dataclasses import fields
from typing import Any

from optics.base.settable import (
    COARSE,
    FINE,
    MOST_FIGURES,
    Span,
    down,
    figures_of,
    inside,
    up,
    written,
)
from optics.base.units import CENTIMETRES, METRES, MILLIMETRES, SYSTEMS, write
from optics.base.writing import circles
from optics.command.answered import Answered, answer_of
from optics.command.tables import DepthRow, HyperfocalRow
from optics.scene.comparing import Compared

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
        print("  ".join(f"{_cell(row, name, units):>12}" for name in _names(row)))


def _cell(row: type_row, name: str, units: str) -> str:
    value = float(getattr(row, name))
    if name == "f_number":
        return f"f/{value:g}"
    if name == "focal_length":
        return f"{value:g} mm"
    if math.isnan(value):
        return "nothing"
    if name == "focus":
        return write(value, units)
    return _limit(value, row.focus if isinstance(row, DepthRow) else math.inf, units)


def _limit(value: float, focus: float, units: str) -> str:
    """A limit, on its own side of the ring: a near one is never written nearer, a far one never
    farther, with as many figures as that takes."""
    if units not in (*SYSTEMS, CENTIMETRES, MILLIMETRES):
        return write(value, units)
    system = units if units in SYSTEMS else METRES
    for figures in range(FINE, MOST_FIGURES + 1):
        rounded = (up if value <= focus else down)(value, system, figures)
        if (rounded <= focus) is (value <= focus):
            break
    return write(rounded, units, figures)


def print_aim(answered: Answered, output: str, units: str) -> None:
    """Print an answer. ``output``: TEXT, CSV (of the marks) or JSON."""
    if output == JSON:
        print(json.dumps(answer_of(answered), indent=2, ensure_ascii=False))
    elif output == CSV:
        _aim_csv(answered)
    else:
        print("\n".join(_aim_text(answered, units)))


def _aim_csv(answered: Answered) -> None:
    marks: list[dict[str, Any]] = answer_of(answered)["marks"]
    names = list(marks[0]) if marks else ["name", "depth_mm", "word"]
    writer = csv.DictWriter(sys.stdout, names, lineterminator="\n")
    writer.writeheader()
    writer.writerows(marks)


def _aim_text(answered: Answered, units: str) -> Iterator[str]:
    found = answered.answer
    system = found.scene.system

    def say(distance: float) -> str:
        return write(distance, units)

    def exactly(distance: float) -> str:
        """What was judged, as it was judged."""
        if units in (CENTIMETRES, MILLIMETRES):
            return write(distance, units, figures_of(distance, system))
        return written(distance, system)

    def stretch(span: Span) -> str:
        ends = f"from {exactly(span.near)} to {exactly(span.far)}"
        if span.reach:
            ends = f"at {exactly(span.middle)} ± {write(span.reach, MILLIMETRES, COARSE)}"
        return ends

    aperture = f"f/{found.scene.f_number:g}"
    if found.why_not:
        yield f"{found.why_not} Placed by the ends meanwhile."
    if found.chosen.says:
        yield found.chosen.says
    rings = [exactly(shot.focus) for shot in found.shots]
    if len(rings) > 1:
        yield f"Set the ring in turn to {', '.join(rings)}, at {aperture}."
    else:
        yield f"Set the ring to {rings[0]}, {aperture}."
    if found.window is None:
        yield "No setting holds all that must be sharp."
    else:
        kept = "keeps infinity sharp" if found.ends is None else "holds all that must be sharp"
        yield f"Anywhere {stretch(found.window)} {kept}."
    if found.sharp is not None:
        yield f"Sharp {stretch(found.sharp)}."
    if found.blurs_unseen:
        alone = circles(found.diffraction_alone)
        yield f"At {aperture} diffraction alone is {alone} × the standard, which leaves it out."
    if answered.chart is not None and answered.chart.sharpest is not None:
        widest = answered.chart.widest
        holds = f"The widest aperture that holds it is f/{widest.f_number:g}" if widest else ""
        yield f"{holds or 'No aperture does'}; the sharpest f/{answered.chart.sharpest.f_number:g}."
    if found.verdicts:
        yield ""
        for verdict in found.verdicts:
            name = verdict.mark.name or "mark"
            yield (
                f"  {name:<20.20} {say(verdict.mark.depth):>10}  {verdict.word.value:<5}"
                f"  {circles(verdict.circles):>5} × the standard"
            )
    yield ""
    for compared in answered.schools:
        said = compared.why_not or _what(compared, exactly, stretch, system)
        yield f"  {compared.school.key:<12} {said}"


def _what(
    compared: Compared, say: Callable[[float], str], stretch: Callable[[Span], str], system: str
) -> str:
    assert compared.cost is not None
    settings = ", ".join(say(setting) for setting in compared.settings)
    if not any(verdict.mark.must for verdict in compared.verdicts):
        assert compared.limits is not None
        if compared.limits.empty:
            return f"{settings}: nothing is sharp"
        sharp = inside(compared.limits.near, compared.limits.far, system)
        return f"{settings}: sharp {stretch(sharp)}"
    lost = len(compared.cost.lost)
    held = "holds all" if not lost else f"loses {lost}"
    return f"{settings}: {held}, worst {circles(compared.cost.worst)} × the standard"
