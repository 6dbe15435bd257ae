"""Measuring in a snapshot with pointer and keys: from a file to a plan."""

from __future__ import annotations

import math
import tempfile
from pathlib import Path

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from simulator.body import Body
from simulator.camera import Camera
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Lens
from simulator.things import Board
from tests.browser.base import BrowserTest
from tests.browser.test_pages import AXE

HORIZON = 0.5 + math.tan(math.radians(12.0))
"""Of 24 mm on a frame 24 mm high, 12° down."""


def snapshot() -> bytes:
    """Ground that leans away under a level horizon, and a post."""
    lens = Lens(24.0, 4.0)
    ground = Board(1500 / math.sin(math.radians(12)), grain=90.0, lean=math.radians(78))
    things = (ground, Board(4000.0, 350.0, 1200.0, 40.0, y=300.0), Board(math.inf))
    camera = Camera(lens, Body(width=900, height=600), 11.0, lens.stands_for(4000.0, 11.0))
    return file_of(take(Scene(things, seed=4), camera), camera)


class SnapshotTest(BrowserTest):
    def click_at(self, column: float, row: float) -> None:
        box = self.find("#snapshot-picture")
        x, y = (column - 0.5) * box.size["width"], (0.5 - row) * box.size["height"]
        ActionChains(self.driver).move_to_element_with_offset(box, x, y).click().perform()

    def test_from_a_file_to_a_plan(self) -> None:
        self.open("/outings/snapshot/")
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "snapshot.jpg"
            path.write_bytes(snapshot())
            self.find("#snapshot-file").send_keys(str(path))
            self.wait_until("return document.querySelector('#snapshot-picture').checkVisibility()")
            self.wait_until("return document.querySelector('[name=width_px]').value === '900'")
        self.assertEqual(self.find("#focal_length_mm").get_attribute("value"), "24")
        self.assertEqual(self.find("#sensor_mm").get_attribute("value"), "36")
        self.wait_for_text("#snapshot-told", "Click the horizon first")
        self.read("document.querySelector('#snapshot-picture').scrollIntoView()")
        self.click_at(0.1, HORIZON)
        self.click_at(0.9, HORIZON)
        self.wait_for_text("#snapshot-told", "12° down")
        self.click_at(0.5, 0.3)
        self.wait_for_text(".snapshot-table", "A")
        depth = self.text("[data-fact='depth A']")
        self.press(Keys.ARROW_UP)
        self.press(Keys.SHIFT + Keys.ARROW_UP)
        self.wait_for(
            lambda: self.text("[data-fact='depth A']") != depth, "the last point was moved"
        )
        self.press("t")
        self.assertTrue(self.find("[name=tool][value=top]").is_selected())
        self.click_at(0.5, 0.6)
        self.wait_for(lambda: "±" in self.text(".snapshot-table td:last-child"), "its height")
        self.find("[name=thing_name]").send_keys("Post")
        self.wait_for_text(".snapshot-table", "A Post")
        # And the picture that would be taken is on it, and under the loupe.
        self.wait_until("return document.querySelectorAll('.plan-row').length > 2")
        self.wait_until("return document.querySelector('.plan-focus') !== null")
        frame = "return Number(document.querySelector('.plan-frame').getAttribute('width'))"
        self.assertAlmostEqual(self.read(frame), 1000, delta=10)
        self.click(".snapshot-taken summary")
        self.find("#take_focal").send_keys("48")
        self.wait_until(f"{frame} < 510")
        glass = "return document.getElementById('preview-glass').toDataURL()"
        before = self.read(glass)
        self.find("#take_f").send_keys("1.4")
        self.wait_for(lambda: self.read(glass) != before, "a wider aperture is softer")
        self.driver.execute_script(AXE)
        found = self.driver.execute_async_script(
            "const done = arguments[0]; axe.run().then((r) => done(r.violations.map((v) => v.id)))"
        )
        self.assertEqual(found, [])
        self.follow("#snapshot-told .deed")
        self.assertEqual(self.find("[name=mark_name]").get_attribute("value"), "Post")
        self.assertIn("24 mm", self.find("#focal_length_mm").get_attribute("value") + " mm")
