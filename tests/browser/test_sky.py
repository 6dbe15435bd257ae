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
        self.in_the_dark()
        self.press("g")
        self.wait_until("return document.querySelector('.routine li') !== null")
        self.press("n")
        current = ".routine li[aria-current]"
        self.wait_until(f"return document.querySelector('{current}') !== null")
        first = self.text(current)
        self.press("n")
        self.wait_for(lambda: self.text(current) not in ("", first))
        self.press("p")
        self.wait_for(lambda: self.text(current) == first)
        self.press("2")
        key = "return document.querySelector('.routine:not([hidden])').dataset.key"
        self.wait_for(lambda: self.read(key) == "light")
        for _ in range(30):
            self.press("n")
        self.wait_for_text(current, "every twenty frames")
        steps = "[...document.querySelectorAll('.routine li')].filter(e => e.offsetParent)"
        self.assertEqual(self.read(f"return {steps}.length"), 1, "one step at a time")

    def test_a_night_is_kept_and_opened_again(self) -> None:
        self.open("/sky/")
        self.find("#foreground").send_keys("1.5 m")
        self.wait_for(lambda: self.query().get("foreground") == ["1.5 m"])
        name = self.find("#plan-name")
        name.clear()
        name.send_keys("Hut and stars")
        self.follow("#save .deed")
        self.assertIn("/sky/night/", self.driver.current_url)
        self.wait_for_text("#plan-status", "saved")
        self.open("/sky/nights/")
        self.assertIn("Hut and stars", self.text(".plan-list"))

    def test_bad_input_is_said_at_its_place_and_kept(self) -> None:
        self.open("/sky/")
        self.find("#margin").send_keys("0.5")
        self.wait_for_text("#message-margin", "A margin under 1")
        self.assertEqual(self.find("#margin").get_attribute("value"), "0.5")

    def test_the_screen_lights_up_no_face(self) -> None:
        """Mean luminance under 3 %, and no pixel with blue or green above a tenth."""
        self.in_the_dark()
        for size in (chromium.WIDE, chromium.NARROW):
            chromium.resize(self.driver, size)
            self.wait_ready()
            ActionChains(self.driver).pause(0).perform()
            shot = Image.open(io.BytesIO(self.driver.get_screenshot_as_png())).convert("RGB")
            seen = np.asarray(shot, dtype=np.float64) / 255.0
            linear = np.where(seen <= 0.04045, seen / 12.92, ((seen + 0.055) / 1.055) ** 2.4)
            luminance = linear @ np.array((0.2126, 0.7152, 0.0722))
            self.assertLess(float(luminance.mean()), 0.03)
            self.assertLessEqual(float(seen[..., 1:].max()), 0.1)
