"""Which part of the frame counts on Sky, and what is typed there as people write it."""

from __future__ import annotations

import re
from pathlib import Path

from django.core.exceptions import ValidationError
from django.http import QueryDict
from django.test import TestCase

from optics.lens import aperture
from optics.light import exposure
from tests.web import sky_table
from tests.web.test_sky import answered, link
from web.demo.world import load
from web.hand.asker import Asker
from web.hand.in_use import InUse
from web.sky import pointing, usecases
from web.sky.exposed import exposed
from web.sky.forms import read_sky
from web.sky.pictures import kept
from web.sky.tries import tries


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
            late, "four fifths of the frame reaches 9.3 px, the corners 13. At most 10 s"
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
            self.assertEqual(pointing.direction(text), degrees)
        for text, latitude in (("33 S", -33), ("south 33.5", -33.5), ("-33° 30'", -33.5)):
            self.assertEqual(pointing.latitude(text), latitude)
        for text in ("N 47 S", "-47 S", "95 N", "N", "47 X", "4 7"):
            with self.assertRaises(ValidationError):
                pointing.latitude(text)
        for azimuth, altitude, said in (
            (180, 45, "south, halfway up"), (22, 10, "north, low"), (300, 30, "north-west, a third"
             " of the way up"), (350, 60, "north, high up"), (90, 85, "overhead"),
            (135, 0, "south-east, along the horizon"),
        ):  # fmt: skip
            self.assertEqual(pointing.words(azimuth, altitude), said)
        card = self.client.get(
            "/cards/night/card/", link(latitude="47 N", direction="S", height="45°").dict()
        )
        for text in ("Point <b>south, halfway up</b>", "Date", "Place", "Notes"):
            self.assertContains(card, text)
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


class IsoTest(TestCase):
    def test_no_iso_is_told_that_nobody_sets(self) -> None:
        for kit in ({"focal_length_mm": "20", "f_number": "2.8"}, {"focal_length_mm": "200",
                    "f_number": "4"}, {"focal_length_mm": "18", "f_number": "5.6"}):  # fmt: skip
            for most in ("", "3200", "25600"):
                found = answered(lens="", star_px="3", iso_most=most, **kit)
                self.assertLessEqual(found.iso, float(most or 6400) * 1.06)
                for row in tries(found).rows:
                    for cell in row.cells:
                        self.assertLessEqual(cell.exposed.iso, float(most or 6400) * 1.06)
                page = self.client.get("/sky/", link(lens="", iso_most=most, **kit).dict())
                told = re.findall(r"ISO (?:<[^>]+>)?(\d+)", page.content.decode())
                self.assertTrue(told)
                self.assertLessEqual(max(int(one) for one in told), 40000)

    def test_frames_laid_together_gather_as_much_light(self) -> None:
        """n frames of ISO S hold as many photons as one of ISO S ÷ n would: within a sixth of a
        stop of what the night asks for, and no frame more."""
        sky = answered(lens="", focal_length_mm="20", f_number="2.8", star_px="3").sky
        for f_number in (1.4, 2.0, 2.8, 4.0):
            for seconds in (5.0, 10.0, 20.0):
                told = exposed(sky, f_number, seconds)
                needed = exposure.iso_for(-8, aperture.exact(f_number), seconds)
                self.assertGreaterEqual(told.frames * 6400 * 1.06, needed * (1 - 1e-9))
                self.assertLess((told.frames - 1) * 6400 * 1.06, needed)
                self.assertEqual(told.total, told.frames * seconds)
                self.assertAlmostEqual(told.noise, told.frames**-0.5)
                if not told.enough:
                    self.assertAlmostEqual(2**told.stops * 6400, needed)

    def test_what_is_done_where_a_night_asks_for_more(self) -> None:
        said = {"lens": "", "focal_length_mm": "20", "f_number": "2.8", "star_px": "3"}
        page = self.client.get("/sky/", link(**said).dict())
        for text in (
            "4 frames laid together</b>, 40 s in all",
            "50 % of one frame’s noise",
            "1.7 stops darker: brighten it later",
            "or 0:32, which smears 12 px",
        ):
            self.assertContains(page, text)
        sky = answered(**said).sky
        for seconds, frames, dark in ((2.0, 16, False), (1.8, 17, True)):
            told = exposed(sky, 2.8, seconds)
            self.assertEqual((told.frames, told.too_dark), (frames, dark), "sixteen, and no more")
        dark = self.client.get("/sky/", link(**{**said, "f_number": "16"}).dict())
        self.assertContains(dark, "Too dark for f/16 and 10 s")
        enough = self.client.get("/sky/", link(iso_most="51200", **said).dict())
        self.assertContains(enough, 'ISO <span data-fact="iso">20000</span> for stars alone, give')

    def test_a_body_knows_what_its_owner_uses(self) -> None:
        owner = load()
        body = owner.bodys.get(name="Full frame, 24 MP")
        body.iso_usable, body.iso_highest = 3200, 25600
        asker = Asker(in_use=lambda texts: InUse(None, None, lambda: body))
        night = read_sky(link(lens="", focal_length_mm="20", f_number="2.8"), who=asker)
        answer = usecases.answer(night.sky)
        self.assertEqual((answer.iso, answer.in_one), (3200, True))
        self.assertIn("iso_most=3200", night.query(), "others have another bag")
        self.assertEqual(usecases.answer(read_sky(QueryDict(night.query())).sky).iso, 3200)

    def test_what_a_body_is_said_to_have_goes_together(self) -> None:
        load()
        form = {
            "name": "Mine",
            "format": "full-frame",
            "pixels_across": "6000",
            "steps": "thirds",
            "starts_focus": "rear",
            "hold_or_toggle": "hold",
            "focuses_at": "full",
        }
        wrong = self.client.post(
            "/bag/body/new/", {**form, "iso_usable": "6400 ISO", "iso_highest": "3200"}
        )
        self.assertContains(wrong, "at least what you use", status_code=422)
        right = self.client.post(
            "/bag/body/new/", {**form, "iso_usable": "6400", "iso_highest": "51200"}, follow=True
        )
        self.assertContains(right, 'value="51200"')


class DocumentTest(TestCase):
    def test_the_table_in_the_document_is_what_the_page_says(self) -> None:
        text = (Path(__file__).parents[2] / "docs" / "sky.md").read_text("utf-8")
        self.assertGreaterEqual(len(sky_table.KITS), 12)
        for kit in sky_table.KITS:
            with self.subTest(kit.name):
                self.assertIn(sky_table.row(kit, self.client), text)
