"""Following what is printed for a thumb does what is printed for the eye.

A hundred rings that never were, each with a street: a thumb that goes where the labels say, the
angles worked out by this test, must leave no gap where *No gap* is printed.
"""

from __future__ import annotations

import math
import re
from dataclasses import replace

from django.test import TestCase

from optics.lens.focus_window import Window
from tests import chance, examples
from tests.web.walk import scenes
from tests.web.walk.pages import STRETCH, length, read, stretch
from tests.web.walk.street import Page as StreetPage
from web.bag import touch
from web.bag.models import Lens, RingKind
from web.demo.world import load
from web.people.models import Owner

_FINGER = 2 * 16.0 / 65.0
_COUNTS = {"a hair": 0.1, "half a finger’s width": 0.5, "a finger’s width": 1.0}


class Thumb:
    """A hand on the ring of a lens that moves as a whole: from its throw and closest focus."""

    def __init__(self, lens: Lens, focal_length: float) -> None:
        assert lens.throw_deg is not None
        assert lens.closest_mm is not None
        self.lens, self.f = lens, focal_length
        self.throw, self.closest = math.radians(lens.throw_deg), lens.closest_mm

    def extension(self, distance: float) -> float:
        """How far the lens stands out, mm: the thin lens, from the sensor."""
        if math.isinf(distance):
            return 0.0
        object_side = (distance + math.sqrt(distance * (distance - 4 * self.f))) / 2
        return distance - object_side - self.f

    def distance(self, turned: float) -> float:
        """Where the ring is after that turn from infinity, radians."""
        out = turned / self.throw * self.extension(self.closest)
        if out <= 1e-12:
            return math.inf
        image = self.f + out
        return image + 1 / (1 / self.f - 1 / image)

    def goes_to(self, label: str, system: str) -> float:
        """Where a label sends it."""
        label = label.removesuffix(", assumed")
        if label.startswith("by the scale, "):
            return length(label.removeprefix("by the scale, "), system)
        if label == "near stop":
            return self.closest
        if label in ("infinity stop", "at infinity"):
            return math.inf
        if label == "tab straight down":
            label = "tab at 6:00"
        if clock := re.match(r"tab at (\d+):(\d\d)", label):
            at = int(clock[1]) % 12 + int(clock[2]) / 60
            hours = self.lens.tab_at_infinity_hours
            assert hours is not None
            # Towards near the other way than to infinity; within one turn of the ring.
            turned = (at - hours) * -self.lens.to_infinity % 12
            if turned > 12 - 1 / 60:
                turned = 0.0
            return self.distance(turned * math.pi / 6)
        count = label.split(" before")[0]
        count = re.sub(r" \(.*", "", count)
        number = _COUNTS.get(count)
        if number is None:
            found = re.match(r"(\d+)(½?) fingers", count)
            assert found is not None, label
            number = int(found[1]) + (0.5 if found[2] else 0)
        return self.distance(number * _FINGER)


class TouchTest(TestCase):
    def test_following_the_labels_leaves_no_gap(self) -> None:
        owner: Owner = load()
        found = {"tab": 0, "finger": 0, "scale": 0, "stop": 0, "no gap": 0}
        for seed in range(examples(110)):
            random = chance(seed)
            street = scenes.street(random)
            lens = replace(street.lens, pupil_ratio=1.0, hiatus=0.0)
            thing, _ = Lens.objects.update_or_create(
                owner=owner, name=f"Lens {seed % 3}",
                defaults={
                    "shortest_mm": lens.focal_length, "longest_mm": lens.focal_length,
                    "widest": 2, "smallest": 22, "closest_mm": street.closest,
                    "throw_deg": random.choice((60, 90, 140, 200, 300)),
                    "to_infinity": random.choice((1, -1)),
                    "ring_kind": random.choice((RingKind.STOPS, RingKind.FORGETS)),
                    "tab_at_infinity_hours": random.choice((None, None, None, 4.5, 6.0, 9.0)),
                },
            )  # fmt: skip
            link = street.link.copy()
            link["lens"] = thing.name
            html = self.client.get("/street/", link).content.decode()
            page = StreetPage(replace(street, lens=lens, link=link), read(html))
            said = [row["by touch"] for row in page.rows]
            with self.subTest(seed=seed, said=said, rings=page.rings):
                self.assertEqual(len(set(said)), len(said), "no two positions read the same")
                thumb = Thumb(thing, lens.focal_length)
                reached = [thumb.goes_to(label, street.system) for label in said]
                for key in found:
                    found[key] += sum(key in label for label in said)
                if not (band := re.search(rf"No gap {STRETCH}", page.answer)):
                    continue
                found["no gap"] += 1
                near, far = stretch(band[1], street.system)
                self.assertTrue(lens.cover(reached, near, far), reached)
                for row, at in zip(page.rows, reached, strict=True):
                    if row["use it for"] != "nothing here":
                        used = stretch(row["use it for"], street.system)
                        self.assertTrue(lens.holds(at, *used), (row, at))
        self.assertGreater(min(found.values()), 0, found)

    def test_as_coarse_as_the_window_allows(self) -> None:
        lens = load().lenss.get(name="28 mm f/2.8 with tab")
        for near, far, words in (
            (1200.0, 1600.0, "tab at 6:00 (1.3 m)"),
            (1350.0, 1450.0, "tab at 5:55"),
            (1395.0, 1405.0, "by the scale, 1.4 m"),
        ):
            wanted = touch.Wanted(1400.0, Window(near, far))
            self.assertEqual(touch.labels(lens, [wanted], "m"), (words,))
        stops = [touch.Wanted(700.0), touch.Wanted(math.inf)]
        self.assertEqual(touch.labels(lens, stops, "m"), ("near stop", "infinity stop"))

    def test_an_assumed_ring_says_so(self) -> None:
        lens = load().lenss.get(name="28 mm f/2.8 with tab")
        lens.marks = []
        (words,) = touch.labels(lens, [touch.Wanted(1400.0, Window(1000.0, 2000.0))], "m")
        self.assertTrue(words.endswith(", assumed"), words)
        lens.save()
        page = self.client.get(f"/bag/lens/{lens.pk}/")
        self.assertContains(page, ", assumed</dd>")
