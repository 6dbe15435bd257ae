"""Under stars: lists that stay dark, two frames by touch, and a phone that wakes off-line."""

from __future__ import annotations

import io
from urllib.parse import urlsplit

import numpy as np
from PIL import Image
from selenium.webdriver.common.keys import Keys

from tests import some
from tests.browser import chromium
from tests.browser.base import BrowserTest
from tests.browser.cut import Line

NIGHT = "/sky/?foreground=1.5+m&dark=4&moon=half"
UPRIGHT, ACROSS = (390, 844), (844, 390)


class DarkTest(BrowserTest):
    expected_in_console = (
        "ERR_CONNECTION_REFUSED",
        "plans-of-nobody",
        "(Not Found)",
        "414",
        "sign-out",
    )

    def dark(self, path: str) -> None:
        self.driver.add_cookie({"name": "light", "value": "dark"})
        self.open(path)

    def tap(self, selector: str) -> None:
        """A finger put down in the middle of something and lifted."""
        x, y = self.read(
            f"const one = document.querySelector({selector!r});"
            "one.scrollIntoView({ block: 'center' });"
            "const box = one.getBoundingClientRect();"
            "return [box.x + box.width / 2, box.y + box.height / 2];"
        )
        down, up = {"type": "touchStart", "touchPoints": [{"x": x, "y": y}]}, {"type": "touchEnd"}
        self.driver.execute_cdp_cmd("Input.dispatchTouchEvent", down)
        self.driver.execute_cdp_cmd("Input.dispatchTouchEvent", up | {"touchPoints": []})

    def assert_dark(self, what: str) -> None:
        """No pixel of the page with green or blue over a tenth."""
        shot = Image.open(io.BytesIO(self.driver.get_screenshot_as_png())).convert("RGB")
        self.assertLessEqual(int(np.asarray(shot)[:, :, 1:].max()), 25, what)

    def test_a_page_for_errors_is_dark_too(self) -> None:
        for path in ("/not-there/", "/sky/night/99999/", f"/sky/?{'x' * 9000}=1"):
            self.driver.add_cookie({"name": "light", "value": "dark"})
            self.driver.get(self.live_server_url + path)
            self.assert_dark(path[:20])

    def selects(self) -> list[str]:
        """The ids of all selects that are on the page, in their order."""
        found: list[str] = self.read(
            "for (const one of document.querySelectorAll('details')) one.open = true;"
            "return [...document.querySelectorAll('main select')].filter(e => e.checkVisibility())"
            ".map(e => e.id)"
        )
        return found

    def test_every_list_opened_in_the_dark_is_dark(self) -> None:
        for path in (NIGHT, "/view/", "/bag/body/new/", "/bag/lens/new/"):
            self.dark(path)
            names = self.selects()
            self.assertGreater(len(names), 2, path)
            for name in some(names, 5):
                if not self.find(f"#{name}").is_displayed():
                    continue
                with self.subTest(path, select=name):
                    where = self.read("return location.href")
                    self.click(f"#{name}")
                    self.wait_until("return document.activeElement.id === 'own-list'")
                    shown = self.read(
                        "return [...document.querySelectorAll('.own-list [role=option]')]"
                        ".map(e => e.textContent)"
                    )
                    own = f"return [...document.getElementById('{name}').options].map(e => e.text)"
                    self.assertEqual(shown, self.read(own))
                    self.assert_dark(name)
                    self.press(Keys.ESCAPE)
                    self.wait_until(f"return document.activeElement.id === '{name}'")
                    self.assertEqual(self.read("return location.href"), where, "nothing chosen")

    def test_a_list_of_our_own_by_keys(self) -> None:
        self.dark(NIGHT)
        self.wait_quiet()
        self.read("document.getElementById('moon').focus()")
        self.press(Keys.ENTER)
        self.wait_until("return document.activeElement.id === 'own-list'")
        chosen = "return document.querySelector('.own-list [aria-selected=true]').textContent"
        self.assertEqual(self.read(chosen), "half a moon")
        active = (
            "const list = document.activeElement;"
            "return document.getElementById(list.getAttribute('aria-activedescendant')).textContent"
        )
        self.press(Keys.ARROW_DOWN)
        self.assertEqual(self.read(active), "nearly full")
        self.press(Keys.HOME)
        self.assertEqual(self.read(active), "no moon")
        self.press("a f")  # letters find what begins with them
        self.assertEqual(self.read(active), "a full moon")
        self.assertEqual(self.read("return document.activeElement.ariaLabel"), "Moon")
        self.press(Keys.ENTER)
        self.wait_for(lambda: self.query().get("moon") == ["full"])
        self.assertEqual(self.read("return document.activeElement.id"), "moon")
        self.wait_for_text(".answer", "a full moon")
        self.press(Keys.SPACE)
        self.wait_until("return document.activeElement.id === 'own-list'")
        self.press(Keys.ARROW_UP)
        self.press(Keys.TAB)  # takes it, as the browser's own does
        self.wait_for(lambda: self.query().get("moon") == ["nearly-full"])

    def test_by_pointer_and_what_a_field_suggests(self) -> None:
        self.dark(NIGHT)
        self.click("#moon")
        self.click(".own-list [role=option]:nth-child(2)")
        self.wait_for(lambda: self.query().get("moon") == ["crescent"])
        self.assertEqual(self.read("return document.querySelector('.own-list')"), None)
        self.assertEqual(self.read("return document.querySelectorAll('input[list]').length"), 0)
        self.read("document.getElementById('f_number').focus()")
        self.press(Keys.ARROW_DOWN)
        self.wait_until("return document.activeElement.id === 'own-list'")
        self.assert_dark("apertures")
        self.press(Keys.ARROW_DOWN, Keys.ENTER)
        self.wait_for_text("#aperture-now", "f/2.2")
        self.click(".light .for-dark")
        self.assertGreater(self.read("return document.querySelectorAll('input[list]').length"), 0)

    def test_two_frames_walked_by_touch(self) -> None:
        for size in (UPRIGHT, ACROSS):
            with self.subTest(size):
                chromium.resize(self.driver, size, touch=True)
                self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
                self.dark(NIGHT)
                self.read("sessionStorage.clear()")
                self.follow("#to-walk")
                self.wait_ready()
                self.assertIn("Two frames", self.text(".walk-where"))
                count = int(self.read("return document.querySelectorAll('.walk-step').length"))
                said = []
                for step in range(1, count + 1):
                    here = f"#step-{step}"
                    self.wait_until(f"return !document.querySelector('{here}').hidden")
                    said.append(self.text(f"{here} h1"))
                    self.assert_turned_by_a_thumb(here, size)
                    if step < count:
                        self.tap(f"{here} .walk-on a")
                self.assert_dark("the last step")
                order = [
                    next(at for at, text in enumerate(said) if part in text)
                    for part in ("Compose", "In the last light, the ground", "Wait for the dark",
                                 "infinity again", "smallest square", "Tape", "Now the picture",
                                 "At home")
                ]  # fmt: skip
                self.assertEqual(order, sorted(order))
                for step in range(count, 1, -1):
                    self.tap(f"#step-{step} .walk-turn a")
                    self.wait_until(f"return !document.querySelector('#step-{step - 1}').hidden")

    def assert_turned_by_a_thumb(self, here: str, size: tuple[int, int]) -> None:
        """Back and Next are 64 px high, in view, and under nothing."""
        found = self.read(
            f"return [...document.querySelectorAll('{here} .walk-turn a')].map((one) => {{"
            "const box = one.getBoundingClientRect();"
            "const top = document.elementFromPoint(box.x + box.width / 2, box.bottom - 6);"
            "return [box.height, box.bottom, one === top];})"
        )
        self.assertEqual(len(found), 2)
        for height, bottom, free in found:
            self.assertGreaterEqual(height, 64)
            self.assertLessEqual(bottom, size[1])
            self.assertTrue(free, here)

    def test_what_goes_wrong_has_a_way_on_and_back(self) -> None:
        chromium.resize(self.driver, UPRIGHT, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        self.dark("/sky/walk/?way=star&step=4")
        self.tap("#step-4 .walk-if summary")
        self.wait_opened("#step-4")
        self.assertIn("A lamp far off, at 22 m or farther", self.text("#step-4 .walk-if"))
        self.open("/sky/walk/?way=star&step=9")
        self.tap("#step-9 .walk-if summary")
        self.wait_opened("#step-9")
        self.click("#step-9 .walk-if .back")
        self.wait_until("return !document.querySelector('#step-6').hidden")
        self.assertEqual(self.query()["step"], ["6"])

    def wait_opened(self, here: str) -> None:
        """Wait until what a branch says has come out from under the edge that Next stands on."""
        self.wait_until(
            f"const last = document.querySelector('{here} .walk-if li:last-child');"
            f"const turn = document.querySelector('{here} .walk-turn');"
            "return last.offsetHeight && last.getBoundingClientRect().bottom"
            " <= turn.getBoundingClientRect().top"
        )

    def test_a_phone_that_wakes_without_a_signal(self) -> None:
        host = urlsplit(self.live_server_url)
        line = Line(str(host.hostname), int(host.port or 0))
        site = f"http://{host.hostname}:{line.port}"
        self.driver.get(f"{site}/plans-of-nobody/")
        self.driver.add_cookie({"name": "light", "value": "dark"})
        self.driver.get(f"{site}/sky/walk/?foreground=1.5+m&way=two")
        self.wait_ready()
        self.wait_until("return navigator.serviceWorker.controller !== null")

        def carried() -> bool:
            urls = self.driver.execute_async_script(
                "const done = arguments[0];"
                "caches.open('aim-pages-1').then((one) => one.keys())"
                ".then((all) => done(all.map((one) => one.url)))"
            )
            return all(any(part in one for one in urls) for part in ("/walk/", "/off-line/"))

        self.wait_for(carried)
        self.press("n", "n")
        self.wait_for(lambda: self.query()["step"] == ["3"])
        heading = self.text("#step-3 h1")
        line.cut()
        self.driver.refresh()
        self.wait_ready()
        self.wait_until("return !document.querySelector('#step-3').hidden")
        self.assertEqual(self.text("#step-3 h1"), heading)
        notice = "getComputedStyle(document.querySelector('.taken'))"
        self.assertGreaterEqual(self.read(f"return parseFloat({notice}.paddingLeft)"), 8)
        self.press("n")
        self.wait_until("return !document.querySelector('#step-4').hidden")
        self.assert_dark("off-line")
        self.driver.get(f"{site}/street/")
        self.assertIn("No signal", self.text("h1"))
        self.assert_dark("off-line, for what was not kept")

    def test_who_signs_out_leaves_no_page_on_the_device(self) -> None:
        self.open("/sky/walk/?way=star")
        self.wait_until("return navigator.serviceWorker.controller !== null")
        kept = (
            "const done = arguments[0];"
            "caches.open('aim-pages-1').then((one) => one.keys())"
            ".then((all) => done(all.filter((one) => one.url.includes('/walk/')).length))"
        )
        self.wait_for(lambda: self.driver.execute_async_script(kept) >= 1)
        self.read("fetch('/you/sign-out/', { method: 'POST' })")
        self.wait_for(lambda: self.driver.execute_async_script(kept) == 0)
