"""Drawings read back: their points, against the numbers that are printed beside them."""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterator

from tests.web.walk.pages import Node, length

NUMBER = re.compile(r"-?\d+(?:\.\d+)?(?:e-?\d+)?")
PLACES = ("d", "x", "y", "cx", "cy", "r", "width", "height", "transform")
HALF = 0.06
"""px. Coordinates are written to a tenth."""
Point = tuple[float, float]


def points(path: str) -> list[list[Point]]:
    """The corners of a path, a list for each part that it moves to. Curves by their ends."""
    parts: list[list[Point]] = []
    x = y = 0.0
    for command, rest in re.findall(r"([A-Za-z])([^A-Za-z]*)", path):
        given = [float(one) for one in NUMBER.findall(rest)]
        size = {"H": 1, "V": 1, "A": 7, "Z": 0}.get(command.upper(), 2)
        for at in range(0, max(len(given), 1), max(size, 1)):
            one = given[at : at + size]
            if command in "Zz":
                x, y = parts[-1][0]
            elif command.upper() in "HV":
                base = (x if command == "h" else y) if command.islower() else 0.0
                x, y = (base + one[0], y) if command.upper() == "H" else (x, base + one[0])
            else:
                base_x, base_y = (x, y) if command.islower() else (0.0, 0.0)
                x, y = base_x + one[-2], base_y + one[-1]
            if command.upper() == "M" and at == 0:
                parts.append([])
            parts[-1].append((x, y))
    return parts


def moved(node: Node) -> Point:
    """Where an element is moved to."""
    found = re.search(r"translate\(([-\d.e]+)[ ,]+([-\d.e]+)\)", node.attrs.get("transform", ""))
    assert found is not None, node.attrs
    return float(found[1]), float(found[2])


def crosses(one: tuple[Point, Point], other: tuple[Point, Point]) -> bool:
    """Whether two stretches cross, not only touch."""

    def side(a: Point, b: Point, c: Point) -> float:
        return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])

    (a, b), (c, d) = one, other
    return side(a, b, c) * side(a, b, d) < -1e-6 and side(c, d, a) * side(c, d, b) < -1e-6


def odd(svg: Node) -> Iterator[str]:
    """What is wrong with any drawing: points that are no numbers or far outside, outlines that
    cross themselves, words over words, labels that do not follow each other."""
    box = [float(one) for one in svg.attrs["viewbox"].split()]
    left, top, right, bottom = box[0] - 40, box[1] - 40, box[0] + box[2] + 40, box[1] + box[3] + 40
    for node in svg.walk():
        for name, value in node.attrs.items():
            if name in PLACES and re.search(r"nan|inf|none", value, re.IGNORECASE):
                yield f"{node.tag} {name}={value[:60]}"
        if node.tag == "rect" and min(
            float(node.attrs.get(name, 0)) for name in ("width", "height")
        ) < 0:  # fmt: skip
            yield f"a box turned inside out: {node.attrs}"
        if node.tag != "path" or "transform" in node.attrs or "offset" in node.attrs:
            continue
        for part in points(node.attrs.get("d", "")):
            for x, y in part:
                if not (left <= x <= right and top <= y <= bottom):
                    yield f"{node.attrs.get('class')}: {x:g} {y:g} is outside"
            if re.search("[zZ]", node.attrs["d"]) and "A" not in node.attrs["d"]:
                sides = list(itertools.pairwise(part))
                for one, other in itertools.combinations(sides, 2):
                    if crosses(one, other):
                        yield f"{node.attrs.get('class')}: crosses itself"


class Axis:
    """The distance axis of a drawing, by its labels: straight in 1/distance."""

    def __init__(self, labels: Node, system: str) -> None:
        self.labels = [one for one in labels.all("text") if one.words]
        unit = "m" if system == "m" else "ft"
        self.at = []
        for one in self.labels:
            text = one.words
            bare = re.fullmatch(r"[\d.]+[¼½¾]?", text)
            self.at.append(
                (float(one.attrs["x"]), length(f"{text} {unit}" if bare else text, system))
            )

    def inverse(self, x: float) -> float:
        """1/distance at a place, 1/mm: between the outermost labels."""
        (x0, d0), (x1, d1) = self.at[0], self.at[-1]
        return 1 / d0 + (x - x0) / (x1 - x0) * (1 / d1 - 1 / d0)

    @property
    def hair(self) -> float:
        """A tenth of a pixel, as 1/distance: with what the labels' own places may be off."""
        (x0, d0), (x1, d1) = self.at[0], self.at[-1]
        return 3 * HALF * abs((1 / d1 - 1 / d0) / (x1 - x0))

    def stands(self, x: float, distance: float, *, slack: float = 1.0) -> bool:
        """Whether a distance stands there."""
        return abs(self.inverse(x) - 1 / distance) <= slack * self.hair

    def odd(self) -> Iterator[str]:
        """Labels that are not where the axis says."""
        if len(self.at) < 2:
            yield f"an axis with {len(self.at)} labels"
            return
        for (x, d), (next_x, next_d) in itertools.pairwise(self.at):
            if not (x < next_x and d < next_d):
                yield f"{d:g} at {x:g}, then {next_d:g} at {next_x:g}"
        for x, d in self.at:
            if not self.stands(x, d):
                yield f"{d:g} does not belong at {x:g}"


class Line:
    """A drawing of blur over distance: its axis, its foot and its standard."""

    def __init__(self, holder: Node, system: str) -> None:
        self.holder, self.system = holder, system
        self.svg, self.over = holder.all("svg")[0], holder.all("svg")[-1]
        (labels,) = self.svg.all("g", cls="tick-labels")
        self.axis = Axis(labels, system)
        self.foot = self.of("axis")[0][0][1]
        self.standard = self.of("standard")[0][0][1]

    def of(self, name: str) -> list[list[Point]]:
        """The corners of the paths of a class."""
        found = [node for node in self.svg.walk() if name in node.attrs.get("class", "").split()]
        return [part for node in found for part in points(node.attrs.get("d", ""))]

    def filled(self, pattern: str) -> list[list[Point]]:
        """The corners of what is filled with a pattern."""
        found = [node for node in self.svg.walk() if f"#{pattern}" in node.attrs.get("fill", "")]
        return [part for node in found for part in points(node.attrs.get("d", ""))]

    def circles(self, y: float) -> float:
        """How many circles of confusion stand so high."""
        return (self.foot - y) / (self.foot - self.standard)

    @property
    def hair(self) -> float:
        """A tenth of a pixel, in circles."""
        return 2 * HALF / (self.foot - self.standard)

    def ticks(self) -> Iterator[str]:
        """Labels that stand on no tick."""
        places = [part[0][0] for part in self.of("axis")[1:]]
        for one in self.axis.labels:
            if min(abs(float(one.attrs["x"]) - x) for x in places) > 2 * HALF:
                yield f"{one.words} has no tick"


def lines(page: Node, system: str) -> list[Line]:
    """All of them on a page."""
    return [Line(one, system) for one in page.all("div", cls="sightline")]
