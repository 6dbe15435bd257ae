"""The bag in a real browser: filled with the keyboard alone, and taken in hand."""

from __future__ import annotations

from selenium.webdriver.common.actions.action_builder import ActionBuilder
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser import chromium
from tests.browser.base import BrowserTest


class BagTest(BrowserTest):
    expected_in_console = ("422 (Unprocessable",)

    def test_a_lens_is_added_corrected_and_found_with_the_keyboard_alone(self) -> None:
        self.open("/bag/")
        self.tab_to("a[href='/bag/lens/new/']")
        self.press(Keys.ENTER)
        self.wait_until("return document.getElementById('shortest_mm') !== null")
        self.tab_to("#name")
        self.press("35 mm f/2", Keys.TAB, "35", Keys.TAB, "2")
        self.tab_to("#closest_mm")
        self.press("10 cm", Keys.ENTER)
        self.wait_for_text("#message-closest_mm", "No lens of 35 mm focuses nearer than 0.14 m")
        self.assertEqual(self.find("#name").get_attribute("value"), "35 mm f/2")
        self.tab_to("#closest_mm")
        self.press(Keys.END, *[Keys.BACKSPACE] * 5, "30 cm", Keys.ENTER)
        self.wait_for_text(".follows", "Kept in your bag.")
        self.open("/bag/")
        self.assertIn("35 mm f/2", self.text(".bag-lenses li:first-child"), "one's own come first")
        self.assertIn("closest 0.3 m", self.text(".bag-lenses li:first-child"))

    def add(self, slug: str, *typed: str) -> None:
        """Open a form from the bag's page and fill its first lines, all by keys."""
        self.open("/bag/")
        self.tab_to(f"a[href='/bag/{slug}/new/']")
        self.press(Keys.ENTER)
        self.wait_until("return document.querySelector('.thing-form') !== null")
        self.tab_to("#name")
        for text in typed:
            self.press(text, Keys.TAB)
        self.tab_to(".thing-form .deed")
        self.press(Keys.ENTER)
        self.wait_for_text(".follows", "Kept in your bag.")
        self.open("/bag/")

    def test_the_tab_is_given_by_pointing_at_the_drawn_ring(self) -> None:
        self.open("/bag/lens/new/")
        for name, text in (("name", "Mine"), ("shortest_mm", "35"), ("widest", "2")):
            self.find(f"#{name}").send_keys(text)
        self.wait_for_text("#preview", "Say both")  # what is assumed is not pointed at
        for name, text in (("closest_mm", "70 cm"), ("throw_deg", "90")):
            self.find(f"#{name}").send_keys(text)
        for size in (chromium.WIDE, chromium.NARROW):
            chromium.resize(self.driver, size, touch=size == chromium.NARROW)
            for label, said in (("2", "2 m"), ("∞", "∞"), ("0.7", "0.7 m")):
                with self.subTest(label=label, size=size):
                    self.wait_for_text("#preview", "straight down")
                    at = self.read(
                        "const all = [...document.querySelectorAll('#preview svg text')];"
                        f"const tick = all.find((one) => one.textContent === '{label}');"
                        "tick.scrollIntoView({ block: 'center' });"
                        "const box = tick.getBoundingClientRect();"
                        "return [box.left + box.width / 2 + 2, box.top + box.height / 2]"
                    )
                    mouse = ActionBuilder(self.driver)
                    mouse.pointer_action.move_to_location(*at).click()
                    mouse.perform()
                    self.wait_for_text("#preview", f"The tab points straight down at {said}")
                    field = self.find("#tab_at_infinity_hours").get_attribute("value")
                    self.assertEqual(field, f"straight down at {said}")
        self.follow(".thing-form .deed")
        self.wait_for_text(".follows", "Kept in your bag.")
        self.assertIn("The tab points straight down at 0.7 m", self.text("#preview"))

    def test_the_rest_of_the_bag_too(self) -> None:
        # In a list of choices, the first letters of a choice choose it.
        self.add("body", "Old folder", "6 × 9")
        self.assertIn("Old folder", self.text(".bag-bodies"))
        self.assertIn("84 × 56 mm", self.text(".bag-bodies"))
        self.add("adapter", "Half again", "1.5")
        self.assertIn("× 1.5", self.text(".bag-adapters"))
        self.open("/bag/standard/new/")
        self.tab_to("#name")
        self.press("Small screen", Keys.TAB, "a screen")
        self.tab_to("#screen_pixels")  # the choice has opened it
        self.press("2000", Keys.ENTER)
        self.wait_for_text(".follows", "Kept in your bag.")
        self.open("/bag/")
        self.wait_for_text(".bag-standards", "Small screen")
        self.assertIn("0.042 mm", self.text(".bag-standards"), "on the body just put in")

    def test_taken_in_hand_on_view_and_still_there_next_time(self) -> None:
        self.open("/view/?mark_name=Lamp&mark_distance=3+m&mark_role=must")
        before = self.find("html")
        Select(self.find("#pick-lens")).select_by_visible_text("28 mm f/2.8 with tab")
        self.wait_for(lambda: before != self.find("html"))
        self.wait_ready()
        self.assertEqual(self.find("#focal_length_mm").get_attribute("value"), "28")
        self.assertEqual(self.find("#mark-name-0").get_attribute("value"), "Lamp")
        self.open("/view/")
        chosen = Select(self.find("#pick-lens")).first_selected_option
        self.assertEqual(chosen.text, "28 mm f/2.8 with tab")

    def test_an_account_is_made_and_the_bag_comes_along(self) -> None:
        self.open("/bag/adapter/new/")
        self.find("#name").send_keys("Tilted plate")
        self.find("#factor").send_keys("1")
        self.follow(".thing-form .deed")
        self.open("/bag/")
        self.assertIn("Kept in this browser only", self.text("p.offer"))
        self.follow("p.offer a")
        for name, text in (
            ("#id_username", "Iven"),
            ("#id_password1", "slate and wire 7"),
            ("#id_password2", "slate and wire 7"),
        ):
            self.find(name).send_keys(text)
        self.follow(".entries .deed")
        self.assertIn("Tilted plate", self.text(".bag-adapters"))
        self.assertIn("Iven", self.text(".ways"))
