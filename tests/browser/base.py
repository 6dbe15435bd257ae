"""What every browser test starts from: the application served, a real browser, its console."""

from __future__ import annotations

import json
import time
from collections.abc import Callable
from typing import Any, ClassVar
from urllib.parse import parse_qs, urlsplit

from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from selenium import webdriver
from selenium.common.exceptions import (
    ElementClickInterceptedException,
    StaleElementReferenceException,
    TimeoutException,
    WebDriverException,
)
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser import chromium
from web.demo.world import load

WAIT = 20
_EVERY = 40
"""Milliseconds."""
_LOOK = """
  const [most, every, done] = arguments;
  const found = () => { %s };
  const end = performance.now() + most;
  const look = () => {
    let there = false;
    try { there = Boolean(found()); } catch { /* not there yet */ }
    if (there || performance.now() > end) done(there); else setTimeout(look, every);
  };
  look();
"""
_FAR = """
  const all = [...document.querySelectorAll('a[href], button, input, select, textarea, summary')]
    .filter((one) => one.tabIndex >= 0 && !one.disabled && one.checkVisibility()
      && (one.type !== 'radio' || one.checked));
  const from = all.indexOf(document.activeElement);
  const to = all.findIndex((one) => one.matches(arguments[0]));
  return document.activeElement === document.body || from >= 0 ? Math.max(to - from, 0) : 0;
"""
"""About how many steps it is from what has the focus to something further on."""
_SURE = 6
"""Of these, those that are taken one by one."""


class BrowserTest(StaticLiveServerTestCase):
    """One browser for the class; each test starts with the sample world and a clean console."""

    driver: ClassVar[webdriver.Chrome]
    scripts: ClassVar[bool] = True
    expected_in_console: tuple[str, ...] = ()
    """Parts of console lines that a test provokes on purpose."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.driver = chromium.start(scripts=cls.scripts)
        cls.addClassCleanup(cls.driver.quit)

    def setUp(self) -> None:
        load()
        chromium.resize(self.driver, chromium.WIDE)
        self.driver.get(
            f"{self.live_server_url}/health/"
        )  # somewhere of this site, with no scripts
        self.driver.delete_all_cookies()
        self.driver.get_log("browser")

    def tearDown(self) -> None:
        lines = [
            line["message"]
            for line in self.driver.get_log("browser")
            if not any(part in line["message"] for part in self.expected_in_console)
        ]
        self.driver.get("about:blank")  # nothing goes on behind the next test
        self.assertEqual(lines, [], "the browser's console has complaints")

    def open(self, path: str) -> None:
        self.driver.get(self.live_server_url + path)
        self.wait_ready()

    def wait_ready(self) -> None:
        """Wait until the page's own scripts answer to keys and pointers."""
        self.wait_until(
            "return document.readyState === 'complete' && window.Alpine !== undefined"
            " && document.fonts.status === 'loaded'"
        )

    def find(self, selector: str) -> WebElement:
        return self.driver.find_element(By.CSS_SELECTOR, selector)

    def read(self, script: str) -> Any:
        """State read in one step, so that no swap can come between finding and reading."""
        return self.driver.execute_script(script)

    def text(self, selector: str) -> str:
        script = "const e = document.querySelector(arguments[0]); return e ? e.innerText : '';"
        found: str = self.driver.execute_script(script, selector)
        return found

    def wait_until(self, script: str) -> None:
        """Wait until a script returns something true. The page itself looks again and again: being
        asked from outside costs it a hundred times as much."""
        end = time.monotonic() + WAIT
        while (left := end - time.monotonic()) > 0:
            try:
                if self.driver.execute_async_script(_LOOK % script, 1000 * left, _EVERY):
                    return
            except WebDriverException:  # another page came meanwhile
                time.sleep(_EVERY / 1000)
        raise TimeoutException(script)

    def wait_quiet(self) -> None:
        """Wait until nothing has been asked for a while: the answer stays where it is."""
        self.read("window.aimBusy = performance.now()")
        self.wait_until(
            "const now = performance.now();"
            "if (document.querySelector('.htmx-request')) window.aimBusy = now;"
            "return now - window.aimBusy > 450"
        )

    def wait_for(self, condition: Callable[[], object], message: str = "") -> None:
        WebDriverWait(self.driver, WAIT, poll_frequency=0.1).until(
            lambda driver: condition(), message
        )

    def wait_for_text(self, selector: str, part: str) -> None:
        try:
            there = f"document.querySelector({json.dumps(selector)})?.innerText"
            self.wait_until(f"return {there}?.includes({json.dumps(part)})")
        except TimeoutException:
            self.assertIn(part, self.text(selector))

    def click(self, selector: str) -> None:
        """A real click; on what has just been drawn again, on the new one."""

        def clicked() -> bool:
            try:
                self.find(selector).click()
            except StaleElementReferenceException:
                return False
            except ElementClickInterceptedException:
                # Under what stays in view: scrolled out from there, as a hand would, and again.
                centred = "{ block: 'center', behavior: 'instant' }"
                self.read(f"document.querySelector({selector!r})?.scrollIntoView({centred})")
                return False
            return True

        self.wait_for(clicked, selector)

    def type_in(self, selector: str, text: str) -> None:
        """Typed over what a field holds."""
        field = self.find(selector)
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)

    def follow(self, selector: str) -> None:
        """A click that leads to another page; back when that one is there."""
        self.read("window.aimLeaving = true")
        self.click(selector)
        self.wait_for(self._arrived, f"nothing came after {selector}")

    def _arrived(self) -> bool:
        # Not by an old element going stale: asked in the middle of a change of pages, the driver
        # has been seen to fail instead of saying so. A script may fail then too: it is asked again.
        try:
            there = self.read("return !window.aimLeaving && document.readyState === 'complete'")
        except WebDriverException:
            return False
        return bool(there)

    # By keyboard --------------------------------------------------------------------------

    def query(self) -> dict[str, list[str]]:
        """What the address says."""
        return parse_qs(urlsplit(self.driver.current_url).query, keep_blank_values=True)

    def press(self, *keys: str) -> None:
        ActionChains(self.driver).send_keys(*keys).perform()

    def tab_to(self, selector: str, back: bool = False) -> None:
        """Tab until that has the focus: what the keyboard cannot reach is not there. Most of the
        way in one go: asking after every step takes longer than the steps."""
        if not back and (far := int(self.driver.execute_script(_FAR, selector))) > _SURE:
            ActionChains(self.driver).send_keys(Keys.TAB * (far - _SURE)).perform()
        for _ in range(160):
            if self.read(f"return document.activeElement?.matches({selector!r})"):
                return
            if back:
                ActionChains(self.driver).key_down(Keys.SHIFT).send_keys(Keys.TAB).key_up(
                    Keys.SHIFT
                ).perform()
            else:
                self.press(Keys.TAB)
        self.fail(f"the keyboard does not reach {selector}")
