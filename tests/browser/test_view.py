"""View as its users drive it: mouse, finger, keyboard, typing, saving, coming back."""

from __future__ import annotations

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser import chromium
from tests.browser.base import BrowserTest

VERDICTS = "return [...document.querySelectorAll('.markrow .verdict b')].map(e => e.innerText)"


class ViewTest(BrowserTest):
    def handle_x(self) -> float:
        return float(
            self.read(
                "const b = document.querySelector('.sightline.wide .index')"
                ".getBoundingClientRect(); return b.left + b.width / 2"
            )
        )

    def test_the_first_thing_read_is_the_answer(self) -> None:
        self.open("/")
        self.assertIn("2.6", self.text("#ring-now"))
        self.assertIn("f/11", self.text(".answer"))
        self.assertIn("Anywhere from 2.2 to 2.8 m holds A, B and C.", self.text(".says"))
        self.assertIn("Sharp from 1.2 m to ∞", self.text(".says"))
        self.assertEqual(self.read(VERDICTS), ["holds", "holds", "holds", "soft"])
        top = self.read("return document.querySelector('.answer').getBoundingClientRect().bottom")
        self.assertLess(top, 300, "the answer stands at the top of the page")

    def test_dragging_the_handle_changes_every_verdict_and_a_click_gives_it_back(self) -> None:
        self.open("/view/")
        handle = self.find("#handle-wide .index")
        start = self.handle_x()
        ActionChains(self.driver).click_and_hold(handle).move_by_offset(-150, 0).move_by_offset(
            -150, 0
        ).perform()
        self.wait_for_text(".answer", "Ring set by hand")
        self.wait_until(
            "return document.querySelectorAll('.markrow .verdict b')[2].innerText === 'soft'"
        )
        self.assertNotIn("ring", self.query(), "the link waits for the drop")
        ActionChains(self.driver).release().perform()
        self.wait_for(lambda: "ring" in self.query())
        self.assertLess(self.handle_x(), start - 200)
        self.assertEqual(self.read("return document.activeElement.id"), "handle-wide")
        verdicts = self.read(VERDICTS)
        self.assertEqual(verdicts[2], "soft")
        self.assertIn("Outside 2.2 to 3.2 m", self.text(".says"))
        self.click(".back")
        self.wait_for(lambda: "ring" not in self.query())
        self.assertIn("Set the ring to", self.text(".answer"))
        self.assertIn("2.6", self.text("#ring-now"))

    def test_arrow_keys_turn_the_ring_and_escape_gives_it_back(self) -> None:
        self.open("/view/")
        self.driver.execute_script("document.getElementById('handle-wide').focus()")
        keys = ActionChains(self.driver)
        keys.send_keys(Keys.ARROW_RIGHT).perform()
        self.wait_for_text("#ring-now", "2.7")
        self.assertEqual(self.read("return document.activeElement.id"), "handle-wide")
        keys.send_keys(Keys.ARROW_LEFT).perform()
        self.wait_for_text("#ring-now", "2.6")
        ActionChains(self.driver).send_keys(Keys.END).perform()
        self.wait_for_text("#ring-now", "∞")
        self.wait_for(lambda: self.query().get("ring") == ["inf"])
        self.assertEqual(self.read("return document.getElementById('ring').value"), "inf")
        ActionChains(self.driver).send_keys(Keys.ESCAPE).perform()
        self.wait_for(lambda: "ring" not in self.query())
        self.wait_for_text("#ring-now", "2.6")

    def test_a_key_pressed_the_moment_the_ring_is_seen_starts_from_there(self) -> None:
        self.open("/view/")
        self.read(
            "const text = () => document.getElementById('ring-now').innerText;"
            "const press = (key) => document.getElementById('handle-wide')"
            ".dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true}));"
            "window.aimSeen = [];"
            "new MutationObserver(() => {"
            "  if (window.aimSeen.at(-1) !== text()) window.aimSeen.push(text());"
            "  if (window.aimSeen.length === 1 && text().includes('2.7')) press('ArrowLeft');"
            "}).observe(document.body, {childList: true, subtree: true});"
            "press('ArrowRight');"
        )
        self.wait_for(lambda: "ring" in self.query())
        self.assertEqual(self.read("return window.aimSeen"), ["2.7m", "2.6m"])

    def test_typing_a_distance_in_feet_into_metres(self) -> None:
        self.open("/view/")
        self.type_in("#mark-distance-0", "4' 3\"")
        self.wait_for(lambda: self.query().get("mark_distance", [""])[0] == "4' 3\"")
        self.assertEqual(self.read(VERDICTS)[0], "holds")
        self.type_in("#mark-distance-0", "3ft")
        self.wait_until("return document.querySelector('#verdict-0 b').innerText === 'soft'")
        self.assertIn("No setting holds A, B and C at f/11", self.text(".says"))
        self.assertIn("f/14", self.text(".deeds-out"))

    def test_choosing_feet_changes_the_reading_and_no_distance(self) -> None:
        self.open("/view/")
        self.type_in("#mark-distance-1", "5")
        self.wait_for(lambda: self.query().get("mark_distance", ["", ""])[1] == "5")
        self.click(".units a")
        self.wait_for_text(".units b", "feet")
        self.wait_ready()
        self.assertIn("8½", self.text("#ring-now"))
        self.assertEqual(
            self.read("return document.getElementById('mark-distance-1').value"), "5 m"
        )
        self.type_in("#mark-distance-1", "14")
        self.wait_for(lambda: self.query().get("mark_distance", ["", ""])[1] == "14")
        self.assertIn("Anywhere from", self.text(".says"))

    def test_aperture_steps_by_button_and_by_key_and_the_link_reproduces_it(self) -> None:
        self.open("/view/")
        self.click(".steppers [data-step='1']")
        self.wait_for_text(".answer", "f/13")
        self.click("#marks-title")
        ActionChains(self.driver).send_keys("]").perform()
        self.wait_for_text(".answer", "f/14")
        ActionChains(self.driver).send_keys("[[[").perform()
        self.wait_for_text(".answer", "f/10")
        ActionChains(self.driver).send_keys("2").perform()
        self.wait_for(lambda: self.query().get("place") == ["hyperfocal"])
        link = self.driver.current_url
        said = self.text(".answer")
        other = chromium.start()
        self.addCleanup(other.quit)
        other.get(link)
        self.assertEqual(
            other.execute_script("return document.querySelector('.answer').innerText"), said
        )

    def test_a_key_chooses_a_way_and_all_are_compared(self) -> None:
        self.open("/view/")
        ActionChains(self.driver).send_keys("4").perform()
        self.wait_for_text(".answer", "Set the ring to\n2.2")
        self.click("#fold-ways summary")
        self.wait_for_text(".ways-table .chosen", "A third up")
        self.assertIn("not B and C", self.text(".ways-table"))
        self.click(".stands summary")
        self.type_in("#camera_height", "high")
        self.wait_for_text("#message-camera_height", "not understood")

    def test_marks_are_added_removed_and_put_back(self) -> None:
        self.open("/view/")
        ActionChains(self.driver).send_keys("n").perform()
        ActionChains(self.driver).send_keys("Heron", Keys.TAB, "9 m").perform()
        self.wait_until("return document.querySelector('#verdict-4 b')?.innerText === 'holds'")
        self.assertEqual(self.read("return document.querySelectorAll('[data-row]').length"), 6)
        self.click(".markrow:nth-child(2) .remove")
        self.wait_for(
            lambda: (
                self.query().get("mark_name", [])
                == ["Slate slab", "Tip ridge", "Reed tuft", "Heron"]
            )
        )
        self.assertIn("Removed Winch wheel.", self.text(".undo:not(.done)"))
        self.click(".undo:not(.done) button")
        self.wait_for(lambda: len(self.query().get("mark_name", [])) == 5)
        self.assertEqual(self.query()["mark_name"][1], "Winch wheel")

    def test_no_marks_is_the_commonest_tool_of_all(self) -> None:
        self.open("/view/")
        self.click("#new-view")
        self.wait_for_text(".says", "holds infinity")
        self.wait_ready()
        self.assertIn("2.2", self.text("#ring-now"))
        self.click(".all-of-it button")
        self.type_in("#ring", "1 m")
        self.wait_for_text(".says", "Sharp from 0.7 to 1.8 m")
        self.assertIn("Infinity wants the ring at 2.2 m or farther", self.text(".says"))
        self.type_in("#mark-distance-0", "3 m")
        self.wait_until("return document.querySelector('#verdict-0 b')?.innerText === 'soft'")
        self.click(".back")
        self.wait_for_text(".says", "holds A.")
        self.assertIn("3", self.text("#ring-now"))

    def test_bad_input_is_said_beside_the_field_and_keeps_everything(self) -> None:
        self.open("/view/")
        self.type_in("#f_number", "8")
        self.wait_for(lambda: self.query().get("f_number") == ["8"])
        self.type_in("#f_number", "0")
        self.wait_for_text("#message-f_number", "Give an aperture from 0.5 to 128")
        self.assertIn("Shown with f/8 meanwhile", self.text("#message-f_number"))
        self.wait_for(lambda: self.query()["f_number"] == ["0"])  # a reload loses nothing
        self.assertEqual(self.find("#f_number").get_attribute("aria-invalid"), "true")
        self.assertEqual(self.find("#mark-name-0").get_attribute("value"), "Slate slab")
        self.assertGreater(
            self.read("return document.querySelector('.curve').getTotalLength()"), 99
        )
        self.type_in("#f_number", "16")
        self.wait_for_text(".answer", "f/16")
        self.assertEqual(self.text("#message-f_number"), "")
        self.assertIsNone(self.find("#f_number").get_attribute("aria-invalid"))
        self.type_in("#mark-distance-2", "1.3")
        self.wait_for_text("#message-mark-2", "The same distance as Slate slab")
        self.type_in("#mark-distance-2", "5 cm")
        self.wait_for_text("#message-mark-2", "inside the lens")

    def test_a_plan_is_named_saved_listed_opened_changed_and_deleted(self) -> None:
        self.open("/view/")
        self.type_in("#kept-name", "Sallow Pit, low water")
        self.type_in("#mark-distance-0", "4ft")
        self.click("#save .deed")  # before the answer to the typing has come
        self.wait_for(lambda: "/view/plan/" in self.driver.current_url)
        self.assertEqual(self.find("#mark-distance-0").get_attribute("value"), "4ft")
        self.assertIn("saved in this browser", self.text("#kept-status"))
        self.click(".numbers summary")
        Select(self.find("#format")).select_by_value("aps-c")
        self.wait_for_text("#kept-status", "changed since saved")
        self.click("#save .deed")
        self.wait_for_text("#kept-status", "saved")
        self.wait_until(
            "return document.getElementById('kept-status').innerText.startsWith('saved')"
        )
        self.open("/kept/")
        self.assertIn("Sallow Pit, low water", self.text(".kept-list li:first-child"))
        self.click(".kept-list li:first-child .kept-open")
        self.wait_until("return document.getElementById('format')?.value === 'aps-c'")
        self.open("/kept/")
        self.click(".kept-list li:first-child [aria-label^=Delete]")
        self.wait_for_text(".notice", "Deleted “Sallow Pit, low water”")
        self.assertNotIn("low water", self.text(".kept-list"))
        self.click(".notice button")
        self.wait_for_text(".kept-list", "low water")

    def test_a_finger_drags_on_the_narrow_screen_and_nothing_sticks_out(self) -> None:
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.open("/view/")
        self.assertEqual(self.read("return document.documentElement.scrollWidth"), 390)
        self.read("document.querySelector('.line').scrollIntoView({behavior: 'instant'})")
        box = self.read(
            "const b = document.querySelector('.narrow .index').getBoundingClientRect();"
            "return [b.left + b.width / 2, b.top + 20]"
        )
        touch = "Input.dispatchTouchEvent"
        self.driver.execute_cdp_cmd(
            touch, {"type": "touchStart", "touchPoints": [{"x": box[0], "y": box[1]}]}
        )
        for dx in (20, 60, 100):
            self.driver.execute_cdp_cmd(
                touch, {"type": "touchMove", "touchPoints": [{"x": box[0] - dx, "y": box[1]}]}
            )
        self.driver.execute_cdp_cmd(touch, {"type": "touchEnd", "touchPoints": []})
        self.wait_for(lambda: "ring" in self.query())
        self.assertIn("Ring set by hand", self.text(".answer"))
        small = self.read(
            "return [...document.querySelectorAll('button:not(.term), .ways a,"
            " .screens a, .choice')]"
            ".filter(e => e.offsetParent && e.getBoundingClientRect().height < 43.5)"
            ".map(e => e.outerHTML.slice(0, 80))"
        )
        self.assertEqual(small, [], "targets under 44 px")
        chromium.resize(self.driver, chromium.WIDE)
