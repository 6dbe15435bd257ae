"""Odd requests, many: ./aim fuzz [--count N] [--seed S]. Prints each answer 500 with its request,
and whatever took more than a second of processor time and was no PDF."""

from __future__ import annotations

import argparse
import collections
import logging
import sys
import time
import traceback
from collections.abc import Callable
from pathlib import Path
from random import Random

import django
from django.test import Client
from django.test.runner import DiscoverRunner


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=5000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--pdf", type=float, default=0.02, help="the share of PDFs that is asked")
    options = parser.parse_args()
    django.setup()
    runner = DiscoverRunner(verbosity=0, interactive=False)
    runner.setup_test_environment()
    databases = runner.setup_databases()
    try:
        return run(options.count, options.seed, options.pdf)
    finally:
        runner.teardown_databases(databases)


def place_of(error: BaseException) -> str:
    """Where of ours an error came from."""
    frames = traceback.extract_tb(error.__traceback__)
    ours = [frame for frame in frames if "/.venv/" not in frame.filename]
    told = [f"{Path(frame.filename).stem}:{frame.lineno}" for frame in ours[-3:]]
    return f"{type(error).__name__} {' > '.join(told)}"


class Noticed(logging.Handler):
    """Tells where an error came from that was made a message."""

    def __init__(self, tell: Callable[[str], None]) -> None:
        super().__init__()
        self.tell = tell

    def emit(self, record: logging.LogRecord) -> None:
        if record.exc_info and record.exc_info[1]:
            self.tell(place_of(record.exc_info[1]))


def run(count: int, seed: int, pdf: float) -> int:
    """Send so many; 1 if any broke."""
    from tests.web.fuzz import asked
    from web.demo.world import load

    load()
    dice = Random(seed)
    client = Client()
    client.post("/you/", {"units": "m"})
    broke: dict[str, list[str]] = {}
    codes: collections.Counter[int] = collections.Counter()
    slow = []
    asking = asked(dice)
    escaped: dict[str, list[str]] = {}
    last = [""]
    log = logging.getLogger("aim.escaped")
    log.propagate = False
    log.addHandler(Noticed(lambda place: escaped.setdefault(place, []).append(last[0])))
    for at in range(count):
        ask = next(asking)
        if ask.printed and dice.random() > pdf * 10:
            continue
        begun = time.process_time()
        last[0] = str(ask)
        try:
            answer = ask.send(client)
            codes[answer.status_code] += 1
            if answer.status_code == 500:
                broke.setdefault("500", []).append(str(ask))
        except Exception as error:
            frames = traceback.extract_tb(error.__traceback__)
            ours = [f for f in frames if "/.venv/" not in f.filename]
            place = (
                f"{type(error).__name__} {ours[-1].filename.split('/main/')[-1]}:{ours[-1].lineno}"
            )
            broke.setdefault(place, []).append(f"{error!s:.200}\n    {ask}")
        spent = time.process_time() - begun
        if spent > 1.0 and not ask.printed:
            slow.append((spent, str(ask)))
        if at % 1000 == 999:
            print(f"{at + 1}: {sum(map(len, broke.values()))} broke, {len(slow)} slow", flush=True)
    for place, said in sorted(broke.items(), key=lambda one: -len(one[1])):
        print(f"\n{len(said)} × {place}\n  {said[0][:1500]}")
    for place, said in sorted(escaped.items(), key=lambda one: -len(one[1])):
        print(f"\n{len(said)} × made a message: {place}\n  {said[0][:1500]}")
    for spent, told in sorted(slow, reverse=True)[:10]:
        print(f"\n{spent:.2f} s  {told[:1500]}")
    print(
        f"\n{count} requests, seed {seed}: {dict(codes)}; broke: {sum(map(len, broke.values()))}; "
        f"made a message: {sum(map(len, escaped.values()))}"
    )
    return 1 if broke or slow else 0


if __name__ == "__main__":
    sys.exit(main())
