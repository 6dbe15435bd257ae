"""What was taken along, with the server gone: pages, search, strip, codes, and both lights."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from django.contrib.staticfiles import finders

from tests.browser import chromium
from tests.browser.base import BrowserTest
from tests.browser.cut import Line
from web.kept.models import Kept

PHONE = (390, 844)
INDEX = (
    "const done = arguments[0];"
    "caches.open('aim-along-1').then((one) => one.match('/along/index.json'))"
    ".then((one) => (one ? one.json() : [])).then(done)"
)

ALONE = (Path(__file__).parent / "worker_alone.js").read_text()


class WorkerTest(BrowserTest):
    def alone(self, scene: str) -> list[str]:
        found = finders.find("ui/worker.js")
        assert isinstance(found, str)
        script = ALONE.replace("/* WORKER */", Path(found).read_text())
        said: list[str] = self.driver.execute_async_script(script, scene)
        return said

    def test_a_page_is_not_kept_without_what_it_needs(self) -> None:
        """Though what no page needs is tidied away while its scripts are on their way."""
        self.assertEqual(self.alone("tidied"), [])

    def test_who_signs_out_while_taking_along_leaves_nothing(self) -> None:
        self.assertEqual(self.alone("left"), [])

    def test_nothing_that_came_as_a_page_does_not_take_the_kept_ones_place(self) -> None:
        self.assertEqual(self.alone("died"), [])


class AlongTest(BrowserTest):
    expected_in_console = (
        "ERR_CONNECTION_REFUSED",
        "ERR_FAILED",
        "plans-of-nobody",
        "htmx:",
        "(Not Found)",
        "sign-out",
        "QuotaExceededError",
    )

    def setUp(self) -> None:
        super().setUp()
        chromium.resize(self.driver, PHONE, touch=True)
        host = urlsplit(self.live_server_url)
        self.line = Line(str(host.hostname), int(host.port or 0))
        self.site = f"http://{host.hostname}:{self.line.port}"
        self.driver.get(f"{self.site}/kept/")
        self.wait_ready()
        self.wait_until("return navigator.serviceWorker.controller !== null")
        self.plan = Kept.objects.get(name="Sallow Pit")

    def index(self) -> list[dict[str, Any]]:
        found: list[dict[str, Any]] = self.driver.execute_async_script(INDEX)
        return found

    def take(self, key: str) -> None:
        self.click(f"button[data-along='{key}']")
        self.wait_for(lambda: any(one["key"] == key for one in self.index()))

    def at(self, path: str) -> None:
        self.driver.get(self.site + path)
        self.wait_ready()

    def test_one_tap_and_all_of_it_is_there_without_the_server(self) -> None:
        key = f"kept-{self.plan.pk}"
        self.take(key)
        self.wait_for_text(f"button[data-along='{key}']", "On this device,")
        self.wait_for(lambda: any(one["key"] == "strip" for one in self.index()))
        self.click("button[data-along='bag']")
        self.wait_for(lambda: len(self.index()) == 3)
        # Whole again through all that the worker keeps beside it.
        self.driver.refresh()
        self.wait_ready()
        self.line.cut()
        self.at("/kept/")
        self.assertIn("not on this device", self.text("h1"))
        self.wait_for(
            lambda: len(self.read("return [...document.querySelectorAll('#along-list li')]")) == 3
        )
        self.find("#along-find").send_keys("sallow")
        self.wait_for(
            lambda: self.read("return document.querySelectorAll('#along-list li').length") == 1
        )
        self.assertIn("plan, taken just now", self.text("#along-list"))
        for label, words in (("Field", "2.6 m"), ("Sheet", "2.6 m"), ("Card", "Checks to make")):
            self.at("/kept/")
            self.wait_until(
                f"return document.querySelector('[aria-label=\"{label} of Sallow Pit\"]')"
            )
            self.follow(f"[aria-label='{label} of Sallow Pit']")
            self.assertIn(words, self.text("main"))
            self.assertIn("No signal: this page is from this device", self.text(".taken"))
        self.at("/bag/")
        self.assertIn("16 mm f/2 for the night", self.text("main"))
        self.at("/view/?focal_length_mm=77")
        self.assertIn("What you typed is in the address", self.text("main"))
        self.assertEqual(self.query()["focal_length_mm"], ["77"])

    def test_the_strip_slides_and_pages_are_red_where_the_device_is(self) -> None:
        self.take("strip")
        self.at("/kept/")
        self.click("button.for-dark, button.for-daylight")
        self.wait_until("return document.documentElement.dataset.light === 'dark'")
        self.driver.refresh()  # and the worker has been told
        self.wait_ready()
        self.line.cut()
        self.at("/cards/strip/")
        self.assertEqual(self.read("return document.documentElement.dataset.light"), "dark")
        self.slide_by_touch()
        self.at("/street/")
        self.assertEqual(self.read("return document.documentElement.dataset.light"), "dark")

    def slide_by_touch(self) -> None:
        """A thumb takes the slide along, and it goes as far as the thumb."""
        slide = self.find(".strip-pieces.narrow .strip-slide")
        self.read(
            "document.querySelector('.narrow .strip-slide').scrollIntoView({ block: 'center' })"
        )
        place = slide.rect
        x, y = place["x"] + 120, place["y"] - self.read("return window.scrollY") + 40
        for kind, at in (("touchStart", x), ("touchMove", x + 30), ("touchMove", x + 60)):
            touch = {"type": kind, "touchPoints": [{"x": at, "y": y}]}
            self.driver.execute_cdp_cmd("Input.dispatchTouchEvent", touch)
        self.driver.execute_cdp_cmd(
            "Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []}
        )
        self.wait_for(lambda: abs(slide.rect["x"] - place["x"] - 60) < 2)

    def test_a_planner_that_loses_its_line_keeps_what_is_typed_and_offers_the_strip(self) -> None:
        self.take("strip")
        self.at("/view/")
        self.line.cut()
        self.read("document.getElementById('focal_length_mm').value = '28'")
        self.read(
            "document.getElementById('focal_length_mm')"
            ".dispatchEvent(new Event('change', { bubbles: true }))"
        )
        self.wait_for_text(".trouble[role=alert]:not([style*=none])", "what you typed is kept")
        self.assertEqual(self.read("return document.getElementById('focal_length_mm').value"), "28")
        self.follow(".trouble a[href='/cards/strip/']")
        self.assertIn("Sliding strip", self.text("h1"))
        self.slide_by_touch()

    def test_a_page_from_before_a_new_version_keeps_its_styles(self) -> None:
        """The worker keeps what a page needs for as long as it keeps the page."""
        key = f"kept-{self.plan.pk}"
        self.take(key)
        kept = (
            "const done = arguments[0];"
            "caches.open('aim-pages-1').then((one) => one.keys())"
            ".then((all) => done(all.map((one) => new URL(one.url).pathname)))"
        )
        old = "/bundle/0/of-an-older-version.css"
        self.driver.execute_async_script(
            "const [old, done] = arguments;"
            "caches.open('aim-pages-1')"
            ".then((one) => one.put(old, new Response('a{}'))).then(done)",
            old,
        )
        self.at("/kept/")  # refreshes, and tidies
        self.wait_for(lambda: old not in self.driver.execute_async_script(kept))
        self.line.cut()
        self.at(f"/view/plan/{self.plan.pk}/field/")
        self.assertGreater(
            self.read(
                "return [...document.styleSheets].reduce((n, s) => n + s.cssRules.length, 0)"
            ),
            50,
        )

    def test_what_a_code_says_is_read_without_the_server(self) -> None:
        self.line.cut()
        self.at("/cards/at/?c=Sallow+Pit&n=ring+2.6+m,+f/11&in=view&focal_length_mm=24")
        self.assertEqual(self.text("#at-name"), "Sallow Pit")
        self.assertIn("ring 2.6 m, f/11", self.text("#at-lines"))
        link = self.find("#at-link").get_attribute("href") or ""
        self.assertTrue(link.endswith("/view/?focal_length_mm=24"), link)
        self.at("/cards/at/?n=%3Cimg+src=x+onerror=alert(1)%3E&in=//elsewhere.invalid")
        self.assertIn("<img", self.text("#at-lines"))
        self.assertFalse(self.find("#at-link").is_displayed())

    def test_taken_off_again_and_gone_with_who_signs_out(self) -> None:
        key = f"kept-{self.plan.pk}"
        self.take(key)
        self.wait_for(lambda: len(self.index()) == 2)
        self.wait_until(f"return !document.querySelector(\"[data-along='{key}']\").disabled")
        self.click(f"button[data-along='{key}']")
        self.wait_for(lambda: [one["key"] for one in self.index()] == ["strip"])
        self.wait_for_text(f"button[data-along='{key}']", "Take along")
        self.read("fetch('/you/sign-out/', { method: 'POST' })")
        self.wait_for(lambda: self.index() == [])

    def test_a_device_that_is_full_says_so_and_keeps_no_half(self) -> None:
        quota = {"origin": self.site, "quotaSize": 1000}
        self.driver.execute_cdp_cmd("Storage.overrideQuotaForOrigin", quota)
        key = f"kept-{self.plan.pk}"
        self.click(f"button[data-along='{key}']")
        self.wait_for_text("#along-says", "No room left on this device")
        self.assertEqual(self.index(), [])
        self.assertEqual(
            self.driver.execute_async_script(
                "const done = arguments[0]; caches.open('aim-along-1')"
                ".then((one) => one.keys()).then((all) => done(all.length))"
            ),
            0,
        )
        self.driver.execute_cdp_cmd("Storage.overrideQuotaForOrigin", {"origin": self.site})
        self.take(key)

    def test_it_can_be_installed(self) -> None:
        found = self.driver.execute_cdp_cmd("Page.getAppManifest", {})
        self.assertEqual(found["errors"], [])
        self.assertTrue(found["url"].endswith("/manifest.webmanifest"))
        wrong = self.driver.execute_cdp_cmd("Page.getInstallabilityErrors", {})
        self.assertEqual(
            [
                one["errorId"]
                for one in wrong["installabilityErrors"]
                if one["errorId"] != "in-incognito"
            ],
            [],
        )
