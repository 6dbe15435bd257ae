"""Drawings say what the numbers beside them say: points read back from the SVG of random scenes.

What must be where is worked out by the formulas of ``walk``, which share nothing with the drawings.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from itertools import pairwise

from django.http import QueryDict
from django.test import TestCase

from tests import chance, examples
from tests.web.walk import scenes
from tests.web.walk.drawn import HALF, Line, lines, moved, odd, points
from tests.web.walk.formulas import Lens, sensor_at
from tests.web.walk.pages import BARE, LENGTH, STRETCH, Node, length, read, stretch
from tests.web.walk.view import Page as ViewPage

COUNT = examples(24)
TILE = rf"((?:{LENGTH}|{BARE})–{LENGTH}|{LENGTH} ± {LENGTH})"
TOP = 12
"""px. What blurs more than there is room for goes out of the drawing."""
SHOWN, HIGHEST = 2.75, 2.3
"""Circles: what blurs more than the first is drawn as high as there is room, over the second."""


class DrawnTest(TestCase):
    def got(self, address: str, link: QueryDict) -> Node:
        answer = self.client.get(address, link)
        self.assertEqual(answer.status_code, 200)
        return read(answer.content.decode())

    def sound(self, page: Node, system: str, count: int = 2) -> None:
        """No drawing of the page is odd, whatever it shows."""
        for svg in page.all("svg"):
            if "viewbox" in svg.attrs:
                self.assertEqual(list(odd(svg)), [], svg.attrs)
        found = lines(page, system)
        self.assertEqual(len(found), count)
        for line in found:
            self.assertEqual([*line.axis.odd(), *line.ticks()], [])

    def test_view(self) -> None:
        for seed in range(COUNT):
            scene = scenes.view(chance(f"drawn {seed}"))
            page = self.got("/view/", scene.link)
            with self.subTest(seed=seed, link=scene.link.urlencode()):
                self.sound(page, scene.system)
                told = ViewPage(scene, page)
                for line in lines(page, scene.system):
                    self.assertEqual([*of_view(line, told)], [])
                self.assertEqual([*of_chart(page, told)], [])

    def test_street(self) -> None:
        for seed in range(COUNT):
            street = scenes.street(chance(f"drawn {seed}"))
            page = self.got("/street/", street.link)
            with self.subTest(seed=seed, link=street.link.urlencode()):
                self.sound(page, street.system)
                number = page.one(id="aperture-now")
                assert number is not None
                lens = street.at(float(number.attrs["data-number"]))
                for line in lines(page, street.system):
                    self.assertEqual([*of_street(line, lens)], [])

    def test_sky(self) -> None:
        for seed in range(COUNT):
            night = scenes.night(chance(f"drawn {seed}"))
            page = self.got("/sky/", night.link)
            with self.subTest(seed=seed, link=night.link.urlencode()):
                self.sound(page, night.system)
                for line in lines(page, night.system):
                    told = line.svg.all("desc")[0].words
                    if begins := re.search(rf"anywhere from ({LENGTH}) on", told):
                        ends = (length(begins[1], night.system), math.inf)
                        self.assertEqual([*of_ends(line, line.of("window"), ends, "window")], [])

    def test_finder(self) -> None:
        """Lines and marks on the ground stand where a level plane is seen from the camera."""
        seen = 0
        for seed in range(COUNT):
            random = chance(f"finder {seed}")
            scene = scenes.view(random)
            height, tilt = random.choice((0.6, 0.9, 1.5)), random.choice((0, 5, 15, 30))
            scene.link["camera_height"], scene.link["tilt_deg"] = f"{height} m", f"{tilt}"
            page = self.got("/view/", scene.link)
            finder = next(iter(page.all("svg", cls="finder")), None)
            with self.subTest(seed=seed, link=scene.link.urlencode()):
                assert finder is not None
                high = float(finder.attrs["viewbox"].split()[3])
                ring = ViewPage(scene, page).ring
                behind = sensor_at(scene.lens.focal_length, 0.0, ring)  # the pupil, of the sensor
                frame = scenes.FRAMES[scene.link["format"]]
                for text in finder.all("text", cls="ground-label"):
                    if re.search("ring|then|horizon", text.words, re.IGNORECASE):
                        continue
                    depth = length(text.words, scene.system)
                    down = math.radians(tilt)
                    ahead = depth - behind
                    below = (1000 * height - ahead * math.sin(down)) / math.cos(down)
                    y = high / 2 + behind * below / ahead * high / frame[1]
                    self.assertAlmostEqual(
                        float(text.attrs["y"]) + 5, y, delta=0.8 + y / 300
                    )  # labels have two figures
                    seen += 1
        self.assertGreater(seen, COUNT)


def of_view(line: Line, told: ViewPage) -> Iterator[str]:
    """What a sightline of View has in a wrong place."""
    lens, scene, axis = told.lens, told.scene, line.axis
    handle = line.over.one("g", cls="handle")
    assert handle is not None
    x = moved(handle)[0]
    if axis.at[0][1] <= told.ring <= axis.at[-1][1] and not axis.stands(x, told.ring):
        yield f"the ring, at {told.ring:g}, is drawn at {x:g}"
    feet = [part[-1][0] for part in line.of("stem")]
    discs = {disc.words[:1]: moved(disc) for disc in line.svg.all("g", cls="disc")}
    by_depth = sorted(scene.marks, key=lambda mark: mark.depth)
    if sorted(discs) != sorted(mark.letter for mark in by_depth) or len(feet) != len(discs):
        yield f"marks {sorted(discs)}, {len(feet)} stems"
        return
    for one, other in pairwise(by_depth):
        if one.depth < other.depth and not discs[one.letter][0] < discs[other.letter][0]:
            yield f"{other.letter} is farther than {one.letter} and drawn before it"
    for mark in by_depth:
        inside = axis.at[0][1] <= mark.depth <= axis.at[-1][1]
        if inside and not any(axis.stands(x, mark.depth) for x in feet):
            yield f"{mark.letter}, at {mark.depth:g}, stands nowhere: {feet}"
        circles = min(lens.circles(ring, mark.depth) for ring in told.rings)
        drawn = line.circles(discs[mark.letter][1])
        too_high = circles > SHOWN - 0.01 and drawn >= HIGHEST
        off = 0.0 if too_high or len(told.rings) > 1 else abs(drawn - circles)
        if off > line.hair + 0.02 * circles:
            yield f"{mark.letter}, {circles:.3f}, is drawn at {drawn:.3f}"
    if len(told.rings) == 1:
        for x, y in line.of("curve")[0]:
            depth = 1 / max(axis.inverse(x), 1e-12)
            if y > TOP + 30 and lens.circles(told.ring, depth) < 20:
                off = abs(line.circles(y) - lens.circles(told.ring, depth))
                if off > 2 * line.hair + 0.03 * line.circles(y) + curve_hair(line, told, x):
                    yield f"the curve at {depth:g} is off by {off:.3f}"
    if found := re.search(rf"Sharp {STRETCH}", told.answer):
        yield from of_ends(line, line.of("band"), stretch(found[1], told.system), "band")
    if found := re.search(rf"Anywhere {STRETCH} (?:keeps|holds)", told.answer):
        yield from of_ends(line, line.of("window"), stretch(found[1], told.system), "window")


def curve_hair(line: Line, told: ViewPage, x: float) -> float:
    """What half a tenth of a pixel along the axis is in circles."""
    one, other = (1 / max(line.axis.inverse(x + off), 1e-12) for off in (-HALF, HALF))
    return abs(told.lens.circles(told.ring, one) - told.lens.circles(told.ring, other))


def of_ends(
    line: Line, drawn: list[list[tuple[float, float]]], ends: tuple[float, float], name: str
) -> Iterator[str]:
    """A stretch that is drawn elsewhere than it is said."""
    if not drawn:
        yield f"no {name}"
        return
    places = [x for part in drawn for x, _ in part]
    for end, x in ((ends[0], min(places)), (ends[1], max(places))):
        within = line.axis.at[0][1] < end < line.axis.at[-1][1]
        if within and not line.axis.stands(x, end, slack=2):
            yield f"{name}: {end:g} is drawn at {1 / max(line.axis.inverse(x), 1e-12):g}"


def of_chart(page: Node, told: ViewPage) -> Iterator[str]:
    """The chart of apertures: blur of diffraction grows with the f-number, of defocus falls."""
    chart = next(iter(page.all("svg", cls="chart")), None)
    if chart is None:
        return
    paths = {node.attrs.get("class", ""): node.attrs.get("d", "") for node in chart.all("path")}
    foot = max(y for part in points(paths["axis"]) for _, y in part) - 5
    unit = foot - points(paths["standard"])[0][0][1]
    worst, waves = points(paths["curve"])[0], points(paths["chart-part waves"])[0]
    ticks = [part[0][0] for part in points(paths["axis"])[1:]]
    if [x for x, _ in worst] != ticks or [x for x, _ in waves] != ticks:
        yield f"points at {[x for x, _ in worst]}, ticks at {ticks}"
    apertures = told.scene.apertures
    if len(apertures) != len(ticks):
        yield f"{len(apertures)} apertures, {len(ticks)} drawn"
    for f_number, (_, y) in zip(apertures, waves, strict=False):
        disc = 0.001 * 1.76 * 0.55 * f_number / told.lens.coc  # PENCIL, of core.md
        if y > TOP + 2 and not abs((foot - y) / unit - disc) < 0.15 * disc + 0.2 / unit:
            yield f"diffraction at f/{f_number} drawn {(foot - y) / unit:.3f}, is {disc:.3f}"
    for text in chart.all("text"):
        if re.fullmatch(r"[\d.]+", text.words) and text.attrs.get("text-anchor") == "middle":
            number = float(text.words)
            at = min(range(len(ticks)), key=lambda i: abs(ticks[i] - float(text.attrs["x"])))
            if at < len(apertures) and abs(apertures[at] - number) > 0.01:
                yield f"f/{number} stands under f/{apertures[at]}"


def of_street(line: Line, lens: Lens) -> Iterator[str]:
    """What a row of tiles has in a wrong place."""
    axis, rings = line.axis, []
    for handle in line.over.all("g", cls="handle"):
        ring = length(handle.attrs["aria-valuetext"].split(",")[0], line.system)
        x = moved(handle)[0]
        rings.append(ring)
        if axis.at[0][1] <= ring <= axis.at[-1][1] and not axis.stands(x, ring, slack=2):
            yield f"a position, at {ring:g}, is drawn at {x:g}"
    if rings != sorted(rings):
        yield f"positions out of order: {rings}"
    boxes = [(float(one.attrs["x"]), float(one.attrs["width"]))
             for one in line.svg.all("rect", cls="tile")]  # fmt: skip
    for (x, wide), (after, _) in pairwise(sorted(boxes)):
        if x + wide > after + 2 * HALF:
            yield f"tiles lie over each other: {x:g}+{wide:g} and {after:g}"
    told = line.svg.all("desc")[0].words
    used = re.findall(rf"{LENGTH} for {TILE}", told)
    if len(used) != len(boxes):
        yield f"{len(boxes)} tiles of {told}"
    for (x, wide), said in zip(boxes, used, strict=False):
        yield from of_ends(line, [[(x, 0), (x + wide, 0)]], stretch(said, line.system), "tile")
    gaps = re.findall(rf"Gap {TILE}", told)
    hatched = line.filled("hatch")
    for said in gaps if len(gaps) == len(hatched) else ():
        part = hatched[gaps.index(said)]
        yield from of_ends(line, [part], stretch(said, line.system), "gap")
    for x, y in line.of("curve")[0] if line.of("curve") else ():
        depth = 1 / max(axis.inverse(x), 1e-12)
        circles = min(lens.circles(ring, depth) for ring in rings)
        if y > TOP + 30 and circles < 20:
            off = abs(line.circles(y) - circles)
            if off > 3 * line.hair + 0.06 * max(circles, 0.5):
                yield f"the curve at {depth:g}: {line.circles(y):.3f}, is {circles:.3f}"
