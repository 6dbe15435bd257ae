"""python -m optics: tables of depth of field, and the answer to one scene, without the application.

The only place of the core that reads and writes. Exit codes: 0 done, 2 something given was not
understood (said on standard error, with what and where), 130 stopped by Ctrl-C.
"""

from __future__ import annotations

import argparse
import json
import math
import os
import sys
import time
from collections.abc import Callable, Iterable, Iterator, Sequence
from pathlib import Path
from typing import TextIO

from optics.base.errors import NotUnderstood, OpticsError
from optics.base.units import METRES, UNITS, parse
from optics.command.answered import Answered
from optics.command.printing import CSV, JSON, TEXT, print_aim, print_rows, type_row
from optics.command.scene_file import scene_of
from optics.command.tables import MOST_STEPS, depth_rows, hyperfocal_rows, stepped
from optics.lens.aperture import FULL, HALVES, THIRDS
from optics.lens.setup import Setup

_SERIES = {"full": FULL, "halves": HALVES, "thirds": THIRDS}
_USUAL_APERTURES = FULL.from_to(2, 22)
BAD_INPUT, STOPPED = 2, 130


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
    print_rows(_with_progress(rows, count, sys.stderr), options.output, options.units)
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


# One scene


def _aim(options: argparse.Namespace) -> int:
    try:
        text = sys.stdin.read() if options.scene == "-" else Path(options.scene).read_text("utf-8")
        data = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise NotUnderstood(options.scene, "", f"This is not JSON: {error}.") from None
    scene, units = scene_of(data)
    print_aim(Answered.of(scene), options.output, units)
    return 0
