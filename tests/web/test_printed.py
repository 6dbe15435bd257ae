"""Every number on a page is the number that was judged.

Pages of 300 random scenes are read as users read them; the numbers printed are put back into
formulas of this test's own (``walk/formulas.py``: traced rays and the wave integral), and what
the page says of them has to hold. And what a page, its sheet, its card and the command print of
one thing is one figure.
"""

from __future__ import annotations

import contextlib
import io
import json
import math
import re
import tempfile
from collections import defaultdict
from pathlib import Path
from typing import Any

from django.http import QueryDict
from django.test import TestCase

from optics.command.main import main
from tests import SEED, chance, examples
from tests.web.links import HTMX
from tests.web.walk import scenes
from tests.web.walk.pages import STRETCH, Node, lengths, read, stretch
from tests.web.walk.sky import Page as SkyPage
from tests.web.walk.street import Page as StreetPage
from tests.web.walk.view import Page as ViewPage
from web.demo.world import load

WHOLE = 1 if SEED else 8
"""Of so many scenes, one has the whole page of each of its ways walked; in a nightly run, each."""
COUNT = examples(40)
"""Of each of the three planners."""


def facts(*pages: Node) -> dict[str, set[str]]:
    """What pages print of each thing that has a name: its figures and units, else its words."""
    found: dict[str, set[str]] = defaultdict(set)
    for page in pages:
        for node in page.walk():
            if (name := node.attrs.get("data-fact")) is not None:
                figures = re.findall(r"∞|[\d.:/]*\d(?: ?(?:mm|km|m|ft|in|s)\b|[′″])?", node.words)
                said = " ".join(figures) or " ".join(node.words.lower().split())
                found[name].add(said.replace(" ", ""))
    return found


class PrintedTest(TestCase):
    def got(self, address: str, link: QueryDict) -> Node:
        """A page, whole, with everything unfolded."""
        answer = self.client.get(address, link)
        self.assertEqual(answer.status_code, 200)
        return read(answer.content.decode())

    def got_ways(self, link: QueryDict) -> Node:
        """View's answer, with the ways compared and nothing else unfolded."""
        headers = {**HTMX, "Aim-Unfolded": "fold-ways"}
        answer = self.client.get("/view/", link, headers=headers)
        self.assertEqual(answer.status_code, 200)
        return read(answer.content.decode())

    def assert_one_figure(self, *pages: Node) -> None:
        for name, said in facts(*pages).items():
            self.assertEqual(len(said), 1, f"{name}: {said}")

    def test_view_with_every_way(self) -> None:
        for seed in range(COUNT):
            scene = scenes.view(chance(seed))
            page = self.got("/view/", scene.link)
            with self.subTest(seed=seed, scene=scene.lens, marks=scene.marks):
                self.assertEqual(list(ViewPage(scene, page).claims()), [])
                sheet = self.got("/cards/plan/sheet/", scene.link)
                card = self.got("/cards/plan/card/", scene.link)
                self.assert_one_figure(page, sheet, card)
                if scene.link["ring"] or scene.link["choose"] != "fixed":
                    continue
                rows = {row[0]: row for row in ViewPage(scene, page).fold("ways").rows()}
                for place, name in NAMES.items():
                    self.assert_chosen(scene, place, rows[name], whole=seed % WHOLE == 0)

    def assert_chosen(
        self, scene: scenes.Scene, place: str, row: list[str], *, whole: bool
    ) -> None:
        """Choosing a way gives what its row in the comparison says; of a ``whole`` page, all that
        it says is checked."""
        link = scene.placed(place)
        chosen = ViewPage(scene, self.got("/view/", link) if whole else self.got_ways(link))
        claims = chosen.claims() if whole else (*chosen.of_the_answer(), *chosen.of_the_ways())
        self.assertEqual(list(claims), [], place)
        if len(row) == 5:
            self.assertEqual(lengths(row[1], scene.system), chosen.rings, place)
            now = next(r for r in chosen.fold("ways").rows() if r[0] == row[0])
            self.assertEqual(now, row, place)
        elif scene.must:
            self.assertIn(row[1], chosen.answer, "why there is none")

    def test_street(self) -> None:
        for seed in range(COUNT):
            street = scenes.street(chance(seed))
            page = self.got("/street/", street.link)
            with self.subTest(seed=seed, link=street.link.urlencode()):
                self.assertEqual(list(StreetPage(street, page).claims()), [])
                self.assert_one_figure(page, self.got("/cards/set/card/", street.link))

    def test_sky(self) -> None:
        for seed in range(COUNT):
            night = scenes.night(chance(seed))
            page = self.got("/sky/", night.link)
            with self.subTest(seed=seed, link=night.link.urlencode()):
                self.assertEqual(list(SkyPage(night, page).claims()), [])
                self.assert_one_figure(page, self.got("/cards/night/card/", night.link))

    def test_the_openings(self) -> None:
        """With the sample's lenses in hand, where a thumb finds the ring is said too."""
        load()
        beside = {
            "view": ("plan/sheet", "plan/card"),
            "street": ("set/card",),
            "sky": ("night/card",),
        }
        for planner, papers in beside.items():
            pages = [self.got(f"/{planner}/", QueryDict())]
            pages += [self.got(f"/cards/{paper}/", QueryDict()) for paper in papers]
            self.assertGreater(len(facts(*pages)), 5)
            self.assert_one_figure(*pages)

    def test_the_command_prints_what_the_page_does(self) -> None:
        for seed in range(COUNT // 2):
            scene = scenes.view(chance(1000 + seed))
            page = ViewPage(scene, self.got("/view/", scene.link))
            with self.subTest(seed=seed, lens=scene.lens, link=scene.link.urlencode()):
                lines = commanded(scene).splitlines()
                ring = next(line for line in lines if line.startswith("Set the ring"))
                self.assertEqual(lengths(ring.split(", f/")[0], scene.system), page.rings)
                self.assertIn(f"f/{page.f_number:g}.", ring)
                for name in ("sharp", "window"):
                    begins = "Sharp" if name == "sharp" else "Anywhere"
                    said = re.search(rf"{begins} {STRETCH}", page.answer)
                    if said and len(page.rings) == 1:
                        line = next(one for one in lines if one.startswith(begins))
                        ends = lengths(line, scene.system)
                        if "±" not in line:
                            self.assertEqual(ends, list(stretch(said[1], scene.system)), line)
                        else:
                            self.assertEqual(ends, lengths(said[1], scene.system), line)
                for name, row in ((row[0], row) for row in page.fold("ways").rows()):
                    key = next((key for key, one in NAMES.items() if one == name), "")
                    line = next((one for one in lines if one.startswith(f"  {key} ")), "")
                    if key and len(row) == 5 and scene.must:
                        said, _, rest = line.removeprefix(f"  {key}").partition(": ")
                        self.assertEqual(lengths(said, scene.system), lengths(row[1], scene.system))
                        worst = re.search(r"worst (\S+) ×", rest)
                        assert worst is not None
                        self.assertEqual(worst[1], row[3].split()[0], name)


NAMES = {
    "between": "Between the ends", "hyperfocal": "Hyperfocal", "subject": "One subject",
    "third_up": "A third up", "infinity": "Infinity, margin", "frames": "Several frames",
    "third_along": "A third along",
}  # fmt: skip
"""What the ways are called in the comparison, by their keys."""


def commanded(scene: scenes.Scene) -> str:
    """What the command answers to a scene, as text."""
    link, lens = scene.link, scene.lens
    data: dict[str, Any] = {
        "focal_length_mm": lens.focal_length, "f_number": lens.f_number, "circle_mm": lens.coc,
        "pupil_ratio": lens.pupil_ratio, "hiatus_mm": lens.hiatus,
        "diffraction": lens.diffraction, "closest_mm": scene.closest,
        "apertures": list(scene.apertures), "format": link["format"], "units": scene.system,
        "pixels_across": int(link["pixels_across"]), "place": link["place"],
        "choose": link["choose"],
        "marks": [
            {
                "letter": mark.letter, "depth": "inf" if mark.depth == math.inf else mark.depth,
                "uncertainty": 0.0 if mark.depth == math.inf else mark.depth * mark.error,
                "wish": mark.wish,
            }
            for mark in scene.marks
        ],
    }  # fmt: skip
    if link["camera_height"]:
        data["camera"] = {"height": 1500.0, "tilt_deg": float(link["tilt_deg"])}
    if link["ring"]:
        data["ring"] = link["ring"]
    said = io.StringIO()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "scene.json"
        path.write_text(json.dumps(data), "utf-8")
        with contextlib.redirect_stdout(said):
            if main(["aim", str(path)]) != 0:
                raise AssertionError(said.getvalue())
    return said.getvalue()
