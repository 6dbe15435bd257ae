"""The first five minutes: a beginner's scene on a desk, on a phone, by keyboard alone; counted.

A 1.5× crop body of 24 megapixels with a 10–18 mm zoom at 12: the nearest thing that must be sharp
is 70 cm away, the farthest as far as it goes.
"""

from __future__ import annotations

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser import chromium
from tests.browser.base import BrowserTest

ANSWER = "1.4"
MOST_STEPS, MOST_STROKES = 6, 60


class FirstSceneTest(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.steps = 0

    def step(self, selector: str) -> None:
        """A click or a tap."""
        self.steps += 1
        self.click(selector)

    def written(self, selector: str, text: str) -> None:
        """A field gone to and written over."""
        self.step(selector)
        self.type_in(selector, text)

    def chosen(self, selector: str, label: str) -> None:
        """One of a list: a click on it, another on what it offers; the page comes again."""
        self.steps += 2
        self.read("window.aimLeaving = true")
        script = (
            "const s = document.querySelector(arguments[0]);"
            "s.value = [...s.options].find((o) => o.label.startsWith(arguments[1])).value;"
            "s.dispatchEvent(new Event('change', { bubbles: true }));"
        )
        self.driver.execute_script(script, selector, label)
        self.wait_for(self._arrived)
        self.wait_ready()

    def tapped(self, typical: str, label: str) -> None:
        """One of those in plain sight: the page comes again."""
        self.steps += 1
        chips = f"return [...document.querySelectorAll('[id^={typical}-typical]')]"
        found = f".find((c) => c.checkVisibility() && c.innerText.startsWith('{label}')).id"
        self.follow("#" + self.read(chips + found))
        self.wait_ready()

    def new(self) -> None:
        self.open("/view/")
        self.follow("#new-view")
        self.wait_ready()

    def assert_answer(self) -> None:
        self.wait_for_text(".strip", "f/11")
        self.wait_for(lambda: self.text("#ring-now").startswith(ANSWER), self.text(".answer"))
        self.wait_for_text(".answer", "holds A and B")

    def by_hand(self) -> None:
        self.new()
        self.assertEqual(self.query()["camera_height"], ["eye"])
        self.written("#mark-distance-0", "0.7 m")
        self.step(".as-far")
        self.tapped("body", "APS-C, 24 MP")
        self.tapped("lens", "10–18")
        self.written("#focal_length_mm", "12")
        self.assert_answer()

    def test_on_a_desk(self) -> None:
        self.by_hand()
        self.assertLessEqual(self.steps, MOST_STEPS)
        for part in (".answer", ".marks"):
            for word in ("circle", "pixel", "px"):
                self.assertNotIn(word, self.text(part).lower())
        self.assertFalse(self.read("return document.querySelector('.why').checkVisibility()"))
        self.click(".all-of-it button")
        self.wait_for_text("main", "Why")
        self.assertEqual(self.text(".question"), "")

    def test_on_a_phone(self) -> None:
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        self.by_hand()
        self.assertLessEqual(self.steps, MOST_STEPS)
        top = "return document.querySelector('.strip').getBoundingClientRect().top"
        self.assertGreaterEqual(self.read(top), -0.5, "the answer is in view")

    def test_by_keyboard(self) -> None:
        self.new()
        self.wait_until("return document.activeElement.id === 'mark-distance-0'")
        strokes = self.stroked("#pick-body", back=True)
        strokes += self.type_ahead("APS-C, 24", "#pick-body")
        strokes += self.stroked("#pick-lens")
        strokes += self.type_ahead("10", "#pick-lens")
        strokes += self.stroked("#focal_length_mm")
        self.press("1", "2")
        strokes += 2 + self.stroked("#mark-distance-0")
        self.press(*"0.7m")
        strokes += 4 + self.stroked(".as-far")
        self.press(Keys.ENTER)
        self.assert_answer()
        self.assertLessEqual(strokes + 1, MOST_STROKES)

    def tab(self, back: bool) -> None:
        keys = ActionChains(self.driver)
        if back:
            keys = keys.key_down(Keys.SHIFT).send_keys(Keys.TAB).key_up(Keys.SHIFT)
        else:
            keys = keys.send_keys(Keys.TAB)
        keys.perform()

    def stroked(self, selector: str, back: bool = False) -> int:
        """Tab until there; how often that was."""
        there = f"return document.activeElement?.matches({selector!r}) === true"
        for count in range(40):
            if self.read(there):
                return count
            self.tab(back)
        raise AssertionError(f"{selector} is not reached")

    def type_ahead(self, label: str, selector: str) -> int:
        """Letters typed into a list, and Enter: the page comes again, the focus where it was."""
        self.read("window.aimLeaving = true")
        self.press(*label)
        self.press(Keys.ENTER)
        self.wait_for(self._arrived)
        self.wait_ready()
        self.wait_until(f"return document.activeElement?.matches({selector!r}) === true")
        chosen = self.read(f"return document.querySelector({selector!r}).selectedOptions[0].label")
        self.assertTrue(chosen.startswith(label), chosen)
        return len(label) + 1

    def test_what_is_measured_from_the_front_of_the_lens_asks_once_how_far_that_is(self) -> None:
        self.new()
        self.type_in("#mark-distance-0", "2 m")
        self.click("#mark-list [data-how=front]")
        self.wait_for_text("#message-mark-0", "taken as 0.1 m")
        self.assertTrue(self.find("#lens_front").is_displayed())
        self.assertTrue(self.find(".stands-now").is_displayed())
        self.type_in("#lens_front", "16 cm")
        self.wait_for(lambda: "taken as" not in self.text("#message-mark-0"))
        self.assertEqual(self.query()["mark_how"][0], "front")
        self.click("#mark-list [data-how=ring]")
        self.wait_for(lambda: not self.find("#lens_front").is_displayed())

    def test_too_short_a_tape_is_cured_by_where_the_camera_stands(self) -> None:
        self.new()
        self.type_in("#mark-distance-0", "0.7 m")
        self.click("#mark-list [data-how=straight]")
        self.wait_for_text(".answer", "is not counted")
        self.click(".says .cure[data-column=camera_height]")
        self.wait_until("return document.activeElement.id === 'camera_height'")
        self.type_in("#camera_height", "0.5 m")
        self.wait_for(lambda: "not counted" not in self.text(".answer"))


class InViewTest(BrowserTest):
    """Ring and aperture are in view, covered by nothing, while any mark is edited."""

    SHOWN = (
        "const box = document.querySelector('#ring-now').getBoundingClientRect();"
        "const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];"
        "return document.elementFromPoint(x, y)?.closest('#ring-now') !== null"
    )

    def test_at_both_sizes(self) -> None:
        marks = "&".join(f"mark_name=Stone+{n}&mark_distance={n + 2}+m" for n in range(24))
        for size, touch in ((chromium.WIDE, False), (chromium.NARROW, True)):
            chromium.resize(self.driver, size, touch=touch)
            self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
            self.open(f"/view/?f_number=11&focal_length_mm=24&{marks}")
            for at in range(24):
                with self.subTest(size=size, at=at):
                    field = f"#mark-distance-{at}"
                    self.read(f"document.querySelector('{field}').focus()")
                    self.wait_until(self.SHOWN)
                    seen = self.read(
                        f"const b = document.querySelector('{field}').getBoundingClientRect();"
                        "const at = document.elementFromPoint(b.left + 20, b.top + b.height / 2);"
                        f"return at?.closest('{field}') !== null"
                    )
                    self.assertTrue(seen, "and so is the mark")


class AfterwardsTest(BrowserTest):
    def test_a_trial_frame_ends_in_the_answer(self) -> None:
        self.open("/view/")
        before = self.text("#ring-now")
        self.click("#fold-trial > summary")
        self.wait_until("return document.querySelector('#soft-0-A') !== null")
        self.click("#soft-0-A")
        self.wait_for_text(".answer", "As the trial frame has it")
        self.wait_for(lambda: self.text("#ring-now") != before)
        self.wait_quiet()
        self.assertIn("holds A, B and C", self.text(".answer"))
        self.assertNotIn("Outside", self.text(".answer"))
        self.assertEqual(self.query()["trials"], ["2.6 m f/11 soft A"])
        said = self.text(".says")
        self.driver.refresh()
        self.wait_ready()
        self.assertEqual(self.text(".says"), said)
        self.click(".taken-in .back")
        self.wait_for(lambda: self.text("#ring-now") == before)

    def test_a_mark_taken_out_takes_the_trial_frames_along_and_brings_them_back(self) -> None:
        """They speak of marks by their letters: C would be another."""
        self.open("/view/?trials=2.6+m+f/11+soft+A+sharp+C&f_number=11&focal_length_mm=24"
                  "&mark_distance=1.3+m&mark_distance=4.2+m&mark_distance=180+m")  # fmt: skip
        self.wait_for_text(".answer", "As the trial frame has it")
        self.click(".markrow:nth-child(2) .remove")
        self.wait_for(lambda: len(self.query()["mark_distance"]) == 2)
        self.assertNotIn("trials", self.query())
        self.assertNotIn("trial frame", self.text(".answer"))
        self.click(".undo:not(.done) button")
        self.wait_for(lambda: "trials" in self.query())
        self.wait_for_text(".answer", "As the trial frame has it")

    def test_what_does_not_hold_is_mended_with_a_tap_and_undone_with_another(self) -> None:
        self.open("/view/")
        self.type_in("#mark-distance-0", "0.7 m")
        self.wait_for_text(".answer", "are soft")
        deeds = (
            "return [...document.querySelectorAll('.deeds-out [data-sets]')].map(b => b.innerText)"
        )
        for deed in self.read(deeds):
            with self.subTest(deed):
                number = self.read(deeds).index(deed) + 1
                self.click(f".deeds-out [data-sets]:nth-child({number})")
                self.wait_for_text(".undo.done", f"{deed}: done.")
                self.wait_for(lambda: "soft, up to" not in self.text(".answer"))
                self.click(".undo.done button")
                self.wait_for_text(".deeds-out", deed)
        self.assertEqual(self.query()["mark_distance"][0], "0.7 m")

    def test_what_applies_opens_by_itself_and_closes_when_it_no_longer_does(self) -> None:
        self.open("/view/")
        opened = "return [...document.querySelectorAll('.tools > [open]')].map((f) => f.id)"
        self.assertEqual(self.read(opened), [])
        self.type_in("#mark-distance-0", "0.7 m")
        self.wait_for_text("#out-rescue", "back does it")
        self.assertEqual(self.read(opened), ["fold-rescue"])
        self.type_in("#mark-distance-0", "1.3 m")
        self.wait_for(lambda: self.read(opened) == [])
        self.type_in("#mark-distance-0", "0.7 m")
        self.wait_for(lambda: self.read(opened) == ["fold-rescue"])
        self.click("#fold-rescue > summary")
        self.type_in("#mark-distance-0", "0.75 m")  # shut by hand, it stays shut
        self.wait_for(lambda: self.query()["mark_distance"][0] == "0.75 m")
        self.assertEqual(self.read(opened), [])

    def test_what_holds_says_how_to_check_it(self) -> None:
        self.open("/view/")
        self.click("[data-fold='fold-checks']")
        self.wait_for_text("#out-checks", "Magnify")
