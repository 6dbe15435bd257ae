"""Writes down what every function of the drawing draws now: python -m tests.drawing.record"""

from __future__ import annotations

import json
import lzma
import pkgutil
import sys
from importlib import import_module
from pathlib import Path

import drawing
from tests.drawing.cases import Cases
from tests.optics.every.record import changes
from tests.optics.every.told import told, tried

VALUES = Path(__file__).parent / "values.json.xz"
TIMES = 60


def all_drawn(one_in: int = 1) -> dict[str, list[list[str] | None]]:
    """By name: what each draws, a list of lines for each of its cases; one case in so many."""

    def case(name: str, at: int) -> list[str] | None:
        return list(told(tried(Cases(f"{name} {at}").every()[name]))) if at % one_in == 0 else None

    found: dict[str, list[list[str] | None]] = {}
    for name in Cases("names").every():
        found[name] = [case(name, at) for at in range(TIMES)]
    for module in pkgutil.iter_modules(drawing.__path__):
        for name, value in vars(import_module(f"drawing.{module.name}")).items():
            if name.isupper() and not name.startswith("_"):
                found[f"{module.name}.{name}"] = [list(told(value))]
    return found


def recorded() -> dict[str, list[list[str]]]:
    """By name: what it drew when it was written down."""
    found: dict[str, list[list[str]]] = json.loads(lzma.decompress(VALUES.read_bytes()))
    return found


def main() -> int:
    drawn = all_drawn()
    before = recorded() if VALUES.exists() else {}
    for name in sorted({*drawn, *before}):
        if found := changes(before.get(name, []), drawn.get(name, [])):
            print(f"{name}: {len(found)} differ, as {found[0]}")
    VALUES.write_bytes(lzma.compress(json.dumps(drawn).encode(), preset=9))
    return 0


if __name__ == "__main__":
    sys.exit(main())
