"""Which part of the frame counts on Sky, and what is typed there as people write it."""

from __future__ import annotations

import re

from django.core.exceptions import ValidationError
from django.test import TestCase

from tests.web.test_sky import answered, link
from web.sky import usecases
from web.sky.forms import _direction, _latitude, read_sky
from web.sky.pictures import kept


class PartsTest(TestCase):
    def test_which_part_of_the_frame_counts(self) -> None:
        """20 mm on 24 megapixels: the middle, four fifths and the corners, each with its time."""
        said = {"lens": "", "focal_length_mm": "20", "f_number": "2.8", "star_px": "3"}
        times = {}
        for part in ("middle", "", "corners"):
            found = answered(part=part, **said)
            times[part] = found.seconds
            self.assertTrue(found.still)
            self.assertLessEqual(found.counted.length, found.sky.trail)
            lengths = [one.length for one in found.parts]
            self.assertEqual(lengths, sorted(lengths))
        self.assertEqual(times, {"middle": 15, "": 10, "corners": 6})
        page = self.client.get("/sky/", link(**said).dict())
        self.assertContains(page, "of the frame stays within 4 px, the corners reach 5.3;"
                            " 500 ÷ 20 would smear 13 there")  # fmt: skip
        self.assertContains(page, "4 px is 0.38 mm on a print 58 cm wide")
        late = self.client.get("/sky/", link(seconds="25 s", **said).dict())
        self.assertContains(
            late, "four fifths of the frame reaches 9.4 px, the corners 13. At most 10 s"
        )
        self.assertContains(late, "Choose from", count=0)
        wrong = self.client.get("/sky/", link(part="edges", **said).dict())
        self.assertContains(wrong, "which part of the frame counts")

    def test_places_and_directions_as_people_write_them(self) -> None:
        wanted = read_sky(link(latitude="47.5", direction="22.5", height="30")).sky.aim
        for latitude in ("47.5 N", "N 47.5", "47°30′", "47° 30' north", "47,5°", "47.5 deg"):
            for direction in ("NNE", "nne", "north-north-east", "north north east", "22.5°"):
                for height in ("30", "30°", "30 deg", "30 degrees"):
                    said = {"latitude": latitude, "direction": direction, "height": height}
                    found = read_sky(link(**said))
                    self.assertEqual(found.errors, {}, said)
                    self.assertEqual(found.sky.aim, wanted, said)
        for text, degrees in (
            ("north-east", 45),
            ("north east", 45),
            ("SW", 225),
            ("180 deg", 180),
        ):
            self.assertEqual(_direction(text), degrees)
        for text, latitude in (("33 S", -33), ("south 33.5", -33.5), ("-33° 30'", -33.5)):
            self.assertEqual(_latitude(text), latitude)
        for text in ("N 47 S", "-47 S", "95 N", "N", "47 X", "4 7"):
            with self.assertRaises(ValidationError):
                _latitude(text)
        self.assertTrue(read_sky(link(ring="5 km", foreground="5 km")).valid)

    def test_what_cannot_be_used_leaves_the_answer_where_it_was(self) -> None:
        good = link(star_px="3", margin="2", trail_px="6")
        ring = usecases.answer(read_sky(good).sky).here.focus
        for name, wrong in (("star_px", "0"), ("margin", "0.5"), ("trail_px", "x")):
            typed = link(**{**good.dict(), name: wrong})
            found = read_sky(typed, lambda: good)
            self.assertIn("meanwhile", found.errors[name])
            self.assertIn(good[name], found.errors[name])
            answer = usecases.answer(found.sky)
            self.assertEqual(answer.here.focus, ring)
            self.assertEqual(answer.sky.trail, read_sky(good).sky.trail)
            self.assertEqual(found.texts[name], wrong, "what was typed stands")

    def test_the_share_that_is_told_is_the_share_that_is_drawn(self) -> None:
        for where in ({}, {"latitude": "47", "direction": "S", "height": "10"}):
            found = answered(seconds="20", **where)
            drawn = kept(found)
            marked = {"beyond": 0.0, "ground": 0.0}
            for name in marked:
                for left, _, right, tall in re.findall(
                    r"M([\d.]+) ([\d.]+)H([\d.]+)v([\d.]+)", getattr(drawn, name)
                ):
                    marked[name] += (float(right) - float(left)) * float(tall)
            sky = drawn.width * drawn.height - marked["ground"]
            self.assertAlmostEqual(1 - marked["beyond"] / sky, found.share, delta=0.03)
            self.assertEqual(marked["ground"] > 0, bool(where), "the horizon is in the picture")
