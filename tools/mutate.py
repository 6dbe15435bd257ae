"""Random small faults in one room, and whether its tests notice: ./aim mutate ROOM

A fault is one small change to one line of code: a comparison, an operator, a number, a condition, a
keyword that is left out, a statement that is not done. Which tests run a line is learned first, by
running them once; a fault is then tried on the tests that run its line, the quickest first, until
one fails. Each is tried in a copy of the project, so that nothing here changes. What survives is
listed; what has no meaning (a number that only speeds a search, say) stands, with the reason, in
``mutate_meaning``.
"""

from __future__ import annotations

import argparse
import ast
import json
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from tools.mutate_faults import AS_LOADED, Changer
from tools.mutate_meaning import MEANINGLESS

ROOT = Path(__file__).resolve().parents[1]
ROOMS = {
    "optics": ("tests.optics", "tests.drawing"),
    "drawing": ("tests.drawing", "tests.web"),
    "web": ("tests.web",),
}
"""By room: the tests that may notice. A drawing is drawn by the pages."""
MOST_TESTS = 150
"""How many of the tests that run a line are tried."""
STRONGEST = (
    "test_migrated", "test_fields_said", "test_every", "test_recorded", "test_drawn",
    "test_printed", "test_limits",
)  # fmt: skip
"""Those that look at all there is: tried last, however many others there are, and on what is done
when a module is loaded, which nobody sees a test run."""
BESIDE = {"web/ui/press_room.py": "web/ui/press.py"}
"""What runs in a process of its own, where nobody sees which tests run it: what starts it."""
PATIENCE = 900
"""s: a fault that makes tests hang is noticed too."""


@dataclass(frozen=True)
class Fault:
    """One change. ``path``: of the file; ``at``: which of its places; ``line``; ``says``: what."""

    path: str
    at: int
    line: int
    says: str

    def __str__(self) -> str:
        return f"{self.path} {self.says}"


def faults_of(room: str) -> Iterator[Fault]:
    """Every small fault that a room could have."""
    for path in sorted((ROOT / room).rglob("*.py")):
        if "migrations" in path.parts or "settings" in path.parts:
            continue
        changer = Changer()
        changer.visit(ast.parse(path.read_text("utf-8")))
        name = str(path.relative_to(ROOT))
        for at, (line, says) in enumerate(changer.found):
            yield Fault(name, at, line, says)


def changed(fault: Fault) -> str:
    """The file with the fault in it."""
    tree = ast.parse((ROOT / fault.path).read_text("utf-8"))
    return ast.unparse(ast.fix_missing_locations(Changer(fault.at).visit(tree)))


def who_runs(room: str, folder: Path) -> dict[str, dict[str, list[str]]]:
    """By file and line: the tests that run it, the quickest first. Learned by running them, half of
    the modules in each of two processes."""
    names = sorted(
        ".".join(path.relative_to(ROOT).with_suffix("").parts)
        for part in ROOMS[room]
        for path in (ROOT / part.replace(".", "/")).rglob("test_*.py")
    )
    halves = []
    for at in (0, 1):
        found = folder / f"runs-{at}.json"
        command = [sys.executable, "-m", "tools.mutate_learn", str(found), *names[at::2]]
        env = environment(folder / f"learn-{at}")
        with (folder / f"learn-{at}.log").open("w") as log:
            halves.append((subprocess.Popen(command, cwd=ROOT, env=env, stderr=log), found))
    runs: dict[str, dict[str, list[str]]] = {}
    took: dict[str, float] = {}
    for process, found in halves:
        process.wait()
        if not found.exists():
            said = found.with_name(found.stem.replace("runs", "learn") + ".log")
            sys.exit(f"aim: the tests do not run as they are.\n{said.read_text()[-2000:]}")
        told = json.loads(found.read_text())
        took |= told["took"]
        for path, lines in told["runs"].items():
            for line, tests in lines.items():
                runs.setdefault(path, {}).setdefault(line, []).extend(tests)
    for lines in runs.values():
        for tests in lines.values():
            tests.sort(key=took.__getitem__)
    return runs


def to_try(tests: list[str]) -> list[str]:
    """Of the tests that run a line, those that are tried, in their order: without Django first."""
    plain = [one for one in tests if one.startswith(("tests.optics", "tests.drawing"))]
    found = []
    for part in (plain, [one for one in tests if one not in plain]):
        last = [one for one in part if any(f".{name}." in one for name in STRONGEST)]
        found += [one for one in part if one not in last][:MOST_TESTS] + last
    return found


def environment(var: Path) -> dict[str, str]:
    """For a process of tests with a place of its own."""
    var.mkdir(exist_ok=True)
    return {**os.environ, "AIM_VAR": str(var), "DJANGO_SETTINGS_MODULE": "web.settings.test",
            "PYTHONDONTWRITEBYTECODE": "1"}  # fmt: skip


def meaningless(fault: Fault) -> str:
    """Why a fault changes nothing that anybody could see; empty where it may."""
    text = (ROOT / fault.path).read_text("utf-8").splitlines()
    at = int(fault.says.rpartition(" line ")[2])
    for path, line, says, why in MEANINGLESS:
        if (
            re.search(path, fault.path)
            and re.search(line, text[at - 1])
            and re.search(says, fault.says)
        ):
            return why
    return ""


class Worker:
    """A copy of the project that faults are tried in, one after the other."""

    def __init__(self, folder: Path) -> None:
        self.root = folder / "project"
        left_out = shutil.ignore_patterns(".git", ".venv*", "var", "node_modules", "__pycache__")
        shutil.copytree(ROOT, self.root, ignore=left_out)
        self.env = environment(folder / "var")

    def noticed(self, fault: Fault, tests: list[str]) -> str:
        """The name of a test that fails with the fault; empty if none does."""
        path = self.root / fault.path
        before = path.read_text("utf-8")
        path.write_text(changed(fault), "utf-8")
        try:
            done = subprocess.run(
                [sys.executable, "-m", "tools.mutate_try", *tests],
                cwd=self.root, env=self.env, check=False, capture_output=True, text=True,
                timeout=PATIENCE,
            )  # fmt: skip
        except subprocess.TimeoutExpired:
            return "it hangs"
        finally:
            path.write_text(before, "utf-8")
        return "" if done.returncode == 0 else (done.stdout.strip() or "it does not start")


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("room", choices=sorted(ROOMS))
    parser.add_argument("--count", type=int, default=150)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--learned", default="", help="a file to keep who runs what in")
    options = parser.parse_args()
    begun = time.monotonic()
    with tempfile.TemporaryDirectory(prefix="aim-mutate-") as name:
        folder = Path(name)
        kept = Path(options.learned) if options.learned else None
        if kept and kept.exists():
            runs = json.loads(kept.read_text())
        else:
            runs = who_runs(options.room, folder)
            if kept:
                kept.write_text(json.dumps(runs))
        print(f"learned who runs what in {time.monotonic() - begun:.0f} s", flush=True)
        all_faults = list(faults_of(options.room))
        tried = random.Random(options.seed).sample(all_faults, min(options.count, len(all_faults)))
        cores = os.cpu_count() or 1
        workers = []
        for at in range(cores):
            (folder / str(at)).mkdir()
            workers.append(Worker(folder / str(at)))

        every = {one for lines in runs.values() for one in lines["*"]}
        strongest = [one for name in STRONGEST for one in sorted(every) if f".{name}." in one]

        def part_of(at: int) -> list[tuple[Fault, str, int]]:
            found = []
            for fault in tried[at::cores]:
                starter = BESIDE.get(fault.path)
                known = runs.get(starter or fault.path, {})
                tests = (not starter and known.get(str(fault.line))) or known.get("*") or []
                if fault.line == AS_LOADED or not tests:
                    tests = [*tests, *(one for one in strongest if one not in tests)]
                tests = to_try(tests)
                who = workers[at].noticed(fault, tests) if tests else ""
                found.append((fault, who, len(tests)))
                if not who:
                    print(f"lives: {fault} ({len(tests)} tests run it)", flush=True)
            return found

        with ThreadPoolExecutor(cores) as pool:
            results = [one for part in pool.map(part_of, range(cores)) for one in part]
    lived = [one for one in results if not one[1]]
    excused = {one[0]: why for one in lived if (why := meaningless(one[0]))}
    survived = [one for one in lived if one[0] not in excused]
    for fault, _, _ in sorted(survived, key=lambda one: str(one[0])):
        print(f"survived: {fault}")
    for fault, why in excused.items():
        print(f"without meaning: {fault}: {why}")
    count = len(results) - len(excused)
    noticed = count - len(survived)
    share, spent = 100 * noticed / max(count, 1), time.monotonic() - begun
    print(f"{options.room}, seed {options.seed}: {noticed} of {count} noticed, {share:.0f} %")
    print(f"in {spent:.0f} s")
    return 0


if __name__ == "__main__":
    sys.exit(main())
