"""Files that come home in a browser, and what is found out of a frame there."""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.base import BrowserTest
from tests.imaging import drawn
from web.outings.models import Outing


class HomeTest(BrowserTest):
    """Files that come home, on a wide screen."""

    expected_in_console = ("(Unprocessable", "(Not Found)")

    def files(self, count: int, broken: int) -> list[str]:
        folder = Path(tempfile.mkdtemp())
        found = []
        for at in range(count):
            path = folder / f"home-{at:02d}.jpg"
            path.write_bytes(drawn.file(drawn.edge(2.0 + at)) if at >= broken else b"no picture")
            found.append(str(path))
        return found

    def choose(self, paths: list[str]) -> None:
        self.driver.find_element(By.CSS_SELECTOR, "[data-files][name=file]").send_keys(
            "\n".join(paths)
        )

    def test_files_are_read_one_by_one_and_passed_over_the_second_time(self) -> None:
        self.open("/outings/")
        self.find("#outing-name").send_keys("Home")
        self.follow(".outing-new button")
        outing = Outing.objects.get(name="Home")
        self.open(f"/outings/{outing.pk}/after/")
        paths = self.files(5, broken=2)
        self.choose(paths)
        self.wait_for_text(".after-says", "5 frames home")  # the page comes anew by itself
        self.assertIn("2 cannot be read", self.text(".after-says"))
        self.assertEqual(outing.frames.filter(wrong="").count(), 3)
        self.follow(".frames-only a[href='?only=broken']")
        self.assertIn("home-00.jpg", self.text(".frames-list"))
        self.choose(paths)
        self.wait_for(lambda: "All of these were read before" in self.text(".after-bar"))
        self.assertEqual(outing.frames.count(), 5)

    def test_a_mark_is_pointed_at_and_it_is_found_out_why(self) -> None:
        frame = Outing.objects.get(name="Sallow Pit, low sun").frames.get(name="pit-03.jpg")
        self.open(f"/outings/frames/{frame.pk}/")
        self.assertIn("Focused too near", self.text(".frame-fell"))
        self.assertIn("Set the ring to 2.6 m", self.text("#frame-said"))
        self.click("[name=letter][value=C]")
        before: Any = self.read("return document.querySelector('[data-letter=C]').dataset.x")
        self.find("#frame-map").send_keys(Keys.ARROW_RIGHT)
        self.wait_until("return !document.querySelector('.frame-cross').hidden")
        self.find("#frame-map").send_keys(Keys.ENTER)
        self.wait_for(
            lambda: (
                self.read("return document.querySelector('[data-letter=C]').dataset.x") != before
            )
        )
        self.assertIn("C Tip ridge", self.text("#frame-said"))
        # Its file and another under one loupe: both move together.
        sharp, soft = (tempfile.mkdtemp() + f"/{n}.jpg" for n in (1, 2))
        for path, disc in ((sharp, 2.0), (soft, 9.0)):
            Path(path).write_bytes(drawn.file(drawn.edge(disc, size=(900, 600))))
        for which, path in enumerate((sharp, soft)):
            self.driver.find_element(By.CSS_SELECTOR, f"[data-loupe='{which}']").send_keys(path)
        seen = (
            "return [...document.querySelectorAll('.frame-panes canvas')].map((c) => c.toDataURL())"
        )
        self.wait_until(
            "return document.querySelectorAll('.frame-panes span:not([hidden])').length === 2"
        )
        self.wait_for(lambda: len(set(self.read(seen))) == 2)
        before_both = self.read(seen)
        self.click("[name=enlarged][value='2']")
        self.wait_for(
            lambda: all(a != b for a, b in zip(self.read(seen), before_both, strict=True))
        )
        before_both = self.read(seen)
        self.find("#frame-map").send_keys(Keys.SHIFT + Keys.ARROW_UP)
        self.wait_for(
            lambda: all(a != b for a, b in zip(self.read(seen), before_both, strict=True))
        )
        self.press("p")
        self.wait_until("return document.querySelector('h1').textContent === 'pit-02.jpg'")
        self.assertIn("It holds", self.text(".frame-fell"))
