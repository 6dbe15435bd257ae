"""A street photographer's jobs: stops locked, from-to in feet, the light falling, at two sizes."""

from __future__ import annotations

from selenium.webdriver.common.keys import Keys

from tests.browser import chromium
from tests.browser.base import BrowserTest

FIGURES = (
    "return [...document.querySelectorAll('.figures .figure')]"
    ".map(f => f.innerText.replaceAll('\\n', ' '))"
)
OVERFLOWS = (
    "return [...document.querySelectorAll('main *')].filter((e) => e.checkVisibility()"
    " && e.getBoundingClientRect().right > window.innerWidth + 1"
    " && !e.closest('.scroll, svg, .visually-hidden')).map((e) => e.outerHTML.slice(0, 90))"
)


class JobsTest(BrowserTest):
    def figures(self, *wanted: str) -> None:
        self.wait_for(lambda: self.read(FIGURES) == list(wanted), f"{wanted}")

    def at_both(self, job: str) -> None:
        for size in (chromium.WIDE, chromium.NARROW):
            with self.subTest(size=size):
                chromium.resize(self.driver, size, touch=size == chromium.NARROW)
                self.addCleanup(chromium.resize, self.driver, chromium.WIDE)
                getattr(self, job)()
                self.assertEqual(self.read(OVERFLOWS), [])

    def test_near_stop_tab_down_and_infinity_stop_locked(self) -> None:
        self.at_both("three_stops")

    def three_stops(self) -> None:
        self.open("/street/")
        self.click("#drawer > summary")
        for stop in ("near stop", "tab straight down", "infinity stop"):
            before = self.read("return document.getElementById('locked').value")
            place = "return [...document.querySelectorAll('.thumb-places .deed')]" + (
                f".find((b) => b.innerText === '{stop}').dataset.focus"
            )
            self.click(f".thumb-places [data-focus='{self.read(place)}']")
            self.wait_for(lambda was=before: self.query().get("locked", [""])[0] not in ("", was))
        self.wait_for_text(".answer", "Gap")
        self.wait_for_text(".positions-table", "near stop")
        words = self.text(".answer .says")
        self.assertNotIn("nothing here", self.text(".positions-table"))
        self.assertIn("–", words)
        self.assertIn("closes", words)
        self.assertEqual(self.read("return document.getElementById('near').placeholder"), "0.7 m")
        self.click(".unlock-all")
        self.figures("Close 0.85m", "Home 1.4m", "Far 4.2m", "Aperture f/8")
        self.click(".answer .undo button")
        self.wait_for_text(".positions-table", "infinity stop")

    def test_four_to_twenty_feet(self) -> None:
        self.at_both("in_feet")

    def in_feet(self) -> None:
        self.open("/street/?units=ft&like=6+ft")
        self.assertEqual(self.read("return document.getElementById('near').value"), "")
        self.type_in("#near", "4")
        self.type_in("#far", "20")
        self.wait_for(lambda: self.query().get("far") == ["20"])
        self.wait_for_text(".answer", "No gap from 4 to 20 ft")
        self.assertIn("6ft", self.text(".figure.home"))
        self.assertNotRegex(self.text(".street-answer .says"), r"\d m\b")

    def test_light_falls_and_the_ring_stays(self) -> None:
        self.at_both("light_falls")

    def light_falls(self) -> None:
        self.open("/street/")
        first = self.read(FIGURES)
        self.wait_for_text(".exposure", "1/250 s, ISO 400")
        for opened in ("f/7.1", "f/6.3", "f/5.6", "f/5", "f/4.5", "f/4"):
            self.click("[aria-label^='Open the aperture']")
            self.wait_for_text(".figure.aperture", opened)
        self.assertEqual(self.read(FIGURES)[:3], first[:3], "the ring stays")
        self.assertIn("The ring stays where f/8 put it", self.text(".answer"))
        self.assertIn("Gaps", self.text(".answer"))
        self.wait_for_text(".exposure", "ISO 100")
        link = self.driver.current_url
        self.open(link.partition(self.live_server_url)[2])
        self.assertEqual(self.read(FIGURES)[:3], first[:3], "after a reload too")
        self.click("[x-on\\:click='moveRing']")
        self.wait_for(lambda: self.read(FIGURES)[:3] != first[:3])
        self.assertNotIn("set_for", self.query())

    def test_escape_in_a_field_unlocks_nothing(self) -> None:
        self.open("/street/?locked=2+m")
        self.wait_for_text(".figures", "locked")
        self.find("#like").send_keys(Keys.ESCAPE)
        self.press("[")
        self.wait_quiet()
        self.assertIn("locked", self.text(".figures"))
        self.read("document.activeElement.blur()")
        self.press(Keys.ESCAPE)
        self.wait_for(lambda: "locked" not in self.text(".figures"))


class LensJobTest(BrowserTest):
    def test_a_lens_with_measured_marks_from_nothing_in_one_submit_by_keyboard(self) -> None:
        self.open("/bag/")
        self.follow("[action$='/bag/start/'] button")
        self.wait_for_text("main", "No lens yet")
        self.tab_to("[href$='/bag/lens/new/']")
        self.read("window.aimLeaving = true")
        self.press(Keys.ENTER)
        self.wait_for(self._arrived)
        self.wait_ready()
        for field, text in (
            ("name", "35 mm with a tab"), ("shortest_mm", "35 mm"), ("widest", "f/2"),
            ("closest_mm", "70 cm"), ("tab_at_infinity_hours", "straight down at 1.2 m"),
            ("marks", "0.7 m: 92\n1 m: 60\n1.2 m: 49\n2 m: 28\n5 m: 11\ninf: 0"),
        ):  # fmt: skip
            self.tab_to(f"#{field}")
            self.driver.switch_to.active_element.send_keys(text)
        self.wait_for_text("#preview", "6:00")
        for field, shown in (("shortest_mm", "35"), ("widest", "2"), ("closest_mm", "70 cm")):
            self.assertEqual(self.query_of_page(field), shown, "with its unit once")
        self.tab_to(".entry-deeds .deed")
        self.read("window.aimLeaving = true")
        self.press(Keys.ENTER)
        self.wait_for(self._arrived)
        self.assertIn("kept=1", self.driver.current_url)
        self.assertIn("6:00", self.text("#preview"))
        self.open("/street/")
        self.wait_for_text("#pick-lens", "35 mm with a tab")
        chosen = "const s = document.getElementById('pick-lens'); return s.selectedOptions[0].label"
        self.assertEqual(self.read(chosen), "35 mm with a tab", "it is the one in hand")
        self.assertEqual(self.query_of_page("focal_length_mm"), "35")

    def query_of_page(self, name: str) -> str:
        return str(self.read(f"return document.getElementById('{name}').value"))
