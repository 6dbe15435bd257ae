"""A test of focus shift as somebody does it: by files, and with the made-up camera; and what it
does to a plan."""

from __future__ import annotations

import tempfile
from pathlib import Path
from unittest import mock

from selenium.webdriver.support.ui import WebDriverWait

from tests.browser.base import BrowserTest
from tests.browser.test_pages import AXE
from tests.web.looking import small_frames_once
from tests.web.test_bench import file
from web.bench.kinds import made_up
from web.bench.models import Frame, Test

SCENE = (
    "/view/?lens={lens}&focal_length_mm=50&f_number=5.6&circle_mm=0.012&camera_height=&tilt_deg="
    "&mark_distance=2+m&mark_distance=2.4+m"
)
PRIME = "50 mm f/1.8"
LONG = 120


class BenchTest(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        small_frames_once(self)

    def begin(self) -> None:
        self.open("/bench/")
        self.read(
            "const list = document.getElementById('bench-lens');"
            f"list.value = [...list.options].find((one) => one.text === '{PRIME}').value"
        )
        self.follow("[name=kind][value=shift]")

    def wait_long(self, count: int) -> None:
        """Until so many frames were looked at: each takes some seconds."""
        WebDriverWait(self.driver, LONG, poll_frequency=0.2).until(
            lambda _: Frame.objects.count() == count, f"{count} frames"
        )

    def ring(self) -> str:
        return self.text("#ring-now")

    def test_by_files_to_a_plan_that_counts_it_and_back_by_one_tap(self) -> None:
        self.begin()
        with tempfile.TemporaryDirectory() as folder:
            paths = []
            for f_number in (5.6, 1.8):
                name, raw = file(f_number)
                path = Path(folder) / name
                path.write_bytes(raw)
                paths.append(str(path))
            letter = Path(folder) / "letter.jpg"
            letter.write_text("Not a picture.", "utf-8")
            self.find("#bench-files").send_keys("\n".join((*paths, str(letter))))
            self.click(".bench-bring .deed")
            self.wait_long(3)
        self.wait_for_text(".bench-says", "It shifts its focus")
        self.assertIn("This is no picture that can be read", self.text(".bench-frames"))
        self.driver.execute_script(AXE)
        found = self.driver.execute_async_script(
            "const done = arguments[0]; axe.run().then((r) => done(r.violations.map((v) => v.id)))"
        )
        self.assertEqual(found, [])
        self.follow(".bench-end .deed")
        self.wait_for_text("h1", "Tests of the 50 mm f/1.8")
        self.open(SCENE.format(lens=PRIME.replace(" ", "+")))
        with_it = self.ring()
        self.assertIn("shift of", self.text("#as-tested"))
        self.follow("#as-tested a")
        without = self.ring()
        self.assertNotEqual(with_it, without)
        self.assertIn("left out", self.text("#as-tested"))
        self.assertIn(with_it, self.text("#as-tested").replace("\u00a0", " ").replace(" m", "m"))
        self.follow("#as-tested a")
        self.assertEqual(self.ring(), with_it)

    def test_nothing_is_bright_by_red_light(self) -> None:
        """The button that a browser draws into a field for files, and pictures of frames."""
        for page in ("/bag/import/", "begin"):
            if page == "begin":
                self.begin()
            else:
                self.open(page)
            self.read("document.documentElement.dataset.light = 'dark'")
            drawn = self.read(
                "const field = document.querySelector('[type=file]');"
                "return getComputedStyle(field, '::file-selector-button').backgroundColor"
            )
            self.assertEqual(drawn, "rgba(0, 0, 0, 0)", page)

    def test_with_the_made_up_camera_by_one_button(self) -> None:
        self.begin()
        Test.objects.update(made_up=4)
        self.enterContext(mock.patch.object(made_up, "_STOPS", (1,)))  # two frames are enough
        self.click(".bench-made-up .deed")
        self.wait_until("return document.querySelector('.bench-progress').checkVisibility()")
        self.wait_long(2)
        self.wait_for_text(".bench-says", "focus")
        self.assertEqual(len(self.driver.find_elements("css selector", ".bench-table tbody tr")), 2)
