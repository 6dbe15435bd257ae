"""What is promised of outings: the map of a large frame beside its decoding, a long list beside a
short one, and the memory that a folder of files takes."""

from __future__ import annotations

import io
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

from django.test import Client
from django.test.utils import setup_test_environment
from PIL import Image

from imaging.patches import mapped
from imaging.reading import read
from imaging.whole import patch_of
from simulator.body import Body
from simulator.camera import Camera
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Lens
from simulator.things import Board
from tools.bench_cards import median_of
from tools.bench_core import Measured
from web.outings.models import Frame, Outing, State
from web.people.models import Owner

PROMISED_MAP, PROMISED_LIST, PROMISED_MB = 3.0, 2.0, 900.0
SHORT, LONG = 100, 100_000
FILES = 24
"""Files of 24 MP that are read one after the other in one process."""
_BEGUN = datetime(2026, 1, 1, tzinfo=UTC)

_FOLDER = """
import re, sys
from pathlib import Path
from imaging.reading import read
from imaging.whole import plain, small_of, whole
def held():
    return int(re.search(r"VmHWM:\\s+(\\d+)", Path("/proc/self/status").read_text())[1])
raw = Path(sys.argv[1]).read_bytes()
after = []
for _ in range(int(sys.argv[2])):
    light = read(raw).luminance
    plain(whole(light)); small_of(light)
    after.append(held())
print(after[1], after[-1])
"""
"""Prints the most that was held after two files, and after all, kB."""


def large() -> bytes:
    """A frame of 24 megapixels full of detail."""
    lens = Lens(35.0, 2.0)
    camera = Camera(lens, Body(width=6000, height=4000), 8.0, lens.stands_for(4000.0), iso=200)
    near = Board(4000.0, 900.0, 900.0, 45.0)
    return file_of(take(Scene((Board(60_000.0, grain=700.0), near)), camera), camera)


def outing_of(owner: Owner, count: int) -> Outing:
    """An outing with so many frames home."""
    outing = Outing.objects.create(owner=owner, name=f"{count} frames", begun=_BEGUN)
    states = (State.HELD, State.SOFT, State.OTHER)
    for first in range(0, count, 5000):
        Frame.objects.bulk_create(
            Frame(outing=outing, name=f"frame-{at:06d}.jpg", bytes=at, state=states[at % 3],
                  order=at, at=_BEGUN + timedelta(seconds=at), told=True,
                  f_number=8.0, focal_length_mm=35.0)
            for at in range(first, min(first + 5000, count))
        )  # fmt: skip
    return outing


def list_ratio() -> float:
    """A long list of frames, against a short one: its first page and the next stretch."""
    setup_test_environment()
    client = Client()
    client.post("/outings/new/", {"name": "First"})
    owner = Outing.objects.get(name="First").owner

    def asked(outing: Outing) -> Callable[[], object]:
        last = outing.frames.order_by("-order")[60]

        def both() -> None:
            client.get(f"/outings/{outing.pk}/after/")
            client.get(f"/outings/{outing.pk}/frames/?after={last.pk}")

        return both

    return median_of(asked(outing_of(owner, LONG))) / median_of(asked(outing_of(owner, SHORT)))


def main() -> int:
    """Print all of it; 1 if one is not kept."""
    raw = large()
    light = read(raw).luminance
    patch = patch_of(light.shape[1], light.shape[0])
    decoding = median_of(lambda: Image.open(io.BytesIO(raw)).load(), 5)
    ratio = median_of(lambda: mapped(light, patch), 5) / decoding
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.jpg"
        path.write_bytes(raw)
        begun = time.perf_counter()
        done = subprocess.run(
            [sys.executable, "-c", _FOLDER, str(path), str(FILES)],
            capture_output=True, text=True, check=True,
        )  # fmt: skip
        each = (time.perf_counter() - begun) / FILES
    first, last = (int(word) / 1024.0 for word in done.stdout.split())
    found = [
        Measured("the map of 24 MP, against decoding it", ratio, PROMISED_MAP),
        Measured(f"{LONG} frames in a list, against {SHORT}", list_ratio(), PROMISED_LIST),
        Measured(f"memory after {FILES} files of 24 MP", last, PROMISED_MB, "MB"),
        Measured("and how much it grew since the second", last / first, 1.1),
    ]
    for line in found:
        print(line)
    print(f"a file of 24 MP is read and measured in {each:.2g} s")
    return 0 if all(line.kept for line in found) else 1
