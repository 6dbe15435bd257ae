"""The field page of a plan, read at arm's length and swiped through on a phone."""

from __future__ import annotations

from tests.browser import chromium
from tests.browser.base import BrowserTest


class FieldPageTest(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)

    def keep(self, name: str, **changes: str) -> None:
        self.open("/view/?" + "&".join(f"{n}={text}" for n, text in changes.items()))
        self.type_in("#kept-name", name)
        self.follow("#save .deed")

    def swipe(self, by: int) -> None:
        self.read("window.aimLeaving = true")
        for kind, x in (("touchStart", 195), ("touchMove", 195 + by // 2), ("touchMove", 195 + by)):
            point = [{"x": x, "y": 300}]
            self.driver.execute_cdp_cmd(
                "Input.dispatchTouchEvent", {"type": kind, "touchPoints": point}
            )
        self.driver.execute_cdp_cmd(
            "Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []}
        )
        self.wait_for(self._arrived)

    def test_a_plan_opens_to_it_and_a_swipe_to_the_next(self) -> None:
        self.keep("Post by the path", focal_length_mm="24", f_number="8", mark_distance="3 m")
        self.keep("Rock in the bay", focal_length_mm="24", f_number="11", mark_distance="2 m")
        self.open("/kept/")
        self.follow(".kept-open")
        self.assertIn("/field/", self.driver.current_url)
        first = self.text("h1")
        self.assertEqual(first, "Rock in the bay")
        size = "return parseFloat(getComputedStyle(document.querySelector('.huge')).fontSize)"
        self.assertGreaterEqual(self.read(size), 100, "read at arm's length")
        self.swipe(-200)
        self.assertEqual(self.text("h1"), "Post by the path")
        self.assertIn("f/8", self.text(".field-aperture"))
        self.swipe(200)
        self.assertEqual(self.text("h1"), first)

    def test_how_it_came_out_is_one_tap(self) -> None:
        self.open("/view/")
        self.follow("#save .deed")
        self.open("/kept/")
        self.follow(".kept-open")
        before = self.text(".field-ring .huge")
        self.follow(".went-soft")
        self.wait_for_text(".field-next", "As the trial frame has it")
        self.assertNotEqual(self.text(".field-ring .huge"), before)
        self.follow(".taken-in a")
        self.assertIn("soft A", self.query()["trials"][0])
        self.assertIn("/view/plan/", self.driver.current_url)
