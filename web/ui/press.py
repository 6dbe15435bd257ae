"""The press: sets pages as PDF in a process of its own, one at a time, each within its time.

A page that takes too long is stopped by stopping that process, and what setting takes of memory
goes with it: after ``MOST_JOBS`` it starts anew. So a hard sheet costs whoever asked for it a
sentence, and nobody else anything. The other end is ``web.ui.press_room``, which knows no Django.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import threading
from collections.abc import Sequence
from pathlib import Path
from typing import IO, Any

SECONDS = 20.0
"""How long one PDF may take, all its settings together."""
WAIT = 4.0
"""s: how long somebody may wait for their turn."""
WAITING = 1
"""How many may, per process; a waiting one holds a thread that could answer others."""
MOST_JOBS = 400
ROOT = Path(__file__).resolve().parents[2]


class CannotPrint(Exception):
    """This machine lacks the libraries that make a PDF."""


class Busy(Exception):
    """Others are printing: nothing was begun."""


class TooLong(Exception):
    """It was begun, and given up after ``SECONDS``."""


class Press:
    """One press. ``folders``: where the static files lie that a page may name."""

    def __init__(self, folders: Sequence[str], ours: str) -> None:
        self.folders = tuple(folders)
        self._order = json.dumps({"folders": list(folders), "ours": ours})
        self._turn = threading.Lock()
        self._waiting = threading.BoundedSemaphore(WAITING)
        self._process: subprocess.Popen[bytes] | None = None
        self._jobs = 0

    def set(
        self, tries: Sequence[str], pages: int, *, number_only: bool = False
    ) -> tuple[int, bytes]:
        """The first of some documents (HTML) that fits so many pages, else the last: which, and
        its PDF; empty with ``number_only``. Raises CannotPrint, Busy, TooLong."""
        job = {"tries": list(tries), "pages": pages, "number_only": number_only}
        said, data = self._asked(job)
        return int(said["which"]), data

    def cards(self, sides: Sequence[Sequence[str]]) -> tuple[list[int], bytes]:
        """Sides of cards, each as the first of its tries that fits a page: how many pages each took
        (more than one where even the last does not fit), and all of them as one PDF. Raises as
        ``set``."""
        said, data = self._asked({"cards": [list(tries) for tries in sides]})
        return [int(pages) for pages in said["pages"]], data

    def picture(self, tries: Sequence[str], ending: str, dpi: float, title: str) -> bytes:
        """The page that is the first of its tries to fit, as ``png`` or ``svg``. Raises as
        ``set``."""
        job = {"cards": [list(tries)], "picture": ending, "dpi": dpi, "title": title}
        return self._asked(job)[1]

    @property
    def idle(self) -> bool:
        """Whether a job would be begun at once."""
        return not self._turn.locked()

    def _asked(self, job: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
        """A job, in its turn."""
        if not self._turn.acquire(blocking=False):
            if not self._waiting.acquire(blocking=False):
                raise Busy
            try:
                if not self._turn.acquire(timeout=WAIT):
                    raise Busy
            finally:
                self._waiting.release()
        try:
            return self._done(job)
        finally:
            self._turn.release()

    def close(self) -> None:
        """Stop the process; the next job starts another."""
        process, self._process = self._process, None
        if process is not None:
            process.kill()
            process.wait()
            for pipe in (process.stdin, process.stdout):
                if pipe is not None:
                    pipe.close()

    def _done(self, job: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
        if self._process is None or self._process.poll() is not None or self._jobs >= MOST_JOBS:
            self.close()
            self._process, self._jobs = self._started(), 0
        process = self._process
        self._jobs += 1
        too_long = threading.Event()

        def stop() -> None:
            too_long.set()
            process.kill()

        timer = threading.Timer(SECONDS, stop)
        timer.start()
        try:
            assert process.stdin is not None
            assert process.stdout is not None
            write(process.stdin, json.dumps(job).encode())
            head = json.loads(read(process.stdout))
            if "cannot" in head:
                raise CannotPrint(head["cannot"])
            return head, read(process.stdout)
        except (EOFError, OSError) as error:
            self.close()
            if too_long.is_set():
                raise TooLong from error
            raise CannotPrint("The press stopped.") from error
        finally:
            timer.cancel()

    def _started(self) -> subprocess.Popen[bytes]:
        process = subprocess.Popen(
            [sys.executable, "-m", "web.ui.press_room"],
            cwd=ROOT, stdin=subprocess.PIPE, stdout=subprocess.PIPE,
            env={**os.environ, "PYTHONPATH": str(ROOT)},
        )  # fmt: skip
        assert process.stdin is not None
        write(process.stdin, self._order.encode())
        return process


def write(stream: IO[bytes], data: bytes) -> None:
    """One message: its length in eight bytes, then itself."""
    stream.write(len(data).to_bytes(8, "big") + data)
    stream.flush()


def read(stream: IO[bytes]) -> bytes:
    """The next message. Raises EOFError where the other end has gone."""
    head = stream.read(8)
    if len(head) < 8:
        raise EOFError
    length = int.from_bytes(head, "big")
    data = stream.read(length)
    if len(data) < length:
        raise EOFError
    return data
