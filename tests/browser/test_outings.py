"""An outing on phones, with the server stopped: logged by thumb, joined with a line again."""

from __future__ import annotations

from urllib.parse import urlsplit

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser import chromium
from tests.browser.base import WAIT, BrowserTest
from tests.browser.cut import Line
from web.outings.log import conflicts
from web.outings.models import Outing

PHONE = (390, 844)
_PASSWORD = "a slab of slate 9"
_WAITING = "return Object.keys(localStorage).filter((one) => one.startsWith('aim-log:')).length"


class OutThereTest(BrowserTest):
    expected_in_console = ("ERR_CONNECTION_REFUSED", "ERR_FAILED", "(Not Found)", "ERR_EMPTY",
                           "ERR_CONNECTION_RESET", "(Unprocessable")  # fmt: skip

    def setUp(self) -> None:
        super().setUp()
        chromium.resize(self.driver, PHONE, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        self.host = urlsplit(self.live_server_url)
        self.line = self.new_line()

    def new_line(self) -> Line:
        return Line(str(self.host.hostname), int(self.host.port or 0))

    def again(self, line: Line) -> Line:
        """A line where one was cut: the address on the phone is the same."""
        return Line(str(self.host.hostname), int(self.host.port or 0), line.port)

    def address(self, path: str) -> str:
        return f"http://{self.host.hostname}:{self.line.port}{path}"

    def test_two_phones_log_without_a_signal_and_nothing_is_lost_or_twice(self) -> None:
        other = chromium.start()
        self.addCleanup(other.quit)
        chromium.resize(other, PHONE, touch=True)
        phones = (self.driver, other)
        self.driver.get(self.address("/you/join/"))
        for name, text in (
            ("username", "Marlo"),
            ("password1", _PASSWORD),
            ("password2", _PASSWORD),
        ):
            self.driver.find_element(By.NAME, name).send_keys(text)
        self.driver.find_element(By.NAME, "password2").send_keys(Keys.ENTER)
        self.wait_until("return !location.pathname.endsWith('/join/')")
        outing = Outing.objects.exclude(owner__is_sample=True).get(name="Sallow Pit, low sun")
        before = outing.entries.count()
        cookies = self.driver.get_cookies()
        other.get(self.address("/off-line/"))
        for one in cookies:
            other.add_cookie({key: one[key] for key in ("name", "value", "path")})
        there = f"/outings/{outing.pk}/there/"
        for phone in phones:
            phone.get(self.address(there))
            self.until(phone, "return navigator.serviceWorker.controller !== null", 3 * WAIT)
            phone.refresh()  # the worker keeps it as it is opened
            self.until(
                phone, "return document.getElementById('there-line').textContent === 'all sent'"
            )
        self.line.cut()
        for phone, taps in ((self.driver, 3), (other, 2)):
            phone.get(self.address(there))  # from the phone: there is no server
            self.until(phone, "return document.querySelector('.taken') !== null")
            for _ in range(taps):
                self.tap(phone, "[data-log=taken]")
            self.tap(phone, "[data-log=knocked]")
            again = phone.find_element(By.ID, "there-again")
            self.assertEqual(again.text, "The ring may have been knocked: check again.")
        self.tap(self.driver, ".there-plan:not([hidden]) [data-end=nearest][data-says=soft]")
        self.tap(other, ".there-plan:not([hidden]) [data-end=nearest][data-says=just]")
        self.assertEqual([phone.execute_script(_WAITING) for phone in phones], [5, 4])
        self.assertIn("5 kept on this device, not sent yet", self.text("#there-line"))
        self.assertEqual(outing.entries.count(), before)
        # The phone goes dark and is opened again, still without a line: all of it is there.
        self.driver.get(self.address(there))
        self.until(self.driver, "return document.querySelectorAll('#there-list li').length > 5")
        self.assertEqual(self.driver.execute_script(_WAITING), 5)
        self.line = self.again(self.line)
        for phone in phones:
            phone.execute_script("dispatchEvent(new Event('online'))")
        for phone in phones:
            self.until(phone, f"{_WAITING} === 0")
            phone.get(self.address(there))
            self.until(
                phone, "return document.getElementById('there-line').textContent === 'all sent'"
            )
        entries = list(outing.entries.all())
        self.assertEqual(len(entries), before + 9)
        self.assertEqual(len({one.key for one in entries}), before + 9)
        # What contradicts itself stands side by side, and is settled with one tap.
        self.assertEqual(len(conflicts(entries)), 1)
        self.tap(self.driver, "#there-both a")
        self.until(self.driver, "return document.querySelector('.log-both') !== null")
        self.assertIn("Two devices say different things", self.text("main"))
        self.driver.find_element(By.CSS_SELECTOR, ".log-both button").click()
        self.until(self.driver, "return document.querySelector('.log-both') === null")
        self.assertEqual(conflicts(outing.entries.all()), [])

    def until(self, phone: webdriver.Chrome, script: str, seconds: int = WAIT) -> None:
        if not script.startswith("return"):
            script = f"return {script}"
        WebDriverWait(phone, seconds).until(lambda one: one.execute_script(script), script)

    def tap(self, phone: webdriver.Chrome, selector: str) -> None:
        phone.find_element(By.CSS_SELECTOR, selector).click()

    def at_the_sample(self) -> Outing:
        outing = Outing.objects.get(owner__is_sample=True, name="Sallow Pit, low sun")
        self.driver.get(self.address(f"/outings/{outing.pk}/there/"))
        self.wait_ready()
        return outing

    def said(self) -> list[str]:
        found: list[str] = self.read(
            "return [...document.querySelectorAll('#there-list li span')].map((e) => e.textContent)"
        )
        return found

    def test_taken_along_with_one_tap_all_of_it_opens_without_the_server(self) -> None:
        outing = Outing.objects.get(owner__is_sample=True, name="Sallow Pit, low sun")
        self.driver.get(self.address(f"/outings/{outing.pk}/"))
        self.wait_ready()
        self.until(self.driver, "return navigator.serviceWorker.controller !== null", 3 * WAIT)
        self.click(f"[data-along='outing-{outing.pk}']")
        self.wait_for_text(f"[data-along='outing-{outing.pk}']", "On this device,")
        self.line.cut()
        self.driver.get(self.address("/outings/"))
        self.until(self.driver, "return document.querySelectorAll('#along-list a').length === 3")
        self.tap(self.driver, "#along-list a[aria-label^='There']")
        self.until(self.driver, "return document.getElementById('there') !== null")
        self.tap(self.driver, "[data-log=taken]")
        self.assertIn("1 kept on this device, not sent yet", self.text("#there-line"))
        self.tap(self.driver, ".there-plan:not([hidden]) .there-ways a")
        self.until(self.driver, "return document.querySelector('.field-page') !== null")
        self.assertIn("2.6", self.text(".field-ring"))
        # With a line again, any page of outings sends what waits.
        self.line = self.again(self.line)
        self.driver.get(self.address(f"/outings/{outing.pk}/after/"))
        self.wait_for_text("#log-sent", "1 logged on this device was sent just now.")
        own = Outing.objects.exclude(owner__is_sample=True).get(copied_from=outing.pk)
        self.assertEqual(own.entries.count(), outing.entries.count() + 1)

    def test_by_keyboard_and_with_a_way_back(self) -> None:
        self.at_the_sample()
        count = len(self.said())
        self.press("f")
        self.wait_for(lambda: len(self.said()) == count + 1)
        self.press("z")
        self.wait_for(lambda: len(self.said()) == count)
        name = self.text(".there-plan:not([hidden]) b")
        self.press("n")
        self.wait_for(lambda: self.text(".there-plan:not([hidden]) b") != name)
        self.press("p")
        self.wait_for(lambda: self.text(".there-plan:not([hidden]) b") == name)

    def test_what_differed_notes_judging_and_the_clock(self) -> None:
        self.at_the_sample()
        self.find("#there-differed").send_keys("f/8")
        self.click("[data-log=taken]")
        self.click("[data-open=there-note]")
        self.find("#there-text").send_keys("Reeds still moving")
        self.click("#there-note button")
        self.click(".there-more summary")
        self.click("#there-judged button")
        self.assertIn("Give both", self.text("#there-judged"))
        for name, text in (("judged", "3 m"), ("was", "2.6 m")):
            self.find(f"#there-judged [name={name}]").send_keys(text)
        self.click("#there-judged button")
        self.click("#there-clock summary")
        self.wait_until(
            "return /^[0-9:]{8}$/.test(document.getElementById('there-time').textContent)"
        )
        self.click("[data-log=clock]")
        self.wait_for(lambda: "clock photographed" in " ".join(self.said()))
        self.assertIn("distance judged: 3 m, was 2.6 m", " ".join(self.said()))
        self.assertIn("note: Reeds still moving", " ".join(self.said()))
        self.assertIn("frame taken: f/8", " ".join(self.said()))
        self.wait_until(f"{_WAITING} === 0")
        own = Outing.objects.exclude(owner__is_sample=True).get(name="Sallow Pit, low sun")
        self.assertEqual(own.entries.filter(what="judged").count(), 1)

    def test_reminded_by_waves_and_a_device_that_is_full(self) -> None:
        self.at_the_sample()
        self.click(".there-plan:not([hidden]) [data-end=nearest][data-says=holds]")
        self.wait_until("return document.getElementById('there-again').hidden")
        for _ in range(3):
            self.click("[data-log=wave]")
        self.assertIn("Check again: 3 waves", self.text("#there-again"))
        self.wait_until(f"{_WAITING} === 0")
        self.read(
            "Storage.prototype.setItem = () => {"
            " throw new DOMException('', 'QuotaExceededError'); }"
        )
        self.click("[data-log=wiped]")
        self.assertIn("No room on this device: that was not kept", self.text("#there-line"))

    def test_an_outing_deleted_meanwhile_says_so_and_gives_its_log_out(self) -> None:
        sample = self.at_the_sample()
        self.click("[data-log=taken]")
        self.wait_until(f"{_WAITING} === 0")
        own = Outing.objects.exclude(owner__is_sample=True).get(copied_from=sample.pk)
        own.delete()
        self.click("[data-log=wiped]")
        self.wait_for(
            lambda: "This outing was deleted. 1 kept on this device" in self.text("#there-line")
        )
        self.assertTrue(self.find("[data-save]").is_displayed())
