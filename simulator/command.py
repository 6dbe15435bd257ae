"""python -m simulator frame SCENE.json OUT.jpg: one frame of a made-up scene.

The scene is described in docs/simulator.md. What was taken is said as JSON on standard output, with
exit code 0; or what is wrong in one sentence on standard error, with exit code 2.
"""

from __future__ import annotations

import argparse
import json
import math
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import NoReturn

from optics.base.errors import OpticsError
from simulator.errors import SceneError
from simulator.exposing import write
from simulator.frame import take
from simulator.scene_file import read

BAD_INPUT, STOPPED = 2, 130


class _Parser(argparse.ArgumentParser):
    """Says what is wrong in one sentence."""

    def error(self, message: str) -> NoReturn:
        self.exit(BAD_INPUT, f"simulator: {message[:1].upper()}{message[1:]}. See --help.\n")


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; its exit code."""
    parser = _Parser(prog="python -m simulator", description=__doc__)
    commands = parser.add_subparsers(required=True, metavar="command", parser_class=_Parser)
    frame = commands.add_parser("frame", help="take one frame of a scene")
    frame.add_argument("scene", help="a file of JSON, or - for standard input")
    frame.add_argument("out", help="the JPEG to write")
    options = parser.parse_args(arguments)
    try:
        source = (
            sys.stdin.read() if options.scene == "-" else Path(options.scene).read_text("utf-8")
        )
        scene, camera = read(json.loads(source))
        pixels = take(scene, camera)
        write(pixels, camera, options.out)
    except SceneError as error:
        return _complain(f"{error.place}: {error.sentence}" if error.place else error.sentence)
    except OpticsError as error:
        return _complain(error.sentence)
    except (ValueError, RecursionError) as error:
        return _complain(f"{options.scene}: This is not JSON: {error}.")
    except OSError as error:
        return _complain(f"{error.filename}: {error.strerror}.")
    except KeyboardInterrupt:
        return STOPPED
    reads = camera.reads
    said = {
        "width_px": camera.body.width,
        "height_px": camera.body.height,
        "f_number": camera.f_number,
        "ring_reads_mm": reads if math.isfinite(reads) else None,
    }
    print(json.dumps(said))
    return 0


def _complain(message: str) -> int:
    print(f"simulator: {message}", file=sys.stderr)
    return BAD_INPUT
