"""Who may import whom, as the table in docs/architecture.md has it; and what the house keeps to."""

from __future__ import annotations

import ast
import re
import unittest
from collections import defaultdict
from functools import cache
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
STOREYS = ("optics", "drawing", "imaging", "simulator", "drills", "web")
GROUPS = ("base", "lens", "scene", "zones", "sky", "light", "command")
OUTSIDE_ROOMS = ("web.settings", "web.urls", "web.wsgi", "web.serving")
LONGEST = 300


def sources(*folders: str) -> list[Path]:
    """Every Python file of some folders, but for migrations."""
    found = [path for folder in folders for path in (ROOT / folder).rglob("*.py")]
    return [path for path in found if "migrations" not in path.parts]


def name_of(path: Path) -> str:
    """A file as a module."""
    parts = path.relative_to(ROOT).with_suffix("").parts
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


def room_of(module: str) -> str:
    """The room that a module stands in; empty for what wires them together."""
    storey, *rest = module.split(".")
    if module.startswith(OUTSIDE_ROOMS) or storey not in STOREYS or module == "web":
        return ""
    if storey == "web":
        return f"web.{rest[0]}"
    return f"optics.{rest[0]}" if storey == "optics" and rest and rest[0] in GROUPS else storey


@cache
def named(path: Path) -> tuple[ast.Import | ast.ImportFrom, ...]:
    """What a file imports when it is loaded or later, as it says it."""
    lines = ast.walk(ast.parse(path.read_text("utf-8")))
    return tuple(line for line in lines if isinstance(line, ast.Import | ast.ImportFrom))


def imports(path: Path, modules: set[str]) -> set[str]:
    """The modules of the house that a file imports."""
    found = set()
    for node in named(path):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif node.module:
            inner = {f"{node.module}.{alias.name}" for alias in node.names}
            found |= {name if name in modules else node.module for name in inner}
    return {name for name in found if name.split(".")[0] in STOREYS}


class RoomsTest(unittest.TestCase):
    modules: dict[str, Path]

    @classmethod
    def setUpClass(cls) -> None:
        cls.modules = {name_of(path): path for path in sources(*STOREYS)}

    def allowed(self) -> dict[str, set[str]]:
        text = (ROOT / "docs" / "architecture.md").read_text("utf-8")
        rows = re.findall(r"^\| ([a-z.]+) \|([^|]*)\|$", text, re.MULTILINE)
        table = {room: set(re.findall(r"[a-z.]+", may)) for room, may in rows if room != "room"}
        self.assertGreater(len(table), 15, "the table was found")
        return table

    def test_every_import_is_one_that_the_drawing_has(self) -> None:
        allowed = self.allowed()
        rooms = {room_of(name) for name in self.modules} - {""}
        self.assertEqual(rooms, set(allowed), "every room stands in the table")
        wrong = [
            f"{module} imports {other}"
            for module, path in self.modules.items()
            for other in sorted(imports(path, set(self.modules)))
            if (room := room_of(module)) and (there := room_of(other)) and there != room
            and there not in allowed[room]
        ]  # fmt: skip
        self.assertEqual(wrong, [])

    def test_the_table_allows_nothing_that_is_not_used(self) -> None:
        used: dict[str, set[str]] = defaultdict(set)
        for module, path in self.modules.items():
            used[room_of(module)] |= {room_of(o) for o in imports(path, set(self.modules))}
        unused = {room: may - used[room] for room, may in self.allowed().items()}
        self.assertEqual({room: extra for room, extra in unused.items() if extra}, {})

    def test_no_arrow_points_up(self) -> None:
        allowed = self.allowed()
        above: dict[str, set[str]] = {}

        def reach(room: str, way: tuple[str, ...]) -> set[str]:
            self.assertNotIn(room, way, "a circle of rooms")
            if room not in above:
                below = (reach(other, (*way, room)) | {other} for other in allowed[room])
                above[room] = set().union(*below)
            return above[room]

        for room in allowed:
            reach(room, ())

    def test_no_modules_import_each_other(self) -> None:
        names = set(self.modules)
        graph = {module: imports(path, names) & names for module, path in self.modules.items()}
        done: set[str] = set()

        def visit(module: str, way: tuple[str, ...]) -> None:
            self.assertNotIn(module, way, " → ".join((*way, module)))
            if module not in done:
                for other in graph[module] - {module}:
                    visit(other, (*way, module))
                done.add(module)

        for module in graph:
            visit(module, ())


class HouseTest(unittest.TestCase):
    def test_no_file_is_longer_than_a_head_holds(self) -> None:
        ours = [*sources(*STOREYS, "tests", "tools")]
        for ending in ("css", "js", "html", "svg"):
            ours += (ROOT / "web").rglob(f"*.{ending}")
        long = [
            f"{path.relative_to(ROOT)}: {count}"
            for path in ours
            if "vendor" not in path.parts
            and (count := path.read_text("utf-8").count("\n")) > LONGEST
        ]
        self.assertEqual(long, [])

    def test_another_aperture_comes_from_the_kit(self) -> None:
        """A setup whose aperture is changed carries along what was found of the lens at another."""
        searching = {"optics.lens.kit", "optics.lens.aperture", "optics.zones.tiling",
                     "optics.zones.stretches", "optics.command.tables"}  # fmt: skip
        wrong = [
            name_of(path)
            for path in sources("optics", "drawing", "web")
            if re.search(r"replace\([^()]*setup[^()]*f_number=", path.read_text("utf-8"))
            and name_of(path) not in searching
        ]
        self.assertEqual(wrong, [])

    def test_views_neither_compute_nor_round(self) -> None:
        for path in (ROOT / "web").glob("*/*views.py"):
            with self.subTest(name_of(path)):
                text = path.read_text("utf-8")
                self.assertNotRegex(text, r"\bround\(|\{[^{}]*:\.\d[efg]\}|from optics\.lens")

    def test_the_page_around_lists_no_screen_by_hand(self) -> None:
        page = (ROOT / "web/ui/templates/ui/base.html").read_text("utf-8")
        styles = re.findall(r"static '([a-z]+)/", page)
        self.assertLessEqual(set(styles), {"ui", "vendor"})
        for path in (ROOT / "web").iterdir():
            if path.is_dir() and path.name not in ("ui", "people", "settings"):
                self.assertNotIn(f"'{path.name}:", page)

    def test_reference_values_are_not_made_by_the_code(self) -> None:
        for path in (ROOT / "tests" / "optics" / "reference").rglob("*.py"):
            self.assertNotRegex(
                path.read_text("utf-8"), r"(?m)^\s*(from|import) (optics|drawing|web)"
            )

    def test_every_requirement_is_locked(self) -> None:
        for source in ROOT.glob("requirements*.in"):
            lock = source.with_suffix(".lock").read_text("utf-8").lower()
            for line in source.read_text("utf-8").splitlines():
                if named := re.match(r"[A-Za-z][\w-]*", line):
                    with self.subTest(source=source.name, requirement=named[0]):
                        self.assertIn(f"\n{named[0].lower()}==", f"\n{lock}")

    def test_no_room_styles_another(self) -> None:
        """Every rule names something that the room's own templates and scripts have; what planners
        share is dressed by their room, what is kept by its own, and what all have by ui."""
        planners = ("planner", "hand", "view", "street", "sky")
        shared = {"planner": planners, "kept": ("kept", *planners)}
        for sheet in (ROOT / "web").glob("*/static/*/*.css"):
            room = sheet.parent.name
            if room == "ui":
                continue
            words = {word for each in shared.get(room, (room,)) for word in words_of(each)}
            text = re.sub(r"/\*.*?\*/", "", sheet.read_text("utf-8"), flags=re.DOTALL)
            for selector in re.findall(r"([^{}]+)\{(?=[^{}]*\})", text):
                named = re.findall(r"[.#]([A-Za-z][\w-]*)", selector)
                with self.subTest(sheet=sheet.name, selector=selector.strip()):
                    self.assertTrue(not named or any(name in words for name in named))


@cache
def words_of(room: str) -> frozenset[str]:
    """Every word that the templates, scripts and modules of a room of web say."""
    paths = (p for p in (ROOT / "web" / room).rglob("*") if "vendor" not in p.parts)
    texts = (p.read_text("utf-8") for p in paths if p.suffix in (".html", ".svg", ".js", ".py"))
    return frozenset(word for text in texts for word in re.findall(r"[\w-]+", text))
