"""Writes down what every function of the optics says now: python -m tests.optics.every.record

To be run when an answer is meant to change; the names of what changed are printed, with an example
of each, and belong into the message of the commit.
"""

from __future__ import annotations

import json
import lzma
import sys
from collections.abc import Sequence
from pathlib import Path

from tests.optics.every.calls import all_said
from tests.optics.every.told import differences

VALUES = Path(__file__).parent / "values.json.xz"


def recorded() -> dict[str, list[list[str]]]:
    """By name: what each call said when it was written down."""
    found: dict[str, list[list[str]]] = json.loads(lzma.decompress(VALUES.read_bytes()))
    return found


def changes(before: list[list[str]], now: Sequence[list[str] | None]) -> list[str]:
    """What the calls of one function say else, a line each; but those that were left out."""
    found = [] if len(before) == len(now) else [f"{len(before)} calls → {len(now)}"]
    for at, (old, new) in enumerate(zip(before, now, strict=False)):
        if new is not None:
            found += [f"call {at}: {line}" for line in differences(old, new)]
    return found


def main() -> int:
    said = all_said()
    before = recorded() if VALUES.exists() else {}
    for name in sorted({*said, *before}):
        found = changes(before.get(name, []), said.get(name, []))
        if found:
            print(f"{name}: {len(found)} differ, as {found[0]}")
    VALUES.write_bytes(lzma.compress(json.dumps(said).encode(), preset=9))
    return 0


if __name__ == "__main__":
    sys.exit(main())
