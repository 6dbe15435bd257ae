"""Cards as they are used: chosen, and the strip dragged with a thumb and by keys."""

from __future__ import annotations

import io
import tempfile
from pathlib import Path

import numpy as np
from PIL import Image
from selenium.webdriver.common.keys import Keys

from tests.browser import chromium
from tests.browser.base import BrowserTest
from web.bag.models import Lens


class CardsTest(BrowserTest):
    def shift(self) -> float:
        """How far the slide that is shown has gone, CSS px."""
        return float(
            self.read(
                "const one = [...document.querySelectorAll('.strip-slide')]"
                ".find((e) => e.checkVisibility());"
                "return new DOMMatrix(getComputedStyle(one).transform).e"
            )
        )

    def test_from_the_list_to_a_card_for_another_aperture(self) -> None:
        self.open("/cards/")
        self.follow("[aria-labelledby=of-lenses] li:nth-child(2) a")
        self.assertIn("f/11", self.text(".made-card.of-over"))
        self.read(
            "const one = document.querySelector('[name=f_number]'); one.value = '8';"
            "one.dispatchEvent(new Event('change', { bubbles: true }))"
        )
        self.wait_for_text(".made-card.of-over caption", "f/8")
        self.assertEqual(self.query()["f_number"], ["8"])
        link = self.read("return document.querySelector('.made-card.of-over a').href")
        self.assertIn("f_number=8", link)

    def test_the_strip_under_a_thumb_and_by_keys(self) -> None:
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        self.open("/cards/")
        self.follow("[aria-labelledby=of-lenses] li:nth-child(2) a")
        x, y = self.read(
            "const one = document.querySelector('.narrow .strip-slide');"
            "one.scrollIntoView({ block: 'center' });"
            "const box = one.getBoundingClientRect();"
            "return [box.x + 100, box.y + box.height / 2]"
        )
        for kind, at in (("touchStart", x), ("touchMove", x + 60), ("touchMove", x + 80)):
            self.driver.execute_cdp_cmd(
                "Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": at, "y": y}]}
            )
        self.driver.execute_cdp_cmd(
            "Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []}
        )
        self.wait_for(lambda: abs(self.shift() - 80) < 1)
        self.read("document.querySelector('.narrow .strip-slide').focus()")
        self.press(Keys.ARROW_LEFT)
        self.wait_for(lambda: abs(self.shift() - 78) < 1)
        self.assertEqual(
            self.read("return document.documentElement.scrollWidth <= innerWidth"), True
        )

    def test_the_one_file_from_disk_with_no_server(self) -> None:
        """Both lights, the strip by keys, and no request attempted."""
        lens = Lens.objects.get(name="20–35 mm f/4 zoom")
        text = self.client.get(f"/cards/lens/{lens.pk}/pocket.html").content
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "cards.html"
            file.write_bytes(text)
            chromium.resize(self.driver, chromium.NARROW, touch=True)
            self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
            self.driver.get(file.as_uri())
            self.wait_until("return document.fonts.status === 'loaded'")
            self.assertIn("20–35 mm f/4 zoom", self.text("body"))
            self.read("document.querySelector('.narrow .strip-slide').focus()")
            self.press(Keys.ARROW_RIGHT)
            self.wait_for(lambda: abs(self.shift() - 2) < 0.5)
            self.click("#light")
            shot = Image.open(io.BytesIO(self.driver.get_screenshot_as_png())).convert("RGB")
            self.assertLessEqual(int(np.asarray(shot)[:, :, 1:].max()), 25, "red alone")
            asked = self.read(
                "return performance.getEntriesByType('resource').map((one) => one.name)"
                ".filter((name) => !name.startsWith('data:'))"
            )
            self.assertEqual(asked, [])
            self.assertTrue(self.read("return document.body.scrollWidth <= innerWidth"))
