"""What is known of a lens's pupils is computed with, by every planner, and goes along in a link."""

from __future__ import annotations

from django.http import QueryDict
from hypothesis.extra.django import TestCase

from optics.scene.answer import answer
from web.bag.models import Lens
from web.demo.world import load
from web.hand.asker import ANYBODY, Asker
from web.hand.in_use import in_use
from web.people.models import Owner
from web.sky.forms import read_sky
from web.street.forms import read_street
from web.view.forms import read_scene

MACRO = "90 mm f/2.8 for close work"


class PupilsTest(TestCase):
    """The contract's lens: 90 mm at f/8, circle 0.020, pupil ratio 0.6, hiatus 8, at 450 mm."""

    owner: Owner

    def setUp(self) -> None:
        self.owner = load()
        Lens.objects.filter(name=MACRO).update(pupil_ratio=0.6, hiatus_mm=8)

    def who(self) -> Asker:
        return Asker(in_use=lambda texts: in_use(self.owner, texts))

    def link(self, **changes: str) -> QueryDict:
        query = QueryDict(mutable=True)
        texts = {"lens": MACRO, "focal_length_mm": "90", "f_number": "8", "circle_mm": "0.02"}
        more = {"ring": "450 mm", "camera_height": "0.9 m", "tilt_deg": "15"}
        query.update({**texts, **more, **changes})
        return query

    def test_limits_are_those_of_the_contract(self) -> None:
        found = answer(read_scene(self.link(), who=self.who()).scene)
        self.assertAlmostEqual(float(found.exact.near), 448.32669, 5)
        self.assertAlmostEqual(float(found.exact.far), 451.68833, 5)

    def test_a_link_says_it_to_those_who_have_not_the_lens(self) -> None:
        mine = read_scene(self.link(), who=self.who())
        sent = QueryDict(mine.query())
        self.assertEqual(sent["lens_pupils"], "0.6 8")
        theirs = read_scene(sent, who=ANYBODY)
        self.assertEqual(theirs.setup, mine.setup)
        self.assertEqual(theirs.query(), mine.query())

    def test_every_planner_computes_with_them(self) -> None:
        street = self.link(like="3 m")
        for setup in (
            read_street(street, who=self.who()).setup,
            read_sky(self.link(star_px="3"), who=self.who()).sky.setup,
            read_sky(self.link(star_px="3"), who=self.who()).sky.ground,
        ):
            self.assertEqual((setup.pupil_ratio, setup.hiatus), (0.6, 8))

    def test_what_stands_behind_a_lens_makes_other_pupils_of_it(self) -> None:
        behind = self.link(lens=f"{MACRO} + 1.4× converter", focal_length_mm="126")
        setup = read_scene(behind, who=self.who()).setup
        self.assertEqual((setup.pupil_ratio, setup.hiatus), (1, 0))

    def test_half_known_is_half_assumed(self) -> None:
        Lens.objects.filter(name=MACRO).update(hiatus_mm=None)
        setup = read_scene(self.link(), who=self.who()).setup
        self.assertEqual((setup.pupil_ratio, setup.hiatus), (0.6, 0))

    def test_nonsense_in_a_link_is_not_told(self) -> None:
        for text in ("x", "0.6", "0 8", "nan 8", "0.6 9999", "1 2 3", "0.6 inf"):
            with self.subTest(text):
                setup = read_scene(self.link(lens="A lens", lens_pupils=text)).setup
                self.assertEqual((setup.pupil_ratio, setup.hiatus), (1, 0))

    def test_the_working_says_so(self) -> None:
        page = self.client.get("/view/", self.link())
        self.assertContains(page, "with the 8 mm between its principal planes")
        self.assertContains(page, "exit ÷ entrance pupil is 0.6")
        plain = self.client.get("/view/")
        self.assertNotContains(plain, "principal planes")
