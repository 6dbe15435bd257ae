"""The promised speeds of measuring pictures and of making them up.

A picture of 24 megapixels is read and its edge measured in at most three times what decoding its
JPEG takes, in a process of its own that holds at most 600 MB. A made-up frame of six megapixels
takes at most three seconds: the one promise that is no ratio.
"""

from __future__ import annotations

import io
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from PIL import Image

from imaging.finding import clearest_edge
from imaging.reading import read
from simulator.body import Body
from simulator.camera import Camera
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Lens
from simulator.things import Board, Edge, Sheet
from tools.bench_core import Measured

PROMISED_RATIO, PROMISED_MB, PROMISED_SECONDS = 3.0, 600.0, 3.0
_ROUNDS = 5
_LENS = Lens(50.0)

_ALONE = """
import re, sys
from pathlib import Path
from imaging.finding import clearest_edge
from imaging.reading import read
clearest_edge(read(sys.argv[1]).luminance)
print(re.search(r"VmHWM:\\s+(\\d+)", Path("/proc/self/status").read_text())[1])
"""
"""Prints the most it held, kB. A process's own ``ru_maxrss`` begins with what its parent held."""


def _timed(run: Callable[[], object]) -> float:
    times = []
    for _ in range(_ROUNDS):
        start = time.perf_counter()
        run()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


def large() -> bytes:
    """A picture of 24 megapixels with a slanted edge, as a camera writes it."""
    camera = Camera(_LENS, Body(width=6000, height=4000), 4.0, _LENS.stands_for(900.0))
    return file_of(take(Scene((Edge(1000.0),)), camera), camera)


def measured() -> list[Measured]:
    """All promises about pictures."""
    raw = large()

    def decoded() -> None:
        Image.open(io.BytesIO(raw)).load()

    ratio = _timed(lambda: clearest_edge(read(raw).luminance)) / _timed(decoded)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.jpg"
        path.write_bytes(raw)
        done = subprocess.run(
            [sys.executable, "-c", _ALONE, str(path)], capture_output=True, text=True, check=True
        )
    camera = Camera(_LENS, Body(), 2.0, _LENS.stands_for(650.0))
    scene = Scene((Sheet(650.0), Board(float("inf"))))
    return [
        Measured("an edge in 24 MP, against decoding it", ratio, PROMISED_RATIO),
        Measured("and what that holds", int(done.stdout) / 1024.0, PROMISED_MB, "MB"),
        Measured(
            "a made-up frame of 6 MP", _timed(lambda: take(scene, camera)), PROMISED_SECONDS, "s"
        ),
    ]


def main() -> int:
    """Print them; 1 if one is not kept."""
    found = measured()
    for line in found:
        print(line)
    return 0 if all(line.kept for line in found) else 1


if __name__ == "__main__":
    sys.exit(main())
