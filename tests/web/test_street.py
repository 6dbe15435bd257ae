"""Street on the server: links, messages, answers, sets; and that nothing typed can break it."""

from __future__ import annotations

import re
from dataclasses import replace

from django.http import QueryDict
from hypothesis.extra.django import TestCase

from tests.web.links import HTMX
from web.bag.models import Lens
from web.demo.world import load
from web.hand.asker import Asker
from web.hand.in_use import InUse, in_use
from web.kept.models import Kept
from web.street import usecases
from web.street.forms import read_street
from web.street.reading import Reading
from web.street.sample import GEAR
from web.street.streets import Street
from web.street.usecases import Answer

NO_BAG = InUse()


def link(**changes: str) -> QueryDict:
    """The sample's link, with some of it another."""
    query = QueryDict(mutable=True)
    query.update({**GEAR, **changes})
    return query


def read(**changes: str) -> Reading:
    return read_street(link(**changes), who=Asker(in_use=lambda texts: InUse()))


def plain(reading: Reading) -> Street:
    """What was read, but for the bag and the units it is read in."""
    return replace(reading.street, in_use=NO_BAG, system="m")


def answered(**changes: str) -> Answer:
    return usecases.answer(read(**changes).street)


class PageTest(TestCase):
    def test_three_things_give_positions_at_once(self) -> None:
        page = self.client.get("/street/")
        self.assertContains(page, "No gap from 0.72 m to ∞.")
        for said in ("Close", "Home", "Far", "by the scale, 1.4 m", "return here", "hips to whole"):
            self.assertContains(page, said)

    def test_a_link_gives_back_the_same_link(self) -> None:
        first = read(near="3 ft", far="inf", locked="0.8 m; inf", home="1.2", judge="20", lag="0")
        self.assertTrue(first.valid, first.errors)
        again = read_street(QueryDict(first.query()))
        self.assertEqual(again.query(), first.query())
        self.assertEqual(plain(again), plain(first))

    def test_feet_and_back_change_no_length(self) -> None:
        before = read(near="0.9", far="4", locked="1.2; 2.5", home="1.5", speed="1.2")
        after = read_street(QueryDict(before.in_units("ft").query()))
        self.assertEqual(after.street.system, "ft")
        # What a ring is set to is read in feet now, to half an inch; all else stays.
        self.assertAlmostEqual(after.street.home or 0, 59 * 25.4)
        for one, other in zip(after.street.locked, before.street.locked, strict=True):
            self.assertAlmostEqual(one, other, delta=6.35)
        fixed = {"home": before.street.home, "locked": before.street.locked}
        self.assertEqual(replace(plain(after), **fixed), plain(before))
        again = read_street(QueryDict(after.in_units("m").query()))
        self.assertEqual(plain(again), plain(before))

    def test_own_paces_stand_in_the_link_in_metres(self) -> None:
        self.assertIn("near=1.5", read(near="2 paces").query())

    def test_bad_input_has_its_message_beside_its_field_and_a_drawing(self) -> None:
        cases = (
            ("near", "inf", "near end cannot be infinity"),
            ("near", "0", "Begin at"),
            ("far", "0.3 m", "This lens holds nothing nearer than 0.61 m"),
            ("count", "500", "1 to 9 positions"),
            ("count", "2.5", "1 to 9 positions"),
            ("speed", "0 m/s", "a speed above 0"),
            ("speed", "fast", "Write a speed"),
            ("home", "0.2 m", "this lens focuses from 0.7 m"),
            ("locked", "1 m; abc", "not understood"),
            ("locked", "0.8; 0.9; 1; 1.2", "4 positions are locked"),
            ("judge", "120 %", "no judging"),
            ("lag", "9 s", "up to 5 s"),
            ("angle_deg", "90", "straight at you"),
            ("iso_most", "3", "ISO ceiling"),
            ("slowest", "soon", "Write a time"),
            ("like", "200 m", "10 cm to 100 m"),
            ("f_number", "0", "Shown with f/8 meanwhile"),
        )
        for name, text, message in cases:
            with self.subTest(name=name, text=text):
                page = self.client.get("/street/", link(**{name: text}).dict())
                self.assertEqual(page.status_code, 200)
                field = "count" if text.count(";") == 3 else name
                beside = re.search(rf'id="message-{field}"[^>]*>([^<]*)<', page.content.decode())
                assert beside is not None
                self.assertIn(message, beside[1].replace("&#x27;", "'"))
                self.assertContains(page, f'value="{text}"')
                self.assertContains(page, 'class="curve"')

    def test_near_beyond_far(self) -> None:
        page = self.client.get("/street/", link(near="5 m", far="2 m").dict())
        self.assertContains(page, "The far end lies before the near end")

    def test_an_aperture_the_lens_has_not_got_is_said(self) -> None:
        page = self.client.get("/street/", link(f_number="1.4").dict())
        self.assertContains(page, "This lens goes from f/2.8 to f/16.")

    def test_the_part_of_a_band_that_cannot_be_had_is_named(self) -> None:
        page = self.client.get("/street/", link(near="0.3 m", far="3 m").dict())
        self.assertContains(page, "Nearer than 0.61 m cannot be had")
        self.assertContains(page, "0.3 m to 0.61 m stays soft")

    def test_a_narrow_band_says_how_much_wider_it_could_open(self) -> None:
        found = answered(near="2 m", far="2.2 m")
        self.assertEqual(found.needed, 1)
        self.assertTrue(found.complete)
        page = self.client.get("/street/", link(near="2 m", far="2.2 m").dict())
        self.assertContains(page, "enough from f/2.8 on. One position would do at f/8.")

    def test_nothing_holds(self) -> None:
        page = self.client.get("/street/", link(circle_mm="0.002", diffraction="1").dict())
        self.assertContains(page, "Nothing is sharp at f/8")
        self.assertNotContains(page, '<rect class="tile')
        self.assertNotContains(page, "ground-zone")
        self.assertContains(page, "nothing here", count=3)


class MovingTest(TestCase):
    def move(self, **values: str) -> str:
        data = {**GEAR, "axis_near_mm": "600", "axis_far_mm": "inf", **values}
        page = self.client.get("/street/", data, headers=HTMX)
        self.assertEqual(page.headers["HX-Replace-Url"], "false")
        found = re.search(r'id="fixed-now"[^>]*', page.content.decode())
        assert found is not None
        return found[0]

    def test_a_position_dragged_is_locked_where_it_was_put(self) -> None:
        self.assertIn('data-locked="5 m"', self.move(at="2", drag_mm="5012"))
        self.assertIn('data-home="1.6 m"', self.move(at="1", drag_mm="1583"))
        self.assertIn('data-locked="inf"', self.move(at="2", drag_mm="Infinity"))
        self.assertIn('data-locked="0.7 m"', self.move(at="0", drag_mm="200"), "no nearer")

    def test_a_step_moves_on_from_where_it_is(self) -> None:
        self.assertIn('data-home="1.44 m"', self.move(at="1", ring_step="1"))
        self.assertIn('data-home="1.4 m"', self.move(at="1", ring_step="-1", home="1.44 m"))

    def test_one_dragged_past_its_neighbour_is_still_in_the_hand(self) -> None:
        said = self.move(at="0", drag_mm="2500")
        self.assertIn('data-locked="2.5 m"', said)
        self.assertIn('data-held="1"', said)

    def test_no_such_position(self) -> None:
        for at in ("7", "-1", "x", ""):
            page = self.client.get(
                "/street/",
                {**GEAR, "axis_near_mm": "600", "axis_far_mm": "inf", "at": at, "drag_mm": "900"},
                headers=HTMX,
            )
            self.assertEqual(page.status_code, 200)


class SetsTest(TestCase):
    def save(self) -> Kept:
        state = link(near="0.8 m", locked="0.8 m; inf", judge="20", speed="2").urlencode()
        self.client.post("/street/save/", {"name": "Row", "state": state})
        return Kept.objects.get(name="Row")

    def test_saved_text_comes_back_as_typed(self) -> None:
        kept = self.save()
        page = self.client.get(f"/street/set/{kept.pk}/")
        for text in ("0.8 m", "0.8 m; inf", "20", "2"):
            self.assertContains(page, f'value="{text}"')
        self.assertContains(page, "saved in this browser")

    def test_a_set_outlives_its_lens(self) -> None:
        kept = self.save()
        Lens.objects.filter(owner=kept.owner).delete()
        page = self.client.get(f"/street/set/{kept.pk}/")
        self.assertContains(page, "28 mm f/2.8 with tab")
        self.assertContains(page, "0.7 m", msg_prefix="what the link told of its closest focus")

    def test_a_deleted_lens_names_the_sets_made_with_it(self) -> None:
        kept = self.save()
        lens = Lens.objects.get(owner=kept.owner, name="28 mm f/2.8 with tab")
        self.assertContains(self.client.get(f"/bag/lens/{lens.pk}/"), f"/street/set/{kept.pk}/")

    def test_who_has_a_bag_opens_with_what_is_in_hand(self) -> None:
        self.save()
        page = self.client.get("/street/")
        self.assertContains(page, "20–35 mm f/4 zoom")


class InUseTest(TestCase):
    def test_another_lens_in_hand_keeps_the_street(self) -> None:
        load()
        state = link(near="0.8 m", locked="1.2 m", count="4").urlencode()
        lens = Lens.objects.get(name="16 mm f/2 for the night")
        answer = self.client.post(
            "/bag/in-hand/", {"next": "/street/", "state": state, "lens": str(lens.pk)}
        )
        said = QueryDict(answer["Location"].partition("?")[2])
        self.assertTrue(answer["Location"].startswith("/street/?"))
        self.assertEqual((said["near"], said["count"]), ("0.8 m", "4"))
        self.assertNotIn("locked", said, "a stop of one lens is none of another's")
        self.assertEqual((said["lens"], said["focal_length_mm"]), (lens.name, "16"))
        self.assertNotIn("place", said, "nothing of another planner comes along")

    def test_a_lens_in_the_bag_answers_for_its_apertures(self) -> None:
        owner = load()
        who = Asker(in_use=lambda texts: in_use(owner, texts))
        street = read_street(link(), who=who).street
        self.assertEqual((street.apertures[0], street.apertures[-1]), (2.8, 16))
        self.assertEqual(street.closest, 700.0)
