"""In hand: what is chosen from the bag, and what that choice means in a planner's link."""

from __future__ import annotations

import math
import re

from django.http import QueryDict

from tests.web.test_bag import BODY, BagTest
from web.bag import usecases
from web.bag.models import Body, InHand, Lens
from web.demo.world import load
from web.hand import panel
from web.hand.in_use import in_use
from web.view.sample import GEAR


class InHandTest(BagTest):
    def test_choosing_changes_the_numbers_and_is_remembered(self) -> None:
        sample = load()
        tab = sample.lenss.get(name="28 mm f/2.8 with tab")
        small = sample.bodys.get(name="Small body, 26 MP")
        album = sample.standards.get(name="Album print")
        state = "focal_length_mm=24&f_number=1.4&mark_name=Lamp&mark_distance=2+m&mark_role=must"
        answer = self.client.post(
            "/bag/in-hand/",
            {"state": state, "next": "/view/", "lens": str(tab.pk), "body": str(small.pk),
             "standard": str(album.pk)},
        )  # fmt: skip
        query = QueryDict(answer["Location"].partition("?")[2])
        self.assertEqual(query["lens"], tab.name)
        self.assertEqual((query["focal_length_mm"], query["f_number"]), ("28", "11"))
        self.assertEqual((query["format"], query["pixels_across"]), ("aps-c", "6240"))
        self.assertEqual(query["circle_mm"], "0.02611")  # 0.2 mm ÷ (180 ÷ 23.5)
        self.assertEqual(query.getlist("mark_name"), ["Lamp"])
        page = self.client.get(answer["Location"])
        for name in (tab.name, small.name):
            self.assertContains(page, f"selected>{name}")
        self.assertContains(page, "selected>Album print<")
        opened = self.client.get("/view/")
        self.assertContains(opened, f"selected>{tab.name}")
        self.assertEqual(InHand.objects.get(owner__is_sample=False).f_number, 11)

    def test_the_apertures_offered_are_those_of_what_is_in_hand(self) -> None:
        sample = load()
        texts = {**GEAR, "lens": "20–35 mm f/4 zoom"}
        offered = in_use(sample, texts).apertures(24)
        self.assertEqual((offered[0], offered[-1]), (4, 22))
        film = {**texts, "format": "6x6", "pixels_across": ""}
        self.assertEqual(in_use(sample, film).apertures(24), (4, 5.6, 8, 11, 16, 22))
        longer = {**texts, "lens": "50 mm f/1.8 + 1.4× converter"}
        self.assertEqual(in_use(sample, longer).apertures(70)[0], 2.5)
        self.assertEqual(in_use(sample, {**texts, "lens": "none"}).apertures(24)[0], 0.7)
        page = self.client.get("/view/")
        self.assertNotContains(page, '<option value="2.8">')

    def test_every_planner_offers_the_same_apertures(self) -> None:
        """Of a body in half stops with a lens that nobody knows: its halves, on all three."""
        Body.objects.filter(owner=load(), format="full-frame").update(steps="halves")
        link = {"lens": "", "format": "full-frame", "pixels_across": "6000",
                "focal_length_mm": "28", "f_number": "8", "circle_mm": "0.025"}  # fmt: skip
        offered = {}
        for planner in ("view", "street", "sky"):
            page = self.client.get(f"/{planner}/", link).content.decode()
            listed = page.split('<datalist id="engraved">')[1].split("</datalist>")[0]
            offered[planner] = re.findall(r'value="([\d.]+)"', listed)
        self.assertIn("6.7", offered["view"])
        self.assertNotIn("6.3", offered["view"])
        self.assertEqual(offered["street"], offered["view"])
        self.assertEqual(offered["sky"], offered["view"])

    def test_where_a_tab_stands(self) -> None:
        tab = load().lenss.get(name="28 mm f/2.8 with tab")
        places = {place.distance: place.words for place in usecases.tab_places(tab, "m")}
        self.assertEqual(places[math.inf], "4:30")
        # To infinity it turns anticlockwise: nearer is clockwise, 92° or 3.07 hours on.
        self.assertEqual(places[700], "7:35")
        (down,) = (distance for distance, words in places.items() if words == "6:00")
        self.assertAlmostEqual(float(tab.hands.clock(down)), 6)
        page = self.client.get(f"/bag/lens/{tab.pk}/")
        self.assertContains(page, "<dd>4:30</dd>")
        self.assertContains(page, "<dd>7:35</dd>")

    def test_an_own_format_goes_through_the_link(self) -> None:
        self.put("body", BODY, name="Plate", format="own", own_width_mm="127", own_height_mm="100",
                 pixels_across="")  # fmt: skip
        plate = self.own(Body, "Plate")
        answer = self.client.post(
            "/bag/in-hand/", {"body": str(plate.pk), "state": ""}, follow=True
        )
        self.assertContains(answer, "selected>Plate")
        self.assertContains(answer, "127 × 100 mm")

    def test_a_converter_multiplies_focal_length_and_aperture_and_comes_off_again(self) -> None:
        sample = load()
        lens = sample.lenss.get(name="50 mm f/1.8")
        converter = sample.attachments.get(name="1.4× converter")
        on = {"lens": str(lens.pk), "adapter": str(converter.pk), "state": "f_number=4"}
        query = QueryDict(self.client.post("/bag/in-hand/", on)["Location"].partition("?")[2])
        self.assertEqual((query["focal_length_mm"], query["f_number"]), ("70", "5.6"))
        self.assertEqual(query["lens"], "50 mm f/1.8 + 1.4× converter")
        self.assertContains(self.client.get("/view/"), "selected>1.4× converter")
        again = {**on, "state": query.urlencode()}
        same = QueryDict(self.client.post("/bag/in-hand/", again)["Location"].partition("?")[2])
        self.assertEqual((same["focal_length_mm"], same["f_number"]), ("70", "5.6"))
        off = {"lens": str(lens.pk), "state": query.urlencode()}
        bare = QueryDict(self.client.post("/bag/in-hand/", off)["Location"].partition("?")[2])
        self.assertEqual((bare["focal_length_mm"], bare["f_number"]), ("50", "4"))
        page = self.client.get(f"/bag/adapter/{converter.pk}/")
        self.assertContains(page, "then stand for a circle × 1.4")
        ring = sample.attachments.get(keeps_infinity=False)
        close = self.client.post("/bag/in-hand/", {**on, "adapter": str(ring.pk)}, follow=True)
        self.assertContains(close, "Infinity cannot be reached")

    def test_nonsense_chosen_is_as_typed(self) -> None:
        for key in ("abc", "99999", "9" * 30, "-1"):
            answer = self.client.post("/bag/in-hand/", {"lens": key, "next": "https://a.example/"})
            self.assertTrue(answer["Location"].startswith("/?"), answer["Location"])
        typed = panel.taken({**GEAR, "focal_length_mm": "x", "f_number": "nan"}, None, Lens(
            name="L", shortest_mm=20, longest_mm=35, widest=4), None, None, 1.0)  # fmt: skip
        self.assertEqual((typed["focal_length_mm"], typed["f_number"]), ("20", "4"))
