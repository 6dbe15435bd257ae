"""Drills at a moment, and out there: timed by the clock of the page, and kept without a signal."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser.base import WAIT
from tests.browser.cut import Line
from tests.browser.test_drills import SHOWN, TOLD, WAITING, Drilled
from web.drills.models import Try

_ALL_HERE = (
    "return caches.open('aim-pages-1').then((cache) => cache.keys()).then((all) =>"
    " drill.tasks.every((t) => all.some((one) => one.url.endsWith(t.picture.src))))"
)


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
        self.assertAlmostEqual(kept["off"], kept["ms"] / 1000, delta=0.0015)  # each rounded
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


class BetweenTest(Drilled):
    """What happens while a picture is on its way, or where there is none."""

    expected_in_console = ("404 (Not Found)",)

    def test_no_key_answers_a_task_that_is_not_there_yet(self) -> None:
        self.do("distance")
        self.press(Keys.ENTER)
        self.wait_until(TOLD)
        self.read(
            "HTMLImageElement.prototype.decode = () => new Promise((go) => { window.aimGo = go; });"
            "drill.next()"
        )
        self.press(Keys.ENTER, Keys.ARROW_RIGHT, "1", " ")
        self.assertEqual(
            self.read("return [drill.at, drill.told, drill.done.length]"), [1, False, 1]
        )
        self.wait_until("return drill.picture.image.naturalWidth > 0")
        self.read("window.aimGo()")
        self.wait_until(SHOWN)
        self.press(Keys.ENTER)
        self.wait_until(TOLD)

    def test_a_task_whose_picture_is_missing_is_left_out(self) -> None:
        self.do("distance")
        self.read("drill.tasks[1].picture.src = '/drills/seen/none/'; drill.next()")
        self.wait_for_text("#said", "this one is left out")
        self.assertFalse(self.find("#set").is_displayed())
        self.press(Keys.ENTER)
        self.wait_until("return drill.at === 2")
        self.assertEqual(self.read("return drill.done.length"), 0)

    def test_a_view_that_was_only_looked_at_has_none_beside_it(self) -> None:
        for seed in range(40):
            self.do("star", seed=str(seed))
            if self.read("return drill.tasks.some((t) => t.stage === 'choice')"):
                break
        self.go_to("t.stage === 'choice'")
        self.press("1")
        self.wait_until(TOLD)
        self.assertEqual(self.read("return document.querySelectorAll('.stack').length"), 1)

    def test_what_is_no_distance_is_said_where_it_was_typed(self) -> None:
        self.do("distance")
        before = self.text(".stop-label")
        self.find(".typed").send_keys("soon")
        self.wait_for_text(".dial-line .message", "Type a number of m, such as")
        self.assertEqual(self.text(".stop-label"), before)
        self.type_in(".typed", "4 m")
        self.assertEqual(self.text(".dial-line .message"), "")
        self.assertNotEqual(self.text(".stop-label"), before)


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
        address = f"http://{host.hostname}:{line.port}/drills/focus/practice/?seed=3"
        self.driver.get(address)
        self.wait_until("return navigator.serviceWorker.controller !== null")
        self.driver.refresh()  # the worker keeps it as it is opened, with its pictures
        # Drawing them takes a machine that does other things a while.
        WebDriverWait(self.driver, 6 * WAIT).until(lambda d: d.execute_script(_ALL_HERE))
        line.cut()
        self.driver.get(address)
        self.wait_until("return document.querySelector('.taken') !== null")
        self.wait_until(SHOWN)
        self.assertGreater(self.read("return document.querySelector('.still img').naturalWidth"), 0)
        self.press(Keys.ARROW_UP, Keys.ENTER)
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
