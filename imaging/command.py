"""python -m imaging: what pictures say, as JSON.

One object on standard output and exit code 0; or one sentence on standard error and exit code 2.
The fields are described in docs/imaging.md and keep their names.
"""

from __future__ import annotations

import argparse
import json
import math
import os
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, NoReturn

from imaging.errors import PictureError

Said = dict[str, Any]
BAD_INPUT, STOPPED = 2, 130
_FIGURES = 5


class _Parser(argparse.ArgumentParser):
    """Says what is wrong in one sentence."""

    def error(self, message: str) -> NoReturn:
        self.exit(BAD_INPUT, f"imaging: {message[:1].upper()}{message[1:]}. See --help.\n")


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; its exit code."""
    options = _parser().parse_args(arguments)
    try:
        said = options.run(options)
    except PictureError as error:
        place = f"{Path(error.place).name}: " if error.place else ""
        return _complain(f"{place}{error.sentence}")
    except OSError as error:
        return _complain(f"{error.filename}: {error.strerror}.")
    except KeyboardInterrupt:
        return STOPPED
    try:
        print(json.dumps(_plain(said), allow_nan=False))
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


def _complain(message: str) -> int:
    print(f"imaging: {message}", file=sys.stderr)
    return BAD_INPUT


def _plain(value: Any) -> Any:
    """Numbers with as many figures as mean something; null for what is not known."""
    if isinstance(value, dict):
        return {key: _plain(one) for key, one in value.items()}
    if isinstance(value, (list, tuple)):
        return [_plain(one) for one in value]
    if isinstance(value, float):
        return float(f"{value:.{_FIGURES}g}") if math.isfinite(value) else None
    return value


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="python -m imaging", description=__doc__)
    commands = parser.add_subparsers(required=True, metavar="command", parser_class=_Parser)

    def command(name: str, run: Callable[[argparse.Namespace], Said], text: str) -> _Parser:
        one = commands.add_parser(name, help=text, description=text)
        one.set_defaults(run=run)
        return one

    edge = command("edge", _edge, "blur of the clearest slanted edge in a picture")
    stars = command("stars", _stars, "width of the stars in a picture")
    patches = command("map", _map, "how soft a picture is, patch by patch")
    exif = command("exif", _exif, "what a file says of how its picture was taken")
    for one in (edge, stars, patches, exif):
        one.add_argument("file")
    patches.add_argument("--patch", type=int, default=64, help="side of a patch, pixels (64)")
    beside = command("beside", _beside, "two pictures of one thing: what is softer, what moved")
    beside.add_argument("first")
    beside.add_argument("second")
    beside.add_argument("--patch", type=int, default=64, help="side of a patch, pixels (64)")
    shift = command(
        "shift", _shift, "shift of focus by aperture, from frames of the printed target"
    )
    shift.add_argument("files", nargs="+")
    shift.add_argument("--focal-length", type=float, help="mm, where the files do not say it")
    shift.add_argument("--pitch", type=float, help="mm between pixels, where they do not say it")
    shift.add_argument(
        "--f-number", type=float, action="append", help="of each file in turn, where they do not"
    )
    return parser


def _edge(options: argparse.Namespace) -> Said:
    from imaging.finding import clearest_edge  # what is not asked for is not loaded
    from imaging.reading import read

    edge = clearest_edge(read(options.file).luminance)
    return {
        "disc_px": edge.blur.disc,
        "error_px": edge.blur.error,
        "angle_deg": math.degrees(edge.line.off_grid),
    }


def _stars(options: argparse.Namespace) -> Said:
    from imaging.reading import read
    from imaging.stars import measured

    stars = measured(read(options.file).luminance)
    return {"fwhm_px": stars.fwhm, "error_px": stars.error, "count": stars.count}


def _map(options: argparse.Namespace) -> Said:
    from imaging.patches import mapped
    from imaging.reading import read

    found = mapped(read(options.file).luminance, options.patch)
    return {"patch": found.patch, "disc_px": found.disc.tolist(), "known": found.known.tolist()}


def _beside(options: argparse.Namespace) -> Said:
    from imaging.beside import compared
    from imaging.reading import read

    first, second = (read(file).luminance for file in (options.first, options.second))
    found = compared(first, second, options.patch)
    return {
        "patch": found.patch,
        "says": found.says.tolist(),
        "first_px": found.first.tolist(),
        "second_px": found.second.tolist(),
        "contrast": found.contrast.tolist(),
        "across_px": found.across,
        "down_px": found.down,
        "lighter": found.lighter,
    }


def _exif(options: argparse.Namespace) -> Said:
    from imaging.exif import exif_of
    from imaging.reading import bytes_of

    exif = exif_of(bytes_of(options.file))
    return {
        "f_number": exif.f_number,
        "focal_length_mm": exif.focal_length,
        "focal_length_35_mm": exif.focal_length_35,
        "exposure_s": exif.exposure,
        "iso": exif.iso,
        "taken": exif.taken or None,
        "body": exif.body or None,
        "lens": exif.lens or None,
        "focus_distance_mm": exif.focus_distance,
        "pitch_mm": exif.pitch,
        "orientation": exif.orientation,
        "doubts": list(exif.doubts),
    }


def _shift(options: argparse.Namespace) -> Said:
    from imaging.looked import Looked, same_kind, taken_as
    from imaging.reading import read
    from imaging.shift import compared

    said = options.f_number or []
    if said and len(said) != len(options.files):
        raise PictureError("Say --f-number as often as there are files, or not at all.")
    looked, kinds = [], []
    for at, file in enumerate(options.files):
        try:
            picture = read(file)
        except PictureError as error:
            error.place = error.place or file
            raise
        taken = taken_as(
            file,
            picture,
            f_number=said[at] if said else None,
            focal_length=options.focal_length,
            pitch=options.pitch,
        )
        kinds.append((taken, picture.size, picture.exif.lens))
        looked.append(Looked.at(taken, picture))
    same_kind(kinds)
    found = compared(looked)
    return {
        "reference_f_number": found.shifts[0].f_number,
        "distance_mm": found.distance,
        "lean_deg": math.degrees(found.lean),
        "moved": found.moved,
        "shifts": [
            {
                "f_number": one.f_number,
                "shift_mm": one.shift,
                "error_mm": one.error,
                "beyond_mm": one.beyond,
                "files": [Path(name).name for name in one.frames],
            }
            for one in found.shifts
        ],
        "frames": [
            {
                "file": Path(one.taken.name).name,
                "f_number": one.taken.f_number,
                "sharpest_at_mm": one.depth,
                "error_mm": one.error,
                "disc_px": one.disc,
                "edges": len(one.spreads),
            }
            for one in found.best
        ],
    }
