"""What would mend a picture: each deed, carried out as the page writes it, does what it says."""

from __future__ import annotations

import json

from django.http import QueryDict
from django.test import TestCase

from optics.lens import focusing
from optics.scene.answer import answer
from tests.web.links import HTMX, changed
from tests.web.walk.pages import Node, read
from web.demo.world import load
from web.view.forms import read_scene
from web.view.tolerance import tolerance


def near(distance: str, **changes: str) -> QueryDict:
    """The sample with its slab so near."""
    link = changed(**changes)
    distances = link.getlist("mark_distance")
    link.setlist("mark_distance", [distance, *distances[1:]])
    return link


def written(link: QueryDict, deed: Node) -> QueryDict:
    """The link after a tap on a deed."""
    after = link.copy()
    for name, text in json.loads(deed.attrs["data-sets"]).items():
        after[name] = text
    return after


class DeedsTest(TestCase):
    def setUp(self) -> None:
        load()

    def deeds(self, link: QueryDict) -> list[Node]:
        page = read(self.client.get("/view/", link, headers=HTMX).content.decode())
        return [b for b in page.all("button") if b.attrs.get("x-on:click") == "carryOut"]

    def test_each_has_everything_hold(self) -> None:
        seen = set()
        for link in (near("1 m"), near("0.6 m"), near("1 m", f_number="5.6"),
                     near("0.9 m", camera_height="", tilt_deg=""), near("70 cm", moved="0.3 m"),
                     near("3 ft", units="ft", ring="2 m")):  # fmt: skip
            before = answer(read_scene(link).scene)
            self.assertTrue(before.failing)
            found = self.deeds(link)
            self.assertGreaterEqual(len(found), 2, link)
            for deed in found:
                with self.subTest(deed.words, near=link.getlist("mark_distance")[0]):
                    reading = read_scene(written(link, deed))
                    self.assertEqual(reading.errors, {})
                    after = answer(reading.scene)
                    if not after.by_hand:
                        self.assertEqual(after.failing, (), after.worst_circles)
                    seen.add(deed.words.split()[0])
        self.assertLessEqual({"Two", "Step", "A"}, seen)
        self.assertTrue(any(word.startswith("f/") for word in seen))

    def test_what_holds_wants_none(self) -> None:
        self.assertEqual(self.deeds(changed()), [])

    def test_a_step_back_says_how_much_smaller_it_gets(self) -> None:
        step = next(d for d in self.deeds(near("0.6 m")) if d.words.startswith("Step"))
        self.assertRegex(step.words, r"^Step back [\d.]+ m, and A shrinks to \d+ %$")
        back, share = (float(step.words.split()[n]) for n in (2, 8))
        # Within the camera's own length of the lens, sizes go by the distance.
        self.assertAlmostEqual(100 * 600 / (600 + 1000 * back), share, delta=6)

    def test_the_widest_is_tempered_by_how_one_focuses(self) -> None:
        link = changed(choose="widest", focus_by="scale")
        reading = read_scene(link)
        wide = answer(reading.scene)
        page = read(self.client.get("/view/", link, headers=HTMX).content.decode())
        said = next(p for p in page.all("p") if "cannot be trusted to hit" in p.words)
        self.assertIn("The widest it can", said.words)
        deed = next(b for b in page.all("button") if b.attrs.get("x-on:click") == "carryOut")
        reading = read_scene(written(link, deed))
        after = answer(reading.scene)
        self.assertGreater(after.scene.f_number, wide.scene.f_number)
        chosen = tolerance(after, reading.in_use, "scale").chosen
        if chosen is not None:
            self.assertNotEqual(chosen.fit, focusing.Fit.NOT)
        for other in (changed(focus_by="scale"), changed(choose="widest")):
            self.assertNotContains(self.client.get("/view/", other, headers=HTMX), "be trusted")
