"""Drills at a moment, and out there: timed by the clock of the page, and kept without a signal."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from selenium.webdriver.common.by import By

from tests.browser.cut import Line
from tests.browser.test_drills import SHOWN, TOLD, WAITING, Drilled
from web.drills.models import Try


class MomentTest(Drilled):
    def test_a_finger_is_timed_by_the_clock_of_the_page(self) -> None:
        """With a server that does not answer at all."""
        self.do("moment")
        self.read("window.fetch = () => new Promise(() => {})")
        self.go_to("t.part === 'seen'")
        late, kept = self.driver.execute_async_script(
            "const done = arguments[0]; const wait = () => {"
            " if (!(drill.stage.since > 0)) return requestAnimationFrame(wait);"
            " const since = drill.stage.since; const press = () => {"
            "  if (performance.now() - since < 240) return setTimeout(press, 2);"
            "  const late = performance.now() - since;"
            "  document.querySelector('.shutter').dispatchEvent(new PointerEvent('pointerdown'));"
            "  const name = Object.keys(localStorage).find((one) => one.startsWith('aim-try:'));"
            "  done([late, JSON.parse(localStorage.getItem(name))]); }; press(); }; wait();"
        )
        self.assertGreaterEqual(late, 240)
        self.assertAlmostEqual(kept["ms"], late, delta=4)
        self.assertAlmostEqual(kept["off"], kept["ms"] / 1000, delta=0.001)
        self.assertEqual(kept["right"], late <= 350)

    def test_too_early_is_a_guess_and_never_is_late(self) -> None:
        self.do("moment")
        self.go_to("t.part === 'seen'")
        self.press(" ")
        self.wait_until(TOLD)
        self.assertIn("a guess", self.text("#said"))

    def test_a_walker_is_caught_in_the_tile(self) -> None:
        self.do("moment")
        self.go_to("t.svg")
        self.wait_until(
            "return drill.stage.since > 0 &&"
            " performance.now() - drill.stage.since >= drill.task.best * drill.task.step"
        )
        self.press(" ")
        self.wait_until(TOLD)
        self.assertRegex(self.text("#said"), "Caught at")

    def test_who_wants_no_motion_sees_steps(self) -> None:
        reduce = [{"name": "prefers-reduced-motion", "value": "reduce"}]
        self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": reduce})
        self.addCleanup(self.driver.execute_cdp_cmd, "Emulation.setEmulatedMedia", {"features": []})
        self.do("moment")
        self.go_to("t.svg")
        self.wait_until("return drill.stage.since > 0")
        places = self.driver.execute_async_script(
            "const done = arguments[0]; const seen = new Set(); const begin = performance.now();"
            "const look = () => {"
            " seen.add(document.querySelector('.somebody').getAttribute('transform'));"
            " if (performance.now() - begin < 1200) requestAnimationFrame(look);"
            " else done(seen.size); };"
            "look();"
        )
        self.assertLessEqual(places, 5)


class OffLineTest(Drilled):
    expected_in_console = (
        "ERR_CONNECTION_REFUSED",
        "ERR_FAILED",
        "ERR_EMPTY",
        "ERR_CONNECTION_RESET",
    )

    def test_opened_once_a_drill_goes_on_without_a_signal(self) -> None:
        host = urlsplit(self.live_server_url)
        line = Line(str(host.hostname), int(host.port or 0))
        address = f"http://{host.hostname}:{line.port}/drills/blur/practice/?seed=3"
        self.driver.get(address)
        self.wait_until("return navigator.serviceWorker.controller !== null")
        self.driver.refresh()  # the worker keeps it as it is opened, with its pictures
        self.wait_until(
            "return caches.open('aim-pages-1').then((cache) => cache.keys()).then((all) =>"
            " drill.tasks.every((t) => [t.picture.src, t.picture.after].every((src) =>"
            "  all.some((one) => one.url.endsWith(src)))))"
        )
        line.cut()
        self.driver.get(address)
        self.wait_until("return document.querySelector('.taken') !== null")
        self.wait_until(SHOWN)
        self.assertGreater(self.read("return document.querySelector('.still img').naturalWidth"), 0)
        self.press("1")
        self.wait_until("return document.querySelectorAll('.choices').length === 2")
        self.press("1")
        self.wait_until(TOLD)
        self.wait_for_text("#line", "1 kept on this device, not sent yet")
        before = Try.objects.count()
        line = Line(str(host.hostname), int(host.port or 0), line.port)
        self.read("dispatchEvent(new Event('online'))")
        self.wait_until(f"{WAITING} === 0")
        self.assertEqual(Try.objects.count(), before + 1)
        line.cut()

    def test_what_was_guessed_in_the_field_is_kept_and_mended(self) -> None:
        self.open("/drills/field/")
        self.find("#field-said").send_keys("3 m")
        self.click(".field-form button")
        self.assertIn("Give both", self.text(".field-form .message"))
        self.find("#field-was").send_keys("soon")
        self.click(".field-form button")
        self.wait_for_text("#field-line", "mend it below")
        self.driver.find_element(By.CSS_SELECTOR, "#field-list button").click()
        self.assertEqual(self.read("return document.getElementById('field-was').value"), "soon")
        self.type_in("#field-was", "2.6 m")
        self.click(".field-form button")
        kept: Any = self.sent(1)[0]
        self.assertEqual((kept.said_mm, kept.was_mm, kept.way), (3000.0, 2600.0, "paced"))
        self.wait_for_text("#field-line", "all sent")
