"""The whole of View as it is used: a scene laid out, placed, checked and printed, by keyboard alone
and by pointer; and the same link in another browser."""

from __future__ import annotations

import base64
import io

import pypdf
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser import chromium
from tests.browser.base import BrowserTest
from web.view.forms import scene_query
from web.view.sample import GEAR

FIELDS = (
    "return [...document.querySelectorAll('#scene [name]')]"
    ".filter(e => !e.name.startsWith('lens_'))"
    ".map(e => [e.name, ['checkbox', 'radio'].includes(e.type) ? e.checked : e.value].join('='))"
)
"""All that the form says, but what a link tells of the lens."""


class PlannerTest(BrowserTest):
    def test_a_scene_by_keyboard_alone(self) -> None:
        self.open("/view/")
        self.press("n")
        self.press("Post", Keys.TAB, "2.4 m")
        self.wait_until("return document.querySelector('#verdict-4 b')?.innerText === 'holds'")
        self.tab_to(".markrow:nth-child(5) .more")
        self.press(Keys.ENTER)
        self.assertEqual(self.read("return document.activeElement.id"), "mark-how-4")
        self.press("a")  # along the ground
        self.wait_for_text("#message-mark-4", "along the ground = ")
        self.tab_to("#mark-stands-4")
        self.press("0.7 m")
        self.wait_for(lambda: self.query().get("mark_stands", [""])[-1] == "0.7 m")
        self.read("document.activeElement.blur()")
        self.press("6")
        self.wait_for(lambda: self.query().get("place") == ["frames"])
        self.press("1")
        self.wait_for(lambda: self.query().get("place") == ["between"])
        self.tab_to("#choose")
        self.press("w")  # widest that holds
        self.wait_for_text(".answer", "Widest that holds")
        self.read("document.activeElement.blur()")
        self.press("]")
        self.wait_for(lambda: "choose" not in self.query(), "a step of the aperture fixes it")
        self.tab_to("#fold-frame > summary")
        self.press(Keys.ENTER)
        self.wait_until("return document.querySelector('#dot-0') !== null")
        self.tab_to("#dot-0")
        self.press(Keys.ARROW_RIGHT)
        self.wait_for(lambda: self.query().get("mark_at", [""])[0] != "")
        self.assertEqual(self.read("return document.activeElement.id"), "dot-0")
        self.tab_to("#fold-trial > summary")
        self.press(Keys.ENTER)
        self.wait_until("return document.querySelector('#soft-0-A') !== null")
        self.tab_to("#soft-0-A")
        self.press(Keys.SPACE)
        self.wait_for(lambda: "soft A" in self.query().get("trials", [""])[0])
        self.wait_until(
            "return document.querySelector('#soft-0-A').getAttribute('aria-pressed') === 'true'"
        )
        self.wait_for_text(".answer", "As the trial frame has it")
        self.assertEqual(self.read("return document.activeElement.id"), "soft-0-A")

    def test_a_scene_by_pointer_and_its_link_elsewhere(self) -> None:
        self.open("/view/")
        self.click("#fold-ways > summary")
        self.click("[data-place=hyperfocal]")
        self.wait_for(lambda: self.query().get("place") == ["hyperfocal"])
        self.wait_until(
            "return document.querySelector('.ways-table .chosen th').innerText === 'Hyperfocal'"
        )
        self.click("#fold-aperture > summary")
        self.click("[data-choose=sharpest]")
        self.wait_for_text(".answer", "Sharpest aperture")
        self.click("#fold-lens > summary")
        self.wait_for_text("#fold-lens", "By the scale")
        self.click(".stands summary")
        self.click("[aria-label='Move the camera back']")
        self.wait_for(lambda: self.query().get("moved") == ["0.1 m"])
        self.wait_for_text("#message-mark-0", "Now 1.4 m deep")
        self.click(".renumber")
        self.wait_until("return document.querySelector('#mark-distance-0').value === '1.397 m'")
        self.wait_for(lambda: "moved" not in self.query())
        self.assertEqual(self.read("return document.querySelector('#moved').value"), "")
        self.read("window.scrollTo({ top: 0, behavior: 'instant' })")
        self.wait_until("return document.querySelector('.scrolled') === null")
        link, said = self.driver.current_url, self.text(".answer")
        other = chromium.start()
        self.addCleanup(other.quit)
        other.get(link)
        self.assertEqual(
            other.execute_script("return document.querySelector('.answer').innerText"), said
        )
        self.assertEqual(other.execute_script(FIELDS), self.read(FIELDS))

    def test_a_mark_and_the_box_are_dragged_in_the_frame(self) -> None:
        self.open("/view/")
        self.click("#fold-frame > summary")
        self.wait_until("return document.querySelector('#dot-1') !== null")
        dot = self.find("#dot-1")
        self.read("document.querySelector('.finder').scrollIntoView({block: 'center'})")
        ActionChains(self.driver).click_and_hold(dot).move_by_offset(60, -20).move_by_offset(
            40, -30
        ).release().perform()
        self.wait_for(lambda: self.query().get("mark_at", ["", ""])[1])
        self.wait_for_text("#message-mark-1", "above the ground")
        across, up = (float(n) for n in self.query()["mark_at"][1].split())
        self.assertTrue(60 < across < 75, across)
        self.assertTrue(60 < up < 85, up)
        self.wait_quiet()
        self.read("document.querySelector('.finder').scrollIntoView({block: 'center'})")
        box = self.find("#af-box .grip")
        ActionChains(self.driver).click_and_hold(box).move_by_offset(0, 70).release().perform()
        self.wait_for(lambda: "box_at" in self.query())
        self.wait_for_text("#fold-frame", "nearer than the window")

    def test_what_would_hold_is_tried_with_one_click(self) -> None:
        self.open("/view/")
        field = self.find("#mark-distance-0")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys("0.9 m")
        self.wait_for_text(".says", "No setting holds A, B and C")
        self.wait_for_text("#out-rescue", "back does it")
        self.click("#out-rescue .try")
        self.wait_for_text(".says", "holds B and C; A just")
        self.assertIn("Now", self.text("#message-mark-0"))

    def test_light_and_movement_while_typing(self) -> None:
        self.open("/view/")
        self.click("#fold-light > summary")
        self.wait_for_text("#out-light", "Give one metered exposure")
        self.find("#metered_f").send_keys("8")
        self.find("#metered_time").send_keys("1/60")
        self.wait_for_text("#out-light", "1/30 s at ISO 100")
        self.assertEqual(self.read("return document.activeElement.id"), "metered_time")
        self.find("#nd").send_keys("ND")
        self.wait_for_text("#message-nd", "ND1000")
        self.find("#nd").send_keys("64")
        self.wait_for_text("#out-light", "2 s at ISO 100")
        Select(self.find("#leaves")).select_by_value("breeze")
        self.wait_for_text("#out-light", "leaves at Slate slab")
        self.wait_for_text("#message-nd", "")

    def test_many_marks_are_pasted_in(self) -> None:
        self.open("/view/")
        self.read(
            "const data = new DataTransfer();"
            "data.setData('text/plain', 'Post\\t2.5 m\\nGate\\t6 m\\nBarn, 30 m\\nHill\\tinf');"
            "const last = document.querySelector('#mark-list').lastElementChild;"
            "last.querySelector('input').dispatchEvent(new ClipboardEvent('paste',"
            " {clipboardData: data, bubbles: true, cancelable: true}));"
        )
        self.wait_for(lambda: len(self.query().get("mark_name", [])) == 8)
        self.assertEqual(self.query()["mark_name"][4:], ["Post", "Gate", "Barn", "Hill"])
        self.assertEqual(self.query()["mark_distance"][4:], ["2.5 m", "6 m", "30 m", "inf"])
        self.wait_until("return document.querySelector('#verdict-7 b')?.innerText === 'holds'")

    def test_two_dozen_marks_are_typed_in_three_scripts_and_outlast_a_reload(self) -> None:
        words = (
            "潮の引いた岩場の手前にある濡れた大きな石段",
            "Überströmte Felsküstenböschung, äußerste Kante",
            "الصخرة الكبيرة أمام المنارة القديمة",
        )
        names = [f"{words[at % 3]} {at}" for at in range(24)]
        self.open(f"/view/?{scene_query(GEAR, ()).urlencode()}")
        self.click(".all-of-it button")
        distances = [f"{2 + at / 4:g} m" for at in range(24)]
        self.driver.execute_script(  # the first ones all at once, as a hand that pastes
            "const [names, distances] = arguments; const put = (id, text) => {"
            " const field = document.getElementById(id); field.value = text;"
            " field.dispatchEvent(new Event('input', { bubbles: true })); };"
            "names.forEach((name, at) => {"
            " put(`mark-name-${at}`, name); put(`mark-distance-${at}`, distances[at]); })",
            names[:21], distances[:21],
        )  # fmt: skip
        for at in range(21, 24):
            self.find(f"#mark-name-{at}").send_keys(names[at])
            self.find(f"#mark-distance-{at}").send_keys(distances[at])
        self.wait_for(lambda: self.query().get("mark_name", []) == names)
        self.wait_for(lambda: self.query()["mark_distance"][-1] == "7.75 m")
        self.assertFalse(self.find(".trouble[x-show=tooLong]").is_displayed())
        self.driver.refresh()
        self.wait_ready()
        self.assertEqual(self.find("#mark-name-23").get_attribute("value"), names[23])
        self.assertEqual(self.find("#mark-distance-23").get_attribute("value"), "7.75 m")

    def test_more_than_a_link_holds_is_told_at_once(self) -> None:
        self.open("/view/")
        field = self.find("#mark-name-0")
        self.read("document.querySelector('#scene').dataset.mostLink = '300'")
        field.send_keys("x" * 40)
        told = ".trouble[x-show=tooLong]"
        self.wait_for(lambda: self.find(told).is_displayed())
        self.assertIn("Take some marks out", self.text(told))
        self.read("document.querySelector('#scene').dataset.mostLink = '32000'")
        field.send_keys("y")
        self.wait_for(lambda: not self.find(told).is_displayed())

    def test_the_sheet_prints_dark_on_white_from_the_browser_in_either_light(self) -> None:
        for light in ("daylight", "dark"):
            self.open("/cards/plan/sheet/")
            self.driver.add_cookie({"name": "light", "value": light})
            self.open("/cards/plan/sheet/")
            for width, height in ((8.27, 11.69), (8.5, 11.0)):
                printed = self.driver.execute_cdp_cmd(
                    "Page.printToPDF", {"paperWidth": width, "paperHeight": height}
                )
                pages = pypdf.PdfReader(io.BytesIO(base64.b64decode(printed["data"]))).pages
                self.assertEqual(len(pages), 1)
                self.assertIn("Checks to make", pages[0].extract_text())
            self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
            self.addCleanup(
                self.driver.execute_cdp_cmd, "Emulation.setEmulatedMedia", {"media": ""}
            )
            colours = self.read(
                "const of = (e) => getComputedStyle(document.querySelector(e));"
                "return [of('.plan-sheet').color, of('.plan-sheet h1').color,"
                " of('body').backgroundColor, of('.plan-sheet').backgroundColor,"
                " of('.finder .edge').stroke]"
            )
            ink, white, clear = "rgb(27, 39, 48)", "rgb(255, 255, 255)", "rgba(0, 0, 0, 0)"
            self.assertEqual(colours, [ink, ink, white, clear, ink], light)
            self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": ""})

    def test_from_the_plan_to_its_sheet_and_back(self) -> None:
        self.open("/view/")
        name = self.find("#kept-name")
        name.send_keys(Keys.CONTROL, "a")
        name.send_keys("Low water")
        self.click("#fold-checks > summary")
        self.find("#note").send_keys("Come an hour before low water.")
        self.read("window.aimLeaving = true")
        Select(self.find("#pick-lens")).select_by_visible_text("16 mm f/2 for the night")
        self.wait_for(self._arrived, "another lens makes the page come again")
        self.wait_ready()
        self.assertIn("low water", self.find("#note").get_attribute("value") or "")
        self.click("#fold-checks > summary")
        self.click("#care_water")
        self.wait_for_text("#out-checks", "swell comes in sets")
        self.follow("#save button[type=submit]")
        self.wait_ready()
        self.follow("#to-sheet")
        self.assertIn("Low water", self.text(".plan-sheet"))
        self.assertIn("Come an hour before low water.", self.text(".plan-sheet"))
        self.assertIn("swell comes in sets", self.text(".plan-sheet"))
        self.follow(".sheet-deeds a")
        self.wait_ready()
        self.assertEqual(
            self.read("return document.querySelector('#kept-name').value"), "Low water"
        )
