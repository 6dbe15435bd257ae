"""Standards and formats beside each other, and the sheet that says whether focus stays put."""

from __future__ import annotations

import math

from django.test import TestCase

from optics.lens import depth
from web.bag import compare
from web.bag.focus_sheet import sheet
from web.bag.models import Body, Standard
from web.demo.world import load

FULL = Body(name="Full", format="full-frame", pixels_across=6000)
SMALL = Body(name="Small", format="aps-c", pixels_across=6240)
PRINT = Standard(name="Print", way="print", print_width_mm=288)
PIXELS = Standard(name="Pixels", way="pixels", pixels=1)
CASE = compare.Case(24, 8, 3000)


class FormatsTest(TestCase):
    def test_the_same_view_at_the_equivalent_aperture_is_the_same_picture(self) -> None:
        found = compare.formats(FULL, SMALL, PRINT, CASE, "m")
        assert found is not None
        one, same_lens, same_view, equivalent = found.rows
        self.assertGreater(same_lens.exact.near, one.exact.near, "enlarged more, so less is sharp")
        self.assertLess(same_view.exact.near, one.exact.near, "a shorter lens: more is sharp")
        # Equal entrance pupils and equal enlargement: the limits agree but for the frames' shapes
        # (3:2 against 1.506:1) and the few mm by which the lenses stand off the sensor.
        self.assertAlmostEqual(float(equivalent.exact.near) / float(one.exact.near), 1, delta=0.012)
        self.assertAlmostEqual(float(equivalent.hyperfocal) / float(one.hyperfocal), 1, delta=0.012)
        self.assertLess(compare.gain(one, same_lens), 1)
        self.assertGreater(compare.gain(one, same_view), 1)

    def test_film_has_no_pixels_to_compare(self) -> None:
        self.assertIsNone(compare.formats(FULL, Body(format="6x6"), PIXELS, CASE, "m"))

    def test_the_page_says_it_in_words_and_numbers(self) -> None:
        page = self.client.get("/bag/formats/")
        self.assertContains(page, "the same picture")
        self.assertContains(page, "same view, equivalent f/")
        film = load().bodys.get(name="6 × 6 film back")
        pixel = load().standards.get(name="Every pixel")
        page = self.client.get("/bag/formats/", {"other": film.pk, "standard": pixel.pk})
        self.assertContains(page, "film has no pixels")
        same = self.client.get("/bag/formats/", {"one": film.pk, "other": film.pk})
        self.assertContains(same, "nothing changes")


class StandardsTest(TestCase):
    def test_the_loosest_first_and_each_within_the_one_before(self) -> None:
        tight = Standard(name="Tight", way="given", circle_mm=0.01)
        found = compare.standards(
            [tight, PRINT, Standard(name="None", way="print")], FULL, CASE, "m"
        )
        assert found is not None
        self.assertEqual([row.name for row in found.rows], ["Print", "Tight"])
        loose, strict = (row.exact for row in found.rows)
        self.assertLess(loose.near, strict.near)
        self.assertEqual(loose, depth.limits(found.rows[0].setup, 3000))
        self.assertAlmostEqual(found.rows[0].largest_print, 288)
        self.assertEqual((found.rows[0].from_print, round(found.rows[1].from_print)), (0, 288))
        self.assertIsNone(compare.standards([], FULL, CASE, "m"))

    def test_where_diffraction_leaves_nothing_it_says_so(self) -> None:
        strict = Standard(name="Pixel", way="pixels", pixels=1, counts_diffraction=True)
        found = compare.standards([strict], FULL, compare.Case(24, 16, 3000), "m")
        assert found is not None
        self.assertIsNone(found.rows[0].held)
        self.assertEqual(found.rows[0].hyperfocal, math.inf)
        self.assertEqual(found.wide.rows[0].bar_width, 0)

    def test_the_page_keeps_what_is_typed_and_says_what_is_wrong(self) -> None:
        page = self.client.get("/bag/standards/", {"f_number": "0", "focus": "12 furlongs"})
        self.assertContains(page, "Give an aperture")
        self.assertContains(page, "furlongs")
        self.assertContains(page, 'value="12 furlongs"')
        self.assertContains(page, "Every pixel")
        far = self.client.get("/bag/standards/", {"focus": "inf", "body": "zz"})
        self.assertContains(far, "Album print")
        close = self.client.get("/bag/standards/", {"focus": "2 cm", "focal_length_mm": "400"})
        self.assertEqual(close.status_code, 200)


class SheetTest(TestCase):
    def test_focus_that_is_not_on_the_shutter_stays_put(self) -> None:
        cases = (
            ({"starts_focus": "half_press"}, False, "half a press undoes"),
            ({"starts_focus": "rear"}, False, "may still refocus"),
            ({"starts_focus": "rear", "shutter_refocuses": False}, True, "stays where it was put"),
            (
                {"starts_focus": "both", "shutter_refocuses": False, "hold_or_toggle": "toggle"},
                True,
                "once more to stop",
            ),
            ({"starts_focus": "nothing"}, True, "but your hand"),
            ({"starts_focus": "nothing", "focuses_at": "taking", "limiter": "3 m"}, True, "3 m"),
        )
        for fields, stays, part in cases:
            with self.subTest(part):
                said = sheet(Body(**fields))
                self.assertEqual(said.stays_put, stays)
                self.assertIn(part, " ".join(said.why))
        own = sheet(Body(starts_focus="rear", shutter_refocuses=False, button="the AF lever"))
        self.assertIn("the AF lever", own.why[0])
        body = load().bodys.first()
        self.assertContains(self.client.get(f"/bag/body/{body.pk}/"), "the thumb button")
