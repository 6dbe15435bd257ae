"""Nothing that must be sharp is left out quietly, and nothing typed is lost, right or wrong."""

from __future__ import annotations

from selenium.webdriver.common.keys import Keys

from tests.browser import chromium
from tests.browser.base import BrowserTest

SHORT = "/view/?camera_height=1+m&tilt_deg=15&mark_name=Slab&mark_distance=70+cm&mark_how=straight"


class LeftOutTest(BrowserTest):
    def test_a_tape_too_short_is_named_in_the_answer_and_mended_by_one_tap(self) -> None:
        self.open(SHORT)
        self.wait_for_text(".answer .says", "A is not counted: 0.7 m straight does not reach")
        self.assertEqual(self.text("#verdict-0"), "not counted")
        self.click(".says .cure[data-column='stands']")
        self.wait_until("return document.activeElement?.id === 'mark-stands-0'")
        self.press("60 cm")
        self.wait_until("return !document.querySelector('.answer').innerText.includes('counted')")
        self.wait_for_text("#verdict-0", "holds")
        self.assertEqual(self.query()["mark_stands"], ["60 cm"])

    def test_the_other_cure(self) -> None:
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        self.open(SHORT)
        self.click(".says .cure[data-text='ring']")
        self.wait_for_text("#verdict-0", "holds")
        self.assertNotIn("counted", self.text(".answer"))

    def test_what_is_typed_wrong_outlasts_a_reload_with_its_name_and_note(self) -> None:
        self.open("/view/")
        self.type_in("#kept-name", "Before dawn")
        self.click("#fold-checks summary")
        self.type_in("#note", "Wait for the lull.")
        self.type_in("#mark-distance-1", "far off")
        self.wait_for_text(".answer .says", "B is not counted: “far off” is not understood")
        self.type_in("#f_number", "x")
        self.press(Keys.TAB)
        self.wait_for_text("#message-f_number", "Shown with f/11 meanwhile")
        self.wait_for(lambda: self.query()["f_number"] == ["x"])
        said = self.text(".answer")
        self.driver.refresh()
        self.wait_ready()
        self.assertEqual(self.text(".answer"), said)
        ids = ("kept-name", "note", "mark-distance-1", "mark-name-1", "f_number")
        values = [self.read(f"return document.getElementById('{one}').value") for one in ids]
        self.assertEqual(
            values, ["Before dawn", "Wait for the lull.", "far off", "Winch wheel", "x"]
        )

    def test_what_stands_in_for_what_is_wrong_was_in_hand_before(self) -> None:
        self.open("/view/?f_number=5.6&focal_length_mm=24&mark_distance=3+m&mark_name=Post")
        self.type_in("#f_number", "x")
        self.wait_for_text("#message-f_number", "Shown with f/5.6 meanwhile")

    def test_a_plan_that_does_not_count_a_mark_says_so_wherever_it_is(self) -> None:
        self.open(SHORT)
        self.type_in("#kept-name", "Short tape")
        self.follow("#save .deed")
        self.wait_for_text(".answer .says", "A is not counted")
        self.open("/kept/")
        self.wait_for_text("main", "A Slab not counted")
