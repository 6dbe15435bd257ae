"""A line that is slow, or cut in the middle of an edit: what is old looks so, nothing is lost."""

from __future__ import annotations

from typing import Any

from selenium.webdriver.common.by import By

from tests.browser.base import BrowserTest


class LineTest(BrowserTest):
    expected_in_console = ("ERR_INTERNET_DISCONNECTED", "htmx:")

    def line(self, *, up: bool = True, latency: int = 0) -> None:
        told: dict[str, Any] = {
            "offline": not up, "latency": latency, "downloadThroughput": -1,
            "uploadThroughput": -1,
        }  # fmt: skip
        self.driver.execute_cdp_cmd("Network.enable", {})
        self.driver.execute_cdp_cmd("Network.emulateNetworkConditions", told)
        self.addCleanup(self.driver.execute_cdp_cmd, "Network.disable", {})

    def faint(self) -> bool:
        """Whether the answer looks as if it were not up to date."""
        find = "document.querySelector('.answer .figure')"
        return float(self.read(f"return getComputedStyle({find}).opacity")) < 0.5

    def test_cut_in_the_middle_of_an_edit_and_back(self) -> None:
        self.open("/view/")
        self.line(up=False)
        self.type_in("#mark-distance-1", "5.5 m")
        self.wait_for(lambda: self.find(".trouble[role=alert]:last-of-type").is_displayed())
        self.assertTrue(self.faint())
        self.type_in("#f_number", "8")
        shown = [one for one in self.driver.find_elements(By.CSS_SELECTOR, ".trouble")
                 if one.is_displayed()]  # fmt: skip
        self.assertIn("what you typed is kept", shown[0].text)
        self.assertEqual(self.text("#aperture-now"), "f/11", "no new aperture beside an old ring")
        self.line()
        self.wait_for_text("#aperture-now", "f/8")  # by itself
        self.assertFalse(self.faint())
        self.wait_for(lambda: self.query()["mark_distance"][1] == "5.5 m")
        self.assertFalse(shown[0].is_displayed())

    def test_late_answers_look_late(self) -> None:
        self.open("/view/")
        self.line(latency=1500)
        self.assertFalse(self.faint())
        self.type_in("#f_number", "8")
        self.wait_for(self.faint)
        self.wait_for_text("#aperture-now", "f/8")
        self.wait_for(lambda: not self.faint())

    def test_save_without_a_line_goes_through_later_and_says_so(self) -> None:
        self.open("/view/?f_number=5.6&focal_length_mm=24&mark_distance=3+m&mark_name=Post")
        self.type_in("#kept-name", "Kept offline")
        self.type_in("#mark-distance-0", "3.5 m")
        self.wait_for(lambda: self.query()["mark_distance"] == ["3.5 m"])
        self.line(up=False)
        self.click("#save .deed")
        kept = "this is kept in this browser"
        self.wait_for(lambda: any(kept in one for one in self.said()))
        self.assertEqual(self.find("#kept-name").get_property("value"), "Kept offline")
        self.line()
        self.wait_for(lambda: any("“Kept offline” was saved at" in one for one in self.said()))
        self.open("/kept/")
        self.assertIn("Kept offline", self.text("main"))
        self.follow(".kept-open")
        self.assertEqual(self.find("#mark-distance-0").get_property("value"), "3.5 m")

    def said(self) -> list[str]:
        """What the lines at the foot say."""
        lines = self.driver.find_elements(By.CSS_SELECTOR, ".trouble")
        return [one.text for one in lines if one.is_displayed()]
