"""Street, the user's words rule: over random streets, and as the issue of a day's walk has it."""

from __future__ import annotations

import math
import random
import re

from django.http import QueryDict
from hypothesis.extra.django import TestCase

from optics.base import settable
from optics.lens import depth
from optics.zones import subjects
from tests import chance, examples
from tests.web.links import HTMX
from tests.web.test_street import answered, link
from web.hand.asker import Asker
from web.hand.in_use import InUse
from web.street import judging, schools, usecases
from web.street.forms import read_street
from web.street.sample import GEAR
from web.street.usecases import Answer
from web.ui.templatetags import format

NO_LENS = Asker(in_use=lambda texts: InUse())
NUMBER = r"(\d[\d.]*)"


def somewhere(dice: random.Random, closest: float) -> str:
    """A distance that the lens reaches."""
    return f"{closest * math.exp(dice.uniform(0, 2.5)) / 1000:.3g} m"


def street(dice: random.Random) -> dict[str, str]:
    """What somebody might type: any lens, any band or none, some of it locked."""
    closest = dice.choice((250, 400, 700, 900, 1500))
    said = {
        **GEAR,
        "lens": "",
        "lens_closest": str(closest),
        "focal_length_mm": dice.choice(("20", "28", "35", "50", "85", "135", "300")),
        "f_number": dice.choice(("2", "2.8", "4", "5.6", "8", "11", "16")),
        "units": dice.choice(("m", "m", "ft")),
        "diffraction": dice.choice(("", "1")),
        "spread": dice.choice(("", "stride")),
        "like": somewhere(dice, closest),
        "count": str(dice.choice((1, 2, 3, 3, 4, 5))),
    }
    if dice.random() < 0.5:
        said["near"] = f"{math.exp(dice.uniform(-1.2, 1.5)):.3g} m"
    if dice.random() < 0.5:
        said["far"] = dice.choice(("inf", f"{math.exp(dice.uniform(0, 3)):.3g} m"))
    if dice.random() < 0.3:
        places = ("inf", f"{closest / 1000} m", somewhere(dice, closest))
        said["locked"] = "; ".join(dice.choice(places) for _ in range(dice.randint(1, 3)))
    if dice.random() < 0.2:
        said["home"] = somewhere(dice, closest)
    return said


class RandomStreets(TestCase):
    def test_every_position_holds_something_and_every_gap_can_be_read(self) -> None:
        dice = chance("streets")
        for _ in range(examples(250)):
            said = street(dice)
            query = QueryDict(mutable=True)
            query.update(said)
            found = usecases.answer(read_street(query, who=NO_LENS).street)
            with self.subTest(said={k: v for k, v in said.items() if v != GEAR.get(k)}):
                if not found.nothing:
                    self.check(found)

    def check(self, found: Answer) -> None:
        street, band = found.street, found.band
        kept = {*street.locked, *(() if street.home is None else (street.home,))}
        self.assertLessEqual(kept, set(found.focuses), "what is locked stays")
        for focus in kept:
            self.assertTrue(band.near <= focus <= band.far, "and is inside the band")
        held = not depth.limits(street.setup, street.liked).empty
        if len(kept) < street.count and band.from_ <= street.liked <= band.far and held:
            self.assertEqual(found.home.focus, street.liked, "home is where it is liked")
        for one in found.positions:
            self.assertIsNotNone(one.used, one.name)
        for gap in found.gaps:
            self.assertLess(gap.told.near, gap.told.far)
            ends = re.fullmatch(rf"{NUMBER}(?: m)?–{NUMBER} m", format.gap_between(gap, "m"))
            self.assertTrue(ends is None or float(ends[1]) < float(ends[2]))
        for school in schools.schools(found):
            self.assertNotIn(None, school.used, school.key)
        limiter = judging.limiter(found)
        self.assertTrue(street.closest * (1 - 1e-9) <= limiter.near < limiter.far)
        self.assertTrue(0 <= found.share <= 1 + 1e-9)


class WordsTest(TestCase):
    def page(self, **said: str) -> str:
        """The words of a page."""
        page = self.client.get("/street/", link(**said).dict()).content.decode()
        return re.sub(r"\s+", " ", re.sub("<[^>]+>", "", page))

    def test_home_is_where_it_is_liked_whatever_the_band(self) -> None:
        for near, far in (("", ""), ("0.7 m", "inf"), ("1 m", "4 m"), ("0.5 m", "2 m")):
            self.assertEqual(answered(near=near, far=far, like="1.5 m").home.focus, 1500.0)
        outside = answered(near="3 m", far="inf", like="1.5 m")
        self.assertTrue(outside.liked_outside)
        said = self.page(near="3 m", far="inf", like="1.5 m")
        self.assertIn("1.5 m, where you like to work, lies outside the band: home is", said)

    def test_what_is_locked_widens_the_band_and_the_gap_is_told_as_it_is(self) -> None:
        found = answered(locked="0.7 m; 1.2 m; inf")
        self.assertEqual((found.band.near, found.band.far), (700.0, math.inf))
        self.assertEqual(found.focuses, (700.0, 1200.0, math.inf))
        self.assertEqual(found.home.focus, 1200.0, "the one next to where it is liked")
        told = [(gap.told.near, gap.told.far) for gap in found.gaps]
        held = [one.held for one in found.positions]
        near_stop, down, infinity = (one or settable.Span(0, 0) for one in held)
        self.assertEqual(told, [(near_stop.far, down.near), (down.far, infinity.near)])

    def test_one_position_is_a_way_of_working(self) -> None:
        said = self.page(count="1", near="0.8 m", far="5 m")
        self.assertIn("Sharp from 1.1 to 2.1 m.", said)
        self.assertIn(
            "Step back 0.3 m for somebody at 0.8 m; walk 2.9 m up to somebody at 5 m.", said
        )
        self.assertNotIn("no aperture", said)
        self.assertIn("Step until they stand in it.", self.page(count="1"))
        self.assertIn("Walk up to what stands farther off.", self.page(count="1", far="inf"))

    def test_far_and_one_close_keeps_home_where_it_is_liked(self) -> None:
        two = next(one for one in schools.schools(answered(near="0.8 m")) if one.key == "two")
        self.assertEqual([tile.focus for tile in two.tiles], [1400.0, 4000.0])
        self.assertEqual((two.home, two.locked), ("", "4 m"))
        near = next(one for one in schools.schools(answered(like="3 m")) if one.key == "two")
        self.assertLessEqual(near.tiles[-1].start, near.tiles[0].far, "they join")

    def test_when_it_is_no_use_it_says_so(self) -> None:
        said = self.page(
            focal_length_mm="300", lens="", lens_closest="1200", like="1.2 m", f_number="5.6"
        )
        self.assertIn("Zone focusing is no use here", said)
        self.assertNotIn("no use here", self.page())

    def test_a_distance_that_the_lens_does_not_reach_is_refused_with_its_closest(self) -> None:
        said = self.page(like="0.5 m")
        self.assertIn("This lens focuses from 0.7 m. Shown with 1.4 m meanwhile.", said)

    def test_light_comes_second(self) -> None:
        self.assertRegex(self.page(), r"No gap from 0.72 m to ∞\. 1/250 s, ISO 400 in open shade")
        self.assertNotIn("1/3200", self.page().partition("On the pavement")[0])

    def test_opening_keeps_the_ring_until_it_is_asked(self) -> None:
        before, opened = answered(), answered(f_number="4", set_for="8")
        self.assertEqual(opened.focuses, before.focuses)
        self.assertEqual((opened.band.near, opened.band.far), (before.band.near, before.band.far))
        self.assertTrue(opened.gaps)
        said = self.page(f_number="4", set_for="8")
        self.assertIn("The ring stays where f/8 put it", said)
        self.assertIn("Move it for f/4", said)
        self.assertNotIn("The ring stays", self.page(f_number="8", set_for="8"))
        self.assertNotEqual(answered(f_number="4").focuses, before.focuses)
        self.assertIn("Give an aperture", self.page(set_for="wide"))


class PeopleTest(TestCase):
    def test_the_same_people_for_every_aperture_number_and_school(self) -> None:
        first = answered().street.people
        for changed in ({"f_number": "2.8"}, {"count": "1"}, {"locked": "0.7 m; inf"}):
            self.assertEqual(answered(**changed).street.people, first)

    def test_closing_down_and_another_position_never_keep_fewer(self) -> None:
        for spread in ("", "stride"):
            shares = [
                answered(f_number=n, set_for="8", spread=spread, near="0.7 m", far="6 m").share
                for n in ("2.8", "4", "5.6", "8", "11", "16")
            ]
            self.assertEqual(shares, sorted(shares), spread)

    def test_people_counted_one_by_one(self) -> None:
        """20 000 of each kind, judged with an error: within three standard errors of the count."""
        dice, lens = chance("people"), answered().street.setup
        focuses = (850.0, 1400.0, 4200.0)
        round_it = subjects.People(500.0, 8000.0, subjects.Spread.ROUND, 1400.0)
        for people in (round_it, subjects.People(700.0, 5000.0, subjects.Spread.STRIDE)):
            kept, count = [0, 0, 0], 20_000
            for _ in range(count):
                true = 0.0
                while not people.nearest < true < people.end:
                    true = (
                        1400.0 * 1.6 ** dice.gauss(0, 1)
                        if people.spread is subjects.Spread.ROUND
                        else dice.uniform(people.nearest, people.end)
                    )
                judged = true * math.exp(0.15 * dice.gauss(0, 1))
                at = min(range(3), key=lambda k: abs(1 / focuses[k] - 1 / judged))
                kept[at] += float(depth.blur_disc(lens, true, focuses[at])) <= float(lens.coc)
            for share, counted in zip(
                subjects.kept(lens, focuses, people, 0.15), kept, strict=True
            ):
                scatter = math.sqrt(share * (1 - share) / count)
                self.assertAlmostEqual(share, counted / count, delta=3 * scatter)

    def test_said_in_one_line(self) -> None:
        page = self.client.get("/street/", link(near="0.7 m", far="5 m", spread="stride").dict())
        self.assertContains(page, "Of people from 0.7 m to 5 m, as many in every stride")


class MarksTest(TestCase):
    def words(self, fold: str, **said: str) -> str:
        headers = {**HTMX, "Aim-Unfolded": fold}
        page = self.client.get("/street/", link(**said).dict(), headers=headers)
        return re.sub(r"\s+", " ", re.sub("<[^>]+>", " ", page.content.decode()))

    def test_which_engraved_marks_to_trust(self) -> None:
        """Marks for 0.033 mm, a standard of 0.025: 2·log₂(0.033 ÷ 0.025) = 0.80 stops tighter; at
        f/8 those of f/4 are the next that are engraved."""
        said = self.words("fold-marks")
        self.assertIn("At f/8 read the marks of f/4", said)
        self.assertIn("is 0.8 stop tighter", said)

    def test_a_bar_is_known_by_one_reading(self) -> None:
        said = self.words("fold-marks", bar="f/8 at 2 m: 1.3 to 4 m")
        self.assertIn("made for a blur of 0.0266 mm, 4.4 pixels: it judges as a print would", said)
        page = self.client.get("/street/", link(bar="it says so").dict())
        self.assertContains(page, "Write one reading like this: f/8 at 2 m: 1.3 to 4 m.")
