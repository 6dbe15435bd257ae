"""python -m optics: tables of depth of field, and the answer to one scene, without the application.

The only place of the core that reads and writes. Exit codes: 0 done, 2 something given was not
understood (said on standard error, with what and where), 130 stopped by Ctrl-C.
"""

from __future__ import annotations

import argparse
import csv
import json
import math
import os
import sys
import time
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import fields
from pathlib import Path
from typing import Any, TextIO

from optics import Setup
from optics.aim import Aim, aim
from optics.aperture import FULL, HALVES, THIRDS
from optics.errors import NotUnderstood, OpticsError
from optics.interchange import answer_of, scene_of
from optics.marks import Wish
from optics.schools import Placed
from optics.tables import MOST_STEPS, DepthRow, HyperfocalRow, depth_rows, hyperfocal_rows, stepped
from optics.units import METRES, UNITS, parse, write

TEXT, CSV, JSON = "text", "csv", "json"
_SERIES = {"full": FULL, "halves": HALVES, "thirds": THIRDS}
_USUAL_APERTURES = FULL.from_to(2, 22)
BAD_INPUT, STOPPED = 2, 130

type_row = HyperfocalRow | DepthRow


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; its exit code."""
    options = _parser().parse_args(arguments)
    try:
        return int(options.run(options))
    except OpticsError as error:
        where = f"{error.name}: " if error.name not in ("text", "") else ""
        given = f" Given: {error.value}" if error.value not in ("", None) else ""
        return _complain(f"{where}{error.sentence}{given}")
    except OSError as error:
        if isinstance(error, BrokenPipeError):
            os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
            return 0
        return _complain(f"{error.filename}: {error.strerror}")
    except KeyboardInterrupt:
        return STOPPED


def _complain(message: str) -> int:
    print(f"optics: {message}", file=sys.stderr)
    return BAD_INPUT


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="python -m optics", description=__doc__)
    commands = parser.add_subparsers(required=True, metavar="command")
    table = commands.add_parser(
        "table",
        help="hyperfocal distances, or near and far limits",
        description="Focal lengths × apertures → hyperfocal distance and near limit; with --focus,"
        " each ring setting's near and far limit. Lists are 24,28,35 or 20:35:5.",
    )
    table.add_argument("focal_lengths", metavar="focal-lengths", help="mm: 24,28,35 or 20:35:5")
    table.add_argument(
        "-a",
        "--apertures",
        default="",
        help="f-numbers, or full, halves, thirds (default: f/2–f/22)",
    )
    table.add_argument("-c", "--circle", default="0.03", help="circle of confusion, mm (0.03)")
    table.add_argument("-f", "--focus", help="ring settings: 1m,1.5m,2m,inf or 1:5:0.5")
    table.add_argument("-d", "--diffraction", action="store_true", help="count diffraction")
    _shared(table)
    table.set_defaults(run=_table)
    one = commands.add_parser(
        "aim",
        help="the answer to one scene",
        description="Reads a scene as JSON (docs/optics.md describes it; - is standard input).",
    )
    one.add_argument("scene", help="a file, or - for standard input")
    one.add_argument("-o", "--output", default=TEXT, choices=(TEXT, CSV, JSON))
    one.set_defaults(run=_aim)
    return parser


def _shared(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("-u", "--units", default=METRES, choices=UNITS, help="of distances (m)")
    parser.add_argument("-o", "--output", default=TEXT, choices=(TEXT, CSV, JSON))


# Tables


def _table(options: argparse.Namespace) -> int:
    focal_lengths = _list("focal lengths", options.focal_lengths, _plain_number)
    apertures = _apertures(options.apertures)
    circle = _plain_number("circle", options.circle)
    setup = Setup(focal_lengths[0], apertures[0], circle, diffraction=options.diffraction)
    rows: Iterator[type_row]
    if options.focus is None:
        rows = hyperfocal_rows(setup, focal_lengths, apertures)
        count = len(focal_lengths) * len(apertures)
    else:
        focuses = _list(
            "focus", options.focus, lambda name, text: _length(name, text, options.units)
        )
        rows = depth_rows(setup, focal_lengths, apertures, focuses)
        count = len(focal_lengths) * len(apertures) * len(focuses)
    _print_rows(_with_progress(rows, count, sys.stderr), options.output, options.units)
    return 0


def _apertures(text: str) -> list[float]:
    if not text:
        return list(_USUAL_APERTURES)
    if text in _SERIES:
        return list(_SERIES[text].from_to(1, 32))
    return _list("apertures", text, lambda name, part: _plain_number(name, part.removeprefix("f/")))


def _list(name: str, text: str, read: Callable[[str, str], float]) -> list[float]:
    """24,28,35 or 20:35:5, the two mixed as one likes."""
    values: list[float] = []
    for part in text.split(","):
        bounds = [read(name, bound) for bound in part.split(":")]
        if len(bounds) == 1:
            values.append(bounds[0])
            continue
        if len(bounds) != 3:
            raise NotUnderstood(name, part, "A range is start:stop:step.")
        start, stop, step = bounds
        if not (step > 0 and start <= stop < math.inf):
            raise NotUnderstood(name, part, "A range rises from start to stop by a step above 0.")
        if (stop - start) / step > MOST_STEPS:
            raise NotUnderstood(name, part, f"That is more than {MOST_STEPS} steps.")
        values.extend(stepped(start, stop, step))
    return values


def _plain_number(name: str, text: str) -> float:
    try:
        return float(text.strip().removesuffix("mm"))
    except ValueError:
        raise NotUnderstood(name, text, "This is not a number.") from None


def _length(name: str, text: str, units: str) -> float:
    try:
        return parse(text, units)
    except NotUnderstood as error:
        raise NotUnderstood(name, text, error.sentence) from None


_BAR = 30
_AFTER = 1.0
"""s. A table that takes less shows no progress."""


def _with_progress(rows: Iterable[type_row], count: int, to: TextIO) -> Iterator[type_row]:
    """The rows themselves, with a bar on a terminal once they take longer than a second."""
    watched = to.isatty() and not sys.stdout.isatty()
    start = shown = time.monotonic()
    for at, row in enumerate(rows, 1):
        yield row
        if watched and at % 64 == 0:
            now = time.monotonic()
            if now - start > _AFTER and now - shown > 0.1:
                shown = now
                full = round(_BAR * at / count)
                to.write(f"\r{'█' * full}{'·' * (_BAR - full)} {at} of {count} rows ")
                to.flush()
    if watched and shown > start:
        to.write("\r\x1b[K")


def _print_rows(rows: Iterator[type_row], output: str, units: str) -> None:
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


# One scene


def _aim(options: argparse.Namespace) -> int:
    try:
        text = sys.stdin.read() if options.scene == "-" else Path(options.scene).read_text("utf-8")
        data = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise NotUnderstood(options.scene, "", f"This is not JSON: {error}.") from None
    scene, school, units = scene_of(data)
    answer = aim(scene, school, units if units in ("m", "ft") else METRES)
    if options.output == JSON:
        print(json.dumps(answer_of(answer), indent=2, ensure_ascii=False))
    elif options.output == CSV:
        _aim_csv(answer)
    else:
        print("\n".join(_aim_text(answer, units)))
    return 0


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


if __name__ == "__main__":
    sys.exit(main())
