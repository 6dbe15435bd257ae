"""Cards as they are used: chosen, and the strip dragged with a thumb and by keys."""

from __future__ import annotations

from selenium.webdriver.common.keys import Keys

from tests.browser import chromium
from tests.browser.base import BrowserTest


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
        self.follow(".card-list a")
        self.assertIn("f/11", self.text(".made-card.over"))
        self.read(
            "const one = document.querySelector('[name=f_number]'); one.value = '8';"
            "one.dispatchEvent(new Event('change', { bubbles: true }))"
        )
        self.wait_for_text(".made-card.over caption", "f/8")
        self.assertEqual(self.query()["f_number"], ["8"])
        link = self.read("return document.querySelector('.made-card.over a').href")
        self.assertIn("f_number=8", link)

    def test_the_strip_under_a_thumb_and_by_keys(self) -> None:
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        self.open("/cards/")
        self.follow(".card-list a")
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
