"""Street as it is used: positions changed, locked and read, by keyboard alone and by pointer."""

from __future__ import annotations

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser import chromium
from tests.browser.base import BrowserTest

FIGURES = (
    "return [...document.querySelectorAll('.figures .figure')]"
    ".map(f => f.innerText.replaceAll('\\n', ' '))"
)
TILES = "return [...document.querySelectorAll('.sightline.wide .tile-name')].map(t => t.innerHTML)"


class StreetTest(BrowserTest):
    def wait_for_figures(self, *wanted: str) -> None:
        self.wait_for(lambda: self.read(FIGURES) == list(wanted), f"{wanted}")

    def test_one_two_three_positions_home_locked_by_keyboard_alone(self) -> None:
        self.open("/street/")
        self.press("1")
        self.wait_for_figures("Home 1.4m", "Aperture f/8")
        self.wait_for_text(".answer .says", "Sharp from 1.1 to 2.1 m. Step until they stand in it.")
        self.assertEqual(self.read(TILES), ["Home"])
        self.press("2")
        self.wait_for_figures("Home 1.4m", "Far 4.1m", "Aperture f/8")
        self.press("3")
        self.wait_for_figures("Close 0.85m", "Home 1.4m", "Far 4.2m", "Aperture f/8")
        self.wait_for_text(".answer .says", "No gap from 0.72 m to ∞.")
        self.assertEqual(self.read(TILES), ["Close", "Home", "Far"])
        self.press("h")
        self.wait_for_text(".figure.home", "locked")
        self.assertEqual(self.query()["home"], ["1.4 m"])
        self.tab_to("#like")
        chain = ActionChains(self.driver).key_down(Keys.CONTROL).send_keys("a")
        chain.key_up(Keys.CONTROL).send_keys("3 m").perform()
        self.wait_for(lambda: self.query().get("like") == ["3 m"])
        self.assertIn("1.4m", self.text(".figure.home"), "locked, it stays")
        self.read("document.activeElement.blur()")
        self.press(Keys.ESCAPE)
        self.wait_for_text(".figure.home", "3m")
        self.press("]")
        self.wait_for_text(".aperture", "f/9")
        self.tab_to("#fold-ring > summary")
        self.press(Keys.ENTER)
        self.wait_until("return document.querySelector('.tiled-ring') !== null")

    def test_a_position_moved_by_arrow_keys_is_locked_and_the_others_follow(self) -> None:
        self.open("/street/")
        self.tab_to("#handle-wide-2")
        self.press(Keys.ARROW_RIGHT)
        self.wait_for_text(".answer", "Far · locked")
        self.wait_for(lambda: self.query().get("locked", [""])[0] != "")
        self.assertEqual(self.read("return document.activeElement.id"), "handle-wide-2")
        self.press(Keys.END)
        self.wait_for(lambda: self.query().get("locked") == ["inf"])
        self.press(Keys.ESCAPE)
        self.wait_for(lambda: "locked" not in self.query())

    def test_dragged_by_a_pointer_the_handle_stays_under_it(self) -> None:
        self.open("/street/")
        handle = self.find("#handle-wide-0")
        ActionChains(self.driver).click_and_hold(handle).move_by_offset(30, 0).move_by_offset(
            30, 0
        ).perform()
        self.wait_for_text(".answer", "locked")
        x = "return document.querySelector('#handle-wide-0').getCTM().e"
        held = self.read(x)
        ActionChains(self.driver).release().perform()
        self.wait_for(lambda: self.query().get("locked", [""])[0] != "")
        self.wait_for(lambda: abs(self.read(x) - held) < 12, "it stays where it was let go")

    def test_buttons_lock_and_unlock_and_make_home(self) -> None:
        self.open("/street/")
        self.click("[aria-label='Lock Far']")
        self.wait_for_text(".answer", "Far · locked")
        self.click("[aria-label='Make Close home']")
        self.wait_for(lambda: self.query().get("home") == ["0.85 m"])
        self.wait_for_text(".positions-table .chosen", "0.85 m")
        self.click("[aria-label='Unlock Home']")
        self.wait_for(lambda: "home" not in self.query())
        self.click("#drawer > summary")
        self.click(".thumb-places [data-focus='0.7 m']")
        self.wait_for_text(".positions-table", "near stop")
        self.find("#locked").clear()
        self.find("#locked").send_keys("700 mm and 4,5 m")
        self.wait_for(lambda: self.query().get("locked") == ["700 mm and 4,5 m"])
        self.wait_for_text(".positions-table", "near stop")
        self.click("[data-focus='0.7 m'][aria-label^='Unlock']")
        self.wait_for(lambda: self.query().get("locked") == ["4.5 m"], "however it was typed")
        self.click(".unlock-all")
        self.wait_for_figures("Close 0.85m", "Home 1.4m", "Far 4.2m", "Aperture f/8")

    def test_a_school_taken_and_a_set_kept(self) -> None:
        self.open("/street/")
        self.click("#fold-schools > summary")
        self.wait_until("return document.querySelectorAll('.schools-table tbody tr').length === 3")
        self.click(".schools-table tr:nth-child(2) button")
        self.wait_for(lambda: self.query().get("count") == ["2"])
        self.wait_for_text(".schools-table tr:nth-child(2)", "in use")
        name = self.find("#kept-name")
        name.clear()
        name.send_keys("Two for the stalls")
        self.follow("#save .deed")
        self.assertIn("/street/set/", self.driver.current_url)
        self.wait_for_text("#kept-status", "saved")
        self.press("3")
        self.wait_for_text("#kept-status", "changed since saved")
        self.open("/kept/?kind=set")
        self.assertIn("Two for the stalls", self.text(".kept-list"))

    def test_bad_input_is_said_at_its_place_and_kept(self) -> None:
        self.open("/street/")
        self.click("#drawer > summary")
        self.find("#near").send_keys("inf")
        self.wait_for_text("#message-near", "cannot be infinity")
        self.assertEqual(self.find("#near").get_attribute("aria-invalid"), "true")
        self.assertEqual(self.find("#near").get_attribute("value"), "inf")
        self.find("#near").clear()
        self.find("#near").send_keys("0.8 m")
        self.wait_until("return document.getElementById('message-near').innerText === ''")
        self.wait_for(lambda: self.query().get("near") == ["0.8 m"])

    def test_the_same_link_in_another_browser(self) -> None:
        self.open("/street/")
        self.click("[aria-label='Lock Far']")
        self.press("4")
        self.wait_for(lambda: self.query().get("count") == ["4"])
        self.wait_for_text(".answer", "Close 2")
        shown, link = self.read(FIGURES), self.driver.current_url
        other = chromium.start()
        self.addCleanup(other.quit)
        other.get(link)
        self.assertEqual(other.execute_script(FIGURES), shown)

    def test_on_a_phone_by_touch(self) -> None:
        chromium.resize(self.driver, chromium.NARROW, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
        self.open("/street/")
        self.assertTrue(self.find(".sightline.narrow").is_displayed())
        self.read("document.querySelector('.keeps').scrollIntoView({ block: 'center' })")
        self.click(".keeps [data-count='2']")
        self.wait_for_figures("Home 1.4m", "Far 4.1m", "Aperture f/8")
        self.assertTrue(self.find("#handle-narrow-1").is_displayed())


class StreetWithoutScriptsTest(BrowserTest):
    scripts = False

    def test_the_same_form_with_a_button_does_the_same_job(self) -> None:
        self.driver.get(f"{self.live_server_url}/street/?count=3&near=0.8+m")
        self.find("#drawer > summary").click()
        field = self.find("#count")
        field.clear()
        field.send_keys("2")
        self.follow(".work")
        self.assertIn("count=2", self.driver.current_url)
        self.assertIn("Gap", self.find(".answer").text)
        self.assertTrue(self.find(".pavement.wide").is_displayed())
        self.find("#kept-name").send_keys("By hand")
        self.follow("#save .deed")
        self.assertIn("/street/set/", self.driver.current_url)
