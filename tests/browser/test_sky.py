"""Sky as it is used: in the dark, by keys, and dark enough."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser import chromium
from tests.browser.base import BrowserTest


class SkyTest(BrowserTest):
    def in_the_dark(self) -> None:
        self.open("/sky/")
        self.driver.add_cookie({"name": "light", "value": "dark"})
        self.open("/sky/")

    def test_by_keyboard_in_the_dark(self) -> None:
        self.in_the_dark()
        self.press("]")
        self.wait_for_text("#aperture-now", "f/2.2")
        self.tab_to("#margin")
        self.press("2")
        self.wait_for(lambda: self.query().get("margin") == ["2"])
        self.tab_to("#seconds")
        self.press("30 s")
        self.wait_for_text(".answer", "Stars trail")
        self.tab_to("#fold-margin > summary")
        self.press(Keys.ENTER)
        self.wait_for_text("#fold-margin .chosen", "2 ×")

    def test_a_routine_walked_by_keys_alone_in_the_dark(self) -> None:
        """From the plan through every step of two ways, and back, without a pointer."""
        self.in_the_dark()
        self.press("w")
        self.wait_until("return location.pathname === '/sky/walk/'")
        self.wait_ready()
        seen = [self.text("#step-1 h1")]
        for step in range(2, 11):
            self.press(Keys.ARROW_RIGHT if step % 2 else "n")
            self.wait_until(f"return !document.getElementById('step-{step}').hidden")
            seen.append(self.text(f"#step-{step} h1"))
            self.assertEqual(self.read("return document.activeElement.textContent"), seen[-1])
            shown = "[...document.querySelectorAll('.walk-step')].filter(e => e.offsetParent)"
            self.assertEqual(self.read(f"return {shown}.length"), 1, "one step at a time")
        self.assertEqual(len(set(seen)), 10)
        self.assertIn("smallest square of light", seen[5])
        self.assertEqual(self.query()["step"], ["10"], "the link says the step")
        self.press("n")
        self.assertFalse(self.read("return document.getElementById('step-10').hidden"))
        self.press("p")
        self.wait_until("return !document.getElementById('step-9').hidden")
        self.press("2")
        self.wait_for(lambda: self.query().get("way") == ["light"])
        self.wait_ready()
        self.press("n")
        self.wait_for_text("#step-2 h1", "30 of your paces")
        self.dark_enough()
        self.press(Keys.ESCAPE)
        self.wait_until("return location.pathname === '/sky/'")
        self.wait_ready()
        self.assertIn("22", self.text("#ring-now"))

    def test_the_steps_on_a_phone_large_and_under_the_thumb(self) -> None:
        self.in_the_dark()
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.open("/sky/walk/?way=star&step=6")
        size = self.read(
            "return parseFloat(getComputedStyle(document.querySelector('#step-6 h1')).fontSize)"
        )
        self.assertGreaterEqual(size, 28)
        self.assertEqual(self.read("return document.documentElement.scrollWidth"), 390)
        small = self.read(
            "return [...document.querySelectorAll('.walk-step:not([hidden]) a')]"
            ".filter(e => e.getBoundingClientRect().height < 43.5).map(e => e.textContent)"
        )
        self.assertEqual(small, [], "targets under 44 px")
        self.click("#step-6 .walk-on a")
        self.wait_until("return !document.getElementById('step-7').hidden")
        self.dark_enough()

    def test_back_and_next_share_the_bottom_edge_both_ways_round(self) -> None:
        for size in (chromium.NARROW, (844, 390)):
            chromium.resize(self.driver, size, touch=True)
            self.open("/sky/walk/?way=star&step=2")
            for step in (2, 3, 2):
                boxes = self.read(
                    f"const turn = document.querySelectorAll('#step-{step} .walk-turn a');"
                    "return [...turn].map((a) => {"
                    "const box = a.getBoundingClientRect();"
                    "const seen = document.elementFromPoint(box.x + box.width / 2, box.bottom - 6);"
                    "return [box.height, box.bottom, a.contains(seen), box.top] })"
                )
                (tall, low, seen, top), (other_tall, other_low, other_seen, other_top) = boxes
                self.assertGreaterEqual(min(tall, other_tall), 64, size)
                self.assertEqual((low, top), (other_low, other_top), "on one edge")
                self.assertTrue(seen and other_seen, "under nothing")
                self.assertLess(size[1] - low, 90, "at the bottom")
                back = step == 3
                self.click(f"#step-{step} .walk-turn > a" if back else f"#step-{step} .walk-on a")
                there = 2 if back else 3
                self.wait_until(f"return !document.getElementById('step-{there}').hidden")

    def test_space_and_enter_turn_steps_but_not_under_the_help_and_each_way_keeps_its_own(
        self,
    ) -> None:
        self.open("/sky/walk/?way=star&step=1")
        self.press(Keys.SPACE)
        self.wait_until("return !document.getElementById('step-2').hidden")
        self.press(Keys.ENTER)
        self.wait_until("return !document.getElementById('step-3').hidden")
        self.press("?")
        self.wait_until("return document.getElementById('help').classList.contains('open')")
        self.press(Keys.SPACE)
        self.press("n")
        self.assertFalse(self.read("return document.getElementById('step-3').hidden"))
        self.press(Keys.ESCAPE)
        self.wait_until("return !document.getElementById('help').classList.contains('open')")
        self.press("2")
        self.wait_for(lambda: self.query().get("way") == ["light"])
        self.wait_ready()
        self.press("n")
        self.wait_until("return !document.getElementById('step-2').hidden")
        self.follow("#step-2 [data-way='1']")
        self.wait_until("return !document.getElementById('step-3').hidden")
        self.follow("#step-3 .walk-where a, .walk-where a")
        self.wait_until("return location.pathname === '/sky/'")

    def test_the_plan_goes_along_to_the_steps_and_to_the_card(self) -> None:
        self.open("/sky/")
        self.find("#seconds").send_keys("13 s")
        self.wait_for_text(".answer", "Stars trail")
        self.click("#to-sheet")
        self.wait_until("return location.pathname === '/cards/night/card/'")
        self.wait_ready()
        self.assertIn("13 s", self.text(".card-row"))
        self.assertIn("Hallin Top", self.text(".pocket-card h1"))
        self.driver.back()
        self.wait_until("return location.pathname === '/sky/'")
        self.wait_ready()
        self.click("#to-walk")
        self.wait_until("return location.pathname === '/sky/walk/'")
        self.wait_for_text(".walk", "Hallin Top")

    def test_the_ring_dragged_stepped_and_given_back(self) -> None:
        self.open("/sky/")
        handle = self.find("#handle-wide .index")
        ActionChains(self.driver).click_and_hold(handle).move_by_offset(-80, 0).move_by_offset(
            -80, 0
        ).perform()
        self.wait_for_text(".answer", "Stars are soft")
        self.assertNotIn("ring", self.query(), "the link waits for the drop")
        ActionChains(self.driver).release().perform()
        self.wait_for(lambda: "ring" in self.query())
        self.assertNotEqual(self.find("#ring").get_attribute("value"), "")
        self.find("#handle-wide").send_keys(Keys.END)
        self.wait_for(lambda: self.query().get("ring") == ["inf"])
        self.wait_for_text(".answer", "Stars hold")
        self.press(Keys.ESCAPE)
        self.wait_for(lambda: "ring" not in self.query())
        self.wait_for_text(".answer", "Focus on a light at")

    def test_what_tables_offer_is_taken_with_one_click(self) -> None:
        self.open("/sky/")
        self.click("#fold-margin > summary")
        self.click("#fold-margin [data-value='3']")
        self.wait_for_text("#fold-margin .chosen", "3 ×")
        self.assertEqual(self.query()["margin"], ["3"])
        self.click("#fold-tries > summary")
        self.click("#fold-tries [data-value='4']")
        self.wait_for_text("#aperture-now", "f/4")
        self.find("#foreground").send_keys("1.5 m")
        self.wait_for(lambda: self.query().get("foreground") == ["1.5 m"])
        self.click("#fold-foreground > summary")
        self.click("#fold-foreground [data-ring]")
        self.wait_for_text("#fold-foreground", "One frame has both")
        self.assertIn("ring", self.query())

    def test_a_night_is_kept_and_opened_again(self) -> None:
        self.open("/sky/")
        self.find("#foreground").send_keys("1.5 m")
        self.wait_for(lambda: self.query().get("foreground") == ["1.5 m"])
        name = self.find("#kept-name")
        name.clear()
        name.send_keys("Hut and stars")
        self.follow("#save .deed")
        self.assertIn("/sky/night/", self.driver.current_url)
        self.wait_for_text("#kept-status", "saved")
        self.open("/kept/?kind=night")
        self.assertIn("Hut and stars", self.text(".kept-list"))

    def test_bad_input_is_said_at_its_place_and_kept(self) -> None:
        self.open("/sky/")
        self.find("#margin").send_keys("0.5")
        self.wait_for_text("#message-margin", "A margin under 1")
        self.assertEqual(self.find("#margin").get_attribute("value"), "0.5")

    def test_the_screen_lights_up_no_face(self) -> None:
        """As it opens, and with everything unfolded and something wrong, wide and narrow."""
        self.in_the_dark()
        for size in (chromium.WIDE, chromium.NARROW):
            chromium.resize(self.driver, size)
            self.wait_ready()
            self.dark_enough()
        chromium.resize(self.driver, chromium.WIDE)
        self.open("/sky/?foreground=1.5+m&latitude=47&direction=N&height=40&upright=1&margin=0.1")
        self.driver.execute_script(
            "for (const fold of document.querySelectorAll('#results details')) fold.open = true"
        )
        self.wait_until("return document.querySelector('.same-scene-picture') !== null")
        self.wait_until("return document.querySelector('#fold-bag tbody tr') !== null")
        for width in (1280, 390):
            height = self.read("return document.documentElement.scrollHeight")
            chromium.resize(self.driver, (width, min(height, 6000)))
            self.dark_enough()
            self.assertEqual(self.read("return document.documentElement.scrollWidth"), width)
        chromium.resize(self.driver, chromium.WIDE)
        self.open("/sky/")
        self.find("#star_px").send_keys(Keys.CONTROL, "a")
        self.wait_until("return document.activeElement.selectionEnd > 0")
        self.dark_enough()
        for path in ("/cards/night/card/?foreground=1.5+m", "/kept/?kind=night"):
            self.open(path)
            self.dark_enough()

    def dark_enough(self) -> None:
        """Mean luminance under 3 %, and no pixel with blue or green above a tenth."""
        ActionChains(self.driver).pause(0).perform()
        shot = Image.open(io.BytesIO(self.driver.get_screenshot_as_png())).convert("RGB")
        seen = np.asarray(shot, dtype=np.float64) / 255.0
        linear = np.where(seen <= 0.04045, seen / 12.92, ((seen + 0.055) / 1.055) ** 2.4)
        luminance = linear @ np.array((0.2126, 0.7152, 0.0722))
        self.assertLess(float(luminance.mean()), 0.03)
        self.assertLessEqual(float(seen[..., 1:].max()), 0.1)
