"""The bench in the hand: readings typed on a phone, and two files under the loupe."""

from __future__ import annotations

import tempfile
from pathlib import Path

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser import chromium
from tests.browser.base import BrowserTest
from tests.browser.test_pages import AXE
from tests.web.test_bench_frames import pair

LONG = 60
INK = (
    "const one = document.querySelector(arguments[0]);"
    "const copy = Object.assign(document.createElement('canvas'), {width: 200, height: 150});"
    "const brush = copy.getContext('2d', {willReadFrequently: true});"
    "brush.drawImage(one, 0, 0); const data = brush.getImageData(0, 0, 200, 150).data;"
    "let sum = 0; for (let k = 0; k < data.length; k += 4) sum = (sum * 31 + data[k]) % 1e9;"
    "return sum"
)


class ReadingsTest(BrowserTest):
    expected_in_console = ("422 (Unprocessable",)

    def test_five_readings_on_a_phone_and_back_without_one(self) -> None:
        chromium.resize(self.driver, chromium.NARROW)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        self.open("/bench/")
        self.read(
            "const list = document.getElementById('bench-lens');"
            "list.value = [...list.options].find((one) => one.text === '50 mm f/1.8').value"
        )
        self.follow("[name=kind][value=infinity]")
        for stood in ("2 past", "1.5 past", "2 past", "2,5 past", "40 past"):
            self.find("#stood").send_keys(stood)
            self.follow(".bench-reading .deed")
        self.assertIn("does not agree", self.text(".bench-readings"))
        self.follow(".bench-readings li:last-child .plain")
        self.assertIn("Infinity is 2° past the mark", self.text(".bench-result"))
        self.find("#stood").send_keys("everywhere")
        self.follow(".bench-reading .deed")
        self.assertIn("Write where the ring stood", self.text("#message-stood"))
        self.assertEqual(self.find("#stood").get_attribute("value"), "everywhere")
        wide = "return document.documentElement.scrollWidth <= innerWidth"
        self.assertTrue(self.read(wide), "nothing sticks out")
        small = self.read(
            "return [...document.querySelectorAll('.bench .deed, .bench .form-control')]"
            ".filter((one) => one.checkVisibility() && one.getBoundingClientRect().height < 40)"
            ".map((one) => one.outerHTML)"
        )
        self.assertEqual(small, [], "a thumb finds everything")


class LoupeTest(BrowserTest):
    def ready(self) -> None:
        """Both pictures are under the loupe."""
        WebDriverWait(self.driver, LONG, poll_frequency=0.2).until(
            lambda _: self.read(
                "const pane = document.querySelector('#loupe-two');"
                "return pane && pane.checkVisibility() && pane.width > 300"
            )
        )

    def ink(self, pane: str) -> int:
        """A sum of all that a pane shows."""
        found: int = self.driver.execute_script(INK, pane)
        return found

    def here(self) -> tuple[float, float]:
        x, y = self.read(
            "const at = document.querySelector('#loupe-here');"
            "return [+at.getAttribute('x'), +at.getAttribute('y')]"
        )
        return x, y

    def test_two_files_one_loupe_by_keys_and_by_hand(self) -> None:
        self.open("/bench/loupe/")
        self.click(".loupe-deeds .deed")
        self.wait_for_text("#loupe-said", "Choose a file.")
        with tempfile.TemporaryDirectory() as folder:
            for which in ("first", "second"):
                path = Path(folder) / f"{which}.jpg"
                path.write_bytes(pair(which))
                self.find(f"#loupe-{which}").send_keys(str(path))
            self.click(".loupe-deeds .deed")
            self.ready()
        self.assertIn("The second is sharper", self.text("#loupe-said"))
        self.assertIn("The first is softer here", self.text("#loupe-point"))
        before, was = (self.ink("#loupe-one"), self.ink("#loupe-two")), self.here()
        self.assertNotEqual(*before)
        self.read("document.querySelector('#loupe-map').focus()")
        self.press(Keys.ARROW_RIGHT)
        self.assertNotEqual(before[0], self.ink("#loupe-one"))
        self.assertNotEqual(before[1], self.ink("#loupe-two"), "it moves in both")
        self.assertAlmostEqual(self.here()[0], was[0] + 40 / 3, delta=0.5)
        self.press("+")
        self.assertEqual(self.text(".loupe-bar output"), "400 %")
        self.press(Keys.ENTER)
        self.assertEqual(len(self.driver.find_elements("css selector", ".loupe-pins li")), 1)
        moved = self.here()
        pane = self.find("#loupe-two")
        ActionChains(self.driver).drag_and_drop_by_offset(pane, -80, 0).perform()
        self.assertAlmostEqual(self.here()[0], moved[0] + 80 / 4, delta=0.6)
        self.click(".loupe-pins .plain")
        self.assertAlmostEqual(self.here()[0], moved[0], delta=0.6, msg="back at the kept point")
        self.read(
            "const map = document.querySelector('#loupe-map');"
            "const box = map.getBoundingClientRect();"
            "const at = {bubbles: true, pointerId: 1, button: 0,"
            "clientX: box.left + box.width * 0.87, clientY: box.top + box.height * 0.6};"
            "map.setPointerCapture = () => {};"
            "map.dispatchEvent(new PointerEvent('pointerdown', at))"
        )
        self.assertIn("Something moved here", self.text("#loupe-point"))
        self.driver.execute_script(AXE)
        found = self.driver.execute_async_script(
            "const done = arguments[0]; axe.run().then((r) => done(r.violations.map((v) => v.id)))"
        )
        self.assertEqual(found, [])
