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
from typing import Any

from tools.mutate_meaning import MEANINGLESS

ROOT = Path(__file__).resolve().parents[1]
ROOMS = {
    "optics": ("tests.optics", "tests.drawing"),
    "drawing": ("tests.drawing", "tests.web"),
    "web": ("tests.web",),
}
"""By room: the tests that may notice. A drawing is drawn by the pages."""
MOST_TESTS = 60
"""How many of the tests that run a line are tried."""
STRONGEST = ("test_every", "test_recorded", "test_drawn", "test_printed")
"""Those that look at all of an answer: tried last, however many others there are."""
PATIENCE = 300
"""s: a fault that makes tests hang is noticed too."""

UNSEEN = {"slots", "frozen", "kw_only", "maxsize", "dtype", "strict", "repr", "compare"}
"""Keywords whose lack changes nothing that is computed."""
COMPARED = {ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq,
            ast.NotEq: ast.Eq, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot,
            ast.IsNot: ast.Is}  # fmt: skip
WORKED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult,
          ast.Pow: ast.Mult, ast.FloorDiv: ast.Div, ast.Mod: ast.Mult}  # fmt: skip


@dataclass(frozen=True)
class Fault:
    """One change. ``path``: of the file; ``at``: which of its places; ``line``; ``says``: what."""

    path: str
    at: int
    line: int
    says: str

    def __str__(self) -> str:
        return f"{self.path}:{self.line} {self.says}"


class Changer(ast.NodeTransformer):
    """Finds the places of a file that can be changed; changes the one that is ``wanted``."""

    def __init__(self, wanted: int = -1) -> None:
        self.wanted, self.count, self.statement = wanted, 0, 0
        self.found: list[tuple[int, str]] = []

    def place(self, node: ast.AST, says: str) -> bool:
        """Whether this is the one to change."""
        self.found.append((self.statement, f"{says}, line {getattr(node, 'lineno', 0)}"))
        self.count += 1
        return self.count - 1 == self.wanted

    def visit(self, node: ast.AST) -> Any:
        """Tests are known to run whole statements: it is their first line that is kept."""
        before = self.statement
        if isinstance(node, ast.stmt):
            self.statement = node.lineno
        found = super().visit(node)
        self.statement = before
        return found

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        self.generic_visit(node)
        other = COMPARED.get(type(node.ops[0]))
        if other and self.place(node, f"{type(node.ops[0]).__name__} for {other.__name__}"):
            node.ops[0] = other()
        return node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        other = WORKED.get(type(node.op))
        if isinstance(node.left, (ast.Constant, ast.JoinedStr)) and isinstance(
            getattr(node.left, "value", ""), str
        ):
            return node
        if other and self.place(node, f"{type(node.op).__name__} for {other.__name__}"):
            node.op = other()
        return node

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        self.generic_visit(node)
        other = ast.Or if isinstance(node.op, ast.And) else ast.And
        if self.place(node, f"{type(node.op).__name__} for {other.__name__}"):
            node.op = other()
        return node

    def visit_UnaryOp(self, node: ast.UnaryOp) -> ast.AST:
        self.generic_visit(node)
        if isinstance(node.op, (ast.Not, ast.USub)) and self.place(node, "sign or not left out"):
            return node.operand
        return node

    def visit_If(self, node: ast.If) -> ast.AST:
        self.generic_visit(node)
        if self.place(node, "if turned round"):
            node.test = ast.UnaryOp(ast.Not(), node.test)
        return node

    def visit_IfExp(self, node: ast.IfExp) -> ast.AST:
        self.generic_visit(node)
        if self.place(node, "if turned round"):
            node.test = ast.UnaryOp(ast.Not(), node.test)
        return node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        value = node.value
        if isinstance(value, bool):
            if self.place(node, f"{value} for {not value}"):
                return ast.copy_location(ast.Constant(not value), node)
        elif isinstance(value, (int, float)) and self.place(node, f"{value} changed"):
            changed = value + 1 if isinstance(value, int) else value * 1.1 + (value == 0) * 0.1
            return ast.copy_location(ast.Constant(changed), node)
        return node

    def visit_Call(self, node: ast.Call) -> ast.AST:
        self.generic_visit(node)
        named = [one for one in node.keywords if one.arg and one.arg not in UNSEEN]
        if named and self.place(node, f"{named[-1].arg}= left out"):
            node.keywords.remove(named[-1])
        return node

    def visit_Expr(self, node: ast.Expr) -> ast.AST:
        if isinstance(node.value, ast.Constant):
            return node  # a docstring
        self.generic_visit(node)
        return ast.Pass() if self.place(node, "statement not done") else node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        if node.value is not None:
            node.value = self.visit(node.value)
        return node

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        node.body = [self.visit(one) for one in node.body]
        node.args.defaults = [self.visit(one) for one in node.args.defaults]
        return node

    def visit_ClassDef(self, node: ast.ClassDef) -> ast.AST:
        node.body = [self.visit(one) for one in node.body]  # not what decorates it
        return node

    def visit_Raise(self, node: ast.Raise) -> ast.AST:
        return node  # the sentence of an error


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
    """By file and line: the tests that run it, the quickest first. Learned by running them."""
    found = folder / "runs.json"
    code = subprocess.run(
        [sys.executable, "-m", "tools.mutate_learn", room, str(found), *ROOMS[room]],
        cwd=ROOT, env=environment(folder / "learn"), check=False, capture_output=True, text=True,
    )  # fmt: skip
    if not found.exists():
        sys.exit(f"aim: the tests do not run as they are.\n{code.stderr[-2000:]}")
    told: dict[str, dict[str, list[str]]] = json.loads(found.read_text())
    return told


def to_try(tests: list[str]) -> list[str]:
    """Of the tests that run a line, those that are tried, in their order."""
    last = [one for one in tests if any(f".{name}." in one for name in STRONGEST)]
    return [one for one in tests if one not in last][:MOST_TESTS] + last


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
    parser.add_argument("--learned", type=Path, help="a file to keep who runs what in")
    options = parser.parse_args()
    begun = time.monotonic()
    with tempfile.TemporaryDirectory(prefix="aim-mutate-") as name:
        folder = Path(name)
        if options.learned and options.learned.exists():
            runs = json.loads(options.learned.read_text())
        else:
            runs = who_runs(options.room, folder)
            if options.learned:
                options.learned.write_text(json.dumps(runs))
        print(f"learned who runs what in {time.monotonic() - begun:.0f} s", flush=True)
        all_faults = list(faults_of(options.room))
        tried = random.Random(options.seed).sample(all_faults, min(options.count, len(all_faults)))
        cores = os.cpu_count() or 1
        workers = []
        for at in range(cores):
            (folder / str(at)).mkdir()
            workers.append(Worker(folder / str(at)))

        def part_of(at: int) -> list[tuple[Fault, str, int]]:
            found = []
            for fault in tried[at::cores]:
                known = runs.get(fault.path, {})
                tests = to_try(known.get(str(fault.line)) or known.get("*", []))
                who = workers[at].noticed(fault, tests) if tests else ""
                found.append((fault, who, len(tests)))
            return found

        with ThreadPoolExecutor(cores) as pool:
            results = [one for part in pool.map(part_of, range(cores)) for one in part]
    lived = [one for one in results if not one[1]]
    excused = {one[0]: why for one in lived if (why := meaningless(one[0]))}
    survived = [one for one in lived if one[0] not in excused]
    for fault, _, tests in sorted(survived, key=lambda one: str(one[0])):
        print(f"survived: {fault} ({tests} tests run it)")
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
