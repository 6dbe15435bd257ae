"""View with one thumb at 390 × 844: the answer in view, big steps, swipes that scroll."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from tests.browser import chromium
from tests.browser.base import BrowserTest

CENTRED = (
    "document.querySelector('.sightline.narrow')"
    ".scrollIntoView({block: 'center', behavior: 'instant'})"
)
BOX = "const b = document.querySelector({0!r}).getBoundingClientRect(); return b.{1}"

SAID = "document.querySelectorAll('.more-said')"


class ThumbTest(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)

    def box(self, selector: str, side: str) -> float:
        return float(self.read(BOX.format(selector, side)))

    def assert_answer_in_view(self) -> None:
        self.assertGreaterEqual(self.box(".strip", "top"), -0.5)
        self.assertLessEqual(self.box(".strip", "height"), 160)
        self.assertLessEqual(self.box(".strip", "bottom"), 264)
        nearest = "document.elementFromPoint(60, arguments[0])?.closest('.strip') !== null"
        middle = (self.box(".strip", "top") + self.box(".strip", "bottom")) / 2
        self.assertTrue(self.driver.execute_script(f"return {nearest}", middle), "it is covered")

    def tap(self, selector: str) -> None:
        """A tap on what is in view already: nothing is scrolled to it."""
        low, high = self.box(selector, "top"), self.box(selector, "bottom")
        self.assertGreaterEqual(low, self.box(".strip", "bottom"), selector)
        self.assertLessEqual(high, self.box(".screens", "top") + 0.5, selector)
        self.assertGreaterEqual(high - low, 44)
        self.assertGreaterEqual(self.box(selector, "width"), 44)
        x = (self.box(selector, "left") + self.box(selector, "right")) / 2
        self.touch("touchStart", x, (low + high) / 2)
        self.touch("touchEnd")

    def touch(self, kind: str, x: float = 0, y: float = 0) -> None:
        points: list[Any] = [] if kind == "touchEnd" else [{"x": x, "y": y}]
        self.driver.execute_cdp_cmd(
            "Input.dispatchTouchEvent", {"type": kind, "touchPoints": points}
        )

    def test_every_target_is_as_big_as_a_thumb_with_all_folds_open(self) -> None:
        script = Path(__file__).with_name("targets.js").read_text()
        opened = "for (const fold of document.querySelectorAll('main details')) fold.open = true;"
        waits = (
            "return [...document.querySelectorAll('main details')].every(d => {"
            " const out = d.querySelector('[data-out]');"
            " return out ? out.children.length > 0 : d.children.length > 1; })"
        )
        for path, least in (("/view/", 100), ("/street/", 50), ("/sky/", 50)):
            with self.subTest(path):
                self.open(path)
                self.read(opened)
                self.wait_until(waits)
                self.wait_quiet()
                self.read(opened)
                self.read(f"{SAID}.forEach(m => m.classList.add('open'))")
                found = self.read(script)
                self.assertGreater(found["count"], least)
                self.assertEqual(found["small"], [])
                self.assertEqual(found["near"], [])

    def test_one_aperture_and_one_distance_in_two_taps_without_scrolling(self) -> None:
        self.open("/view/")
        before = self.text("#ring-now")
        self.tap(".markrow:nth-child(2) .step[data-step='-1']")
        self.wait_until("return document.querySelector('#mark-distance-1').value === '4.1 m'")
        self.assert_answer_in_view()
        self.tap(".in-hand .steppers [data-step='1']")
        self.wait_for_text("#aperture-now", "f/13")
        self.assert_answer_in_view()
        self.assertEqual(self.read("return window.scrollY"), 0)
        self.assertTrue(before)
        self.assertEqual(self.query()["mark_distance"][1], "4.1 m")
        self.assertEqual(self.query()["f_number"], ["13"])

    def test_what_the_keyboard_of_figures_has_not_stands_beside_the_figure(self) -> None:
        self.open("/view/")
        self.click("#mark-distance-1")
        keyboard = "return document.activeElement.inputMode"
        self.assertEqual(self.read(keyboard), "decimal")
        row = self.box("[data-row]:nth-child(3)", "top")
        self.driver.switch_to.active_element.send_keys("5")
        self.tap("[data-unit='km']")
        self.wait_for(lambda: "5 km" in self.query().get("mark_distance", ()))
        self.assertEqual(self.box("[data-row]:nth-child(3)", "top"), row)
        self.assertLessEqual(self.box(".unit-keys", "right"), chromium.NARROW[0])
        self.tap(".unit-keys [aria-label='Letters']")
        self.wait_for(lambda: self.read(keyboard) == "text")
        self.assertEqual(self.read("return document.activeElement.id"), "mark-distance-1")
        self.tap("[data-row]:nth-child(3) [data-step='1']")
        self.wait_for(lambda: self.query()["mark_distance"][2] != "180 m")
        self.assertFalse(self.find(".unit-keys").is_displayed())

    def test_quick_taps_all_count(self) -> None:
        self.open("/view/")
        for _ in range(5):
            self.tap(".markrow:nth-child(1) .step[data-step='1']")
        self.wait_until("return document.querySelector('#mark-distance-0').value === '1.8 m'")
        self.wait_for(lambda: self.query()["mark_distance"][0] == "1.8 m")

    def test_the_answer_stays_in_view_while_any_mark_is_edited(self) -> None:
        self.open("/view/")
        for at in range(5):
            with self.subTest(at=at):
                self.read(f"document.getElementById('mark-distance-{at}').focus()")
                self.assert_answer_in_view()
                selected = (
                    "const e = document.activeElement;"
                    "return e.value.slice(e.selectionStart, e.selectionEnd)"
                )
                value = self.read(f"return document.getElementById('mark-distance-{at}').value")
                self.assertEqual(self.read(selected), value, "the whole figure")
                self.press("2.5 m")
                self.wait_quiet()
                self.assert_answer_in_view()

    def test_worst_is_said_in_the_strip(self) -> None:
        self.open("/view/")
        self.wait_for_text(".strip .worst", "A holds")
        self.type_in("#mark-distance-0", "0.7 m")
        self.wait_for_text(".strip .worst", "soft")
        self.type_in("#mark-distance-0", "near")
        self.wait_for_text(".strip .worst", "not counted")

    def test_a_swipe_over_the_handle_scrolls_and_a_sideways_one_turns_the_ring(self) -> None:
        self.open("/view/")
        self.read(CENTRED)
        handle = ".sightline.narrow .grip"
        x = self.box(handle, "left") + self.box(handle, "width") / 2
        y = self.box(handle, "top") + self.box(handle, "height") / 2
        at, ring = self.read("return window.scrollY"), self.text("#ring-now")
        self.touch("touchStart", x, y)
        for step in range(1, 9):
            self.touch("touchMove", x + step % 2, y - 15 * step)
        self.touch("touchEnd")
        self.wait_for(lambda: self.read("return window.scrollY") > at + 40)
        self.wait_quiet()
        self.assertEqual(self.text("#ring-now"), ring)
        self.read(CENTRED)
        y = self.box(handle, "top") + self.box(handle, "height") / 2
        self.touch("touchStart", x, y)
        for step in range(1, 9):
            self.touch("touchMove", x - 9 * step, y + step % 2)
        self.touch("touchEnd")
        self.wait_for(lambda: self.text("#ring-now") != ring, "the ring was turned")
