"""The ways to get the ring to infinity, step by step, as their pages say them."""

from __future__ import annotations

import html
import re

from hypothesis.extra.django import TestCase

from tests.web.test_sky import link
from web.bag.models import Lens
from web.demo.world import load
from web.kept.models import Kept


class RoutinesTest(TestCase):
    def steps(self, way: str, **changes: str) -> list[str]:
        """The steps of a way as its page says them, each with what there is to know."""
        page = self.client.get("/sky/walk/", {**link().dict(), "way": way, **changes})
        sections = re.findall(
            r'<section class="walk-step".*?</section>', page.content.decode(), re.DOTALL
        )
        return [
            html.unescape(" ".join(re.findall(r"<(?:h1|p class=\"walk-know\")[^>]*>([^<]*)<", one)))
            for one in sections
        ]

    def test_in_the_bodys_own_words_and_the_users_paces(self) -> None:
        load()
        page = self.client.get("/sky/")
        for text in ("The centre of the rear dial.", "Release: two seconds.", "Stay at f/2.",
                     "Walk to 22 m or farther: 30 of your paces."):  # fmt: skip
            self.assertContains(page, text)

    def test_what_is_known_of_the_lens_says_at_which_aperture_to_focus(self) -> None:
        load()
        texts = {
            "shifts": "Focus at f/4, as you take the picture. This lens shifts its focus",
            "keeps": "Open to f/2 to focus. This lens keeps its focus as it closes",
            "unknown": "Nobody has said whether this lens shifts its focus",
        }
        for closing, text in texts.items():
            Lens.objects.filter(name=link()["lens"]).update(as_it_closes=closing)
            for way in ("star", "light", "day"):
                with self.subTest(closing, way=way):
                    self.assertTrue(any(text in one for one in self.steps(way, f_number="4")))

    def test_each_way_ends_in_the_picture_tape_a_look_and_when_to_do_it_again(self) -> None:
        load()
        for way in ("star", "light", "day"):
            with self.subTest(way):
                found = " ".join(self.steps(way, seconds="13 s"))
                for text in ("Now the picture: f/2, 13 s, ISO 6400, 2 frames to lay together.",
                             "Tape the ring down",
                             "Look at the first frame", "Wind", "dew", "grown colder"):  # fmt: skip
                    self.assertIn(text, found)
        self.assertIn("autofocus left on moves it", " ".join(self.steps("day")))
        self.assertIn("away from roads", " ".join(self.steps("light")))

    def test_how_many_frames_go_by_between_looks(self) -> None:
        """A quarter of an hour of frames, each with a second between."""
        cases = {
            "5 s": "every 200 frames",
            "30 s": "every 30 frames",
            "900 s": "every frame",
            "1/2 s": "every quarter of an hour",
        }
        for seconds, text in cases.items():
            with self.subTest(seconds):
                self.assertIn(text, self.steps("star", seconds=seconds)[-1])

    def test_nobody_is_sent_for_a_walk_of_miles(self) -> None:
        far = {"lens": "", "focal_length_mm": "400", "f_number": "4"}
        step = self.steps("light", **far)[1]
        self.assertIn("Find a light at 7200 m or farther", step)
        self.assertIn("Nothing nearer will do", step)
        page = self.client.get("/sky/", link(**far).dict())
        self.assertContains(page, "<b>7200 m or farther</b>. ")
        none = self.steps("light", f_number="11")[1]
        self.assertIn("Only infinity itself will do", none)

    def test_only_a_zoom_has_a_ring_not_to_be_touched(self) -> None:
        load()
        self.assertNotIn("zoom ring", " ".join(self.steps("star")))
        zoom = {"lens": "20–35 mm f/4 zoom", "focal_length_mm": "20", "f_number": "4"}
        self.assertIn("Do not touch the zoom ring either", " ".join(self.steps("star", **zoom)))

    def test_the_step_and_the_way_are_in_the_link(self) -> None:
        load()
        page = self.client.get("/sky/walk/", {**link().dict(), "way": "light", "step": "2"})
        self.assertContains(page, 'id="step-2" aria-label="Step 2 of 10" aria-current="step"')
        self.assertContains(page, 'id="step-1" aria-label="Step 1 of 10" hidden')
        self.assertContains(page, "way=light&amp;step=3")
        for step in ("0", "-3", "999", "x", "٣", ""):
            with self.subTest(step):
                page = self.client.get("/sky/walk/", {"way": "nothing", "step": step})
                self.assertContains(page, 'aria-current="step"', count=1)

    def test_the_steps_of_a_kept_night(self) -> None:
        load()
        self.client.post("/sky/save/", {"name": "Ridge", "state": link(margin="3").urlencode()})
        kept = Kept.objects.get(name="Ridge")
        page = self.client.get(f"/sky/night/{kept.pk}/walk/?way=light")
        self.assertContains(page, "<b>Ridge</b>")
        self.assertContains(page, "Walk to 47 m or farther")
        self.assertContains(page, f'data-back="/sky/night/{kept.pk}/"')
        self.assertEqual(self.client.get("/sky/night/99999/walk/").status_code, 404)
