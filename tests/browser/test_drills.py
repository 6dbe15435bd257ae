"""Drills with keys, fingers and the mouse: what is answered is told, timed by the page, kept."""

from __future__ import annotations

import base64
import io
import math

import numpy as np
from django.core import signing
from PIL import Image
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from drills.star import disc_at
from optics.lens.conjugates import focus_of
from optics.lens.depth import total_blur
from optics.lens.setup import Setup
from tests import WHOLE, some
from tests.browser import chromium
from tests.browser.base import BrowserTest
from tests.browser.plain import grey_pictures
from tests.drills.test_pictures import linear, width_of
from web.drills.models import Try

PHONE = (390, 844)
WAITING = "return Object.keys(localStorage).filter((one) => one.startsWith('aim-try:')).length"
SHOWN = "return document.getElementById('task').dataset.shown === String(drill.at)"
TOLD = "return document.getElementById('task').dataset.told === String(drill.at)"


class Drilled(BrowserTest):
    pictured = False
    """Whether what is in the pictures matters; how they are drawn is tested in tests/drills."""

    @classmethod
    def setUpClass(cls) -> None:
        if not cls.pictured:
            grey_pictures(cls)  # until the browser is gone
        super().setUpClass()

    def do(self, drill: str, **said: str) -> None:
        """Open one, and wait for its first task."""
        more = "&".join(f"{name}={value}" for name, value in {"seed": "3", **said}.items())
        self.open(f"/drills/{drill}/practice/?{more}")
        self.wait_until(SHOWN)

    def go_to(self, condition: str) -> None:
        """To the first task of which something is true, of ``t``."""
        self.read(f"drill.at = drill.tasks.findIndex((t) => {condition}) - 1;"
                  "drill.stage.stop?.(); drill.next()")  # fmt: skip
        self.wait_until(SHOWN)

    def press(self, *keys: str) -> None:
        ActionChains(self.driver).send_keys(*keys).perform()

    def sent(self, count: int) -> list[Try]:
        """All tries, when there are so many."""
        self.wait_for(lambda: Try.objects.exclude(owner__is_sample=True).count() == count)
        return list(Try.objects.exclude(owner__is_sample=True).order_by("at", "pk"))


class WithKeysTest(Drilled):
    def test_distances_to_the_end_and_what_was_said_is_kept(self) -> None:
        self.do("distance")
        tasks = self.read("return drill.tasks")
        for at, task in enumerate(tasks):
            self.wait_until(f"return drill.at === {at}")
            self.wait_until(SHOWN)
            self.press(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.ARROW_LEFT)
            stop = task["start"] + 1
            self.assertEqual(self.text(".stop-label"), task["labels"][stop])
            self.press(Keys.ENTER)
            self.wait_until(TOLD)
            self.assertIn(task["says"][stop], self.text("#said"))
            mark = "return document.querySelector('.judged .true').getAttribute('d')"
            self.assertIn(f"M{task['axis']['places'][task['best']]:g} ", self.read(mark))
            self.press(Keys.ENTER)
        self.wait_until("return !document.getElementById('end').hidden")
        right = sum(task["right"][task["start"] + 1] for task in tasks)
        self.assertEqual(self.text("#total"), f"{right} of {len(tasks)} right")
        kept = self.sent(len(tasks))
        self.assertEqual([one.was_mm for one in kept], [task["was"] for task in tasks])
        self.assertEqual(sum(one.right for one in kept), right)
        self.wait_for(lambda: self.read(WAITING) == 0, "nothing waits any more")

    def test_a_distance_is_typed_too_and_the_nearest_is_taken(self) -> None:
        self.do("distance")
        self.find(".typed").send_keys("3,97")
        self.assertEqual(self.text(".stop-label"), "3.9 m" if "3.9 m" in self.labels() else "4 m")
        self.find(".typed").send_keys(Keys.ENTER)
        self.wait_until(TOLD)

    def labels(self) -> list[str]:
        found: list[str] = self.read("return drill.task.labels")
        return sorted(found, key=lambda one: abs(float(one.split()[0]) - 3.97))[:1]

    def test_a_blur_is_named_by_number_and_then_what_helps(self) -> None:
        self.do("blur")
        best, cure = self.read("return [drill.task.best, drill.task.then.best]")
        self.press(str(best + 1))
        self.wait_until("return document.querySelectorAll('.choices').length === 2")
        self.press(str(cure + 1))
        self.wait_until(TOLD)
        self.assertIn("Right", self.text("#said"))
        self.assertEqual(self.read("return document.querySelectorAll('.still img').length"), 2)
        self.assertTrue(self.sent(1)[0].right)

    def test_an_answer_is_taken_back_with_a_key_or_a_tap(self) -> None:
        self.do("distance")
        self.press(Keys.ENTER)
        self.wait_until(TOLD)
        self.sent(1)
        self.press("z")
        self.assertIn("Not counted", self.text("#said"))
        self.sent(0)
        self.press(Keys.ENTER)
        self.wait_until("return drill.at === 1")
        self.wait_until(SHOWN)
        self.press(Keys.ENTER)
        self.wait_until(TOLD)
        self.click("#uncounted")
        self.wait_until(f"{WAITING} === 0")
        self.sent(0)

    def test_a_focus_point_is_put_by_the_mouse(self) -> None:
        self.do("focus")
        picture = self.find(".still")
        best = self.read("return drill.task.rows[drill.task.best]")
        down = round((best - 0.5) * picture.size["height"])
        ActionChains(self.driver).move_to_element_with_offset(picture, 0, down).click().perform()
        self.click("#set")
        self.wait_until(TOLD)
        self.assertIn("Right", self.text("#said"))
        self.assertIn("A third of the way up is", self.text("#after"))

    def test_a_ring_is_turned_by_the_mouse_and_the_marks_stand_still(self) -> None:
        self.do("ring")
        self.go_to("t.picture?.live")
        before = self.read("return document.querySelector('.ring-turns').getAttribute('transform')")
        label = self.text(".stop-label")
        ring = self.find(".ring-shown")
        ActionChains(self.driver).drag_and_drop_by_offset(ring, 70, 0).perform()
        after = self.read("return document.querySelector('.ring-turns').getAttribute('transform')")
        self.assertNotEqual(before, after)
        self.assertNotEqual(self.text(".stop-label"), label)


class StarTest(Drilled):
    pictured = True

    def test_it_is_as_wide_on_the_screen_as_optics_has_it(self) -> None:
        self.do("star")
        self.read("drill.task.picture.noise = 0; drill.task.picture.wobble = 0")
        token = self.read("return drill.task.picture.src").split("/")[-2]
        said = signing.loads(token, salt="drills")
        setup = Setup(said["focal"], said["f"], 0.03, diffraction=True)
        luck = np.random.default_rng(int(said["seed"]))
        place = (luck.uniform(-0.2, 0.2), luck.uniform(-0.2, 0.2))
        checked = 0
        for at in some(range(0, said["count"], 2), 3):
            out = said["first"] - at * said["step"]
            expected = disc_at(setup, out) / said["pixel"]
            if out > 0:
                focus = float(focus_of(setup, out / setup.focal_length))
                expected = float(total_blur(setup, math.inf, focus)) / said["pixel"]
            if expected < 2.0:
                continue  # of what is so small, pixels tell where it lies, and not its size
            self.assertAlmostEqual(self.wide(at, place), expected, delta=0.05 * expected)
            checked += 1
        self.assertGreaterEqual(checked, 20 if WHOLE else 6)

    def wide(self, at: int, place: tuple[float, float]) -> float:
        """How wide the star is on the screen at a stop, in pixels of the sensor."""
        self.read(f"drill.stage.go({at})")
        data = self.read("return document.querySelector('.stack canvas').toDataURL()")
        image = Image.open(io.BytesIO(base64.b64decode(data.partition(",")[2]))).convert("L")
        times = image.width // 72
        seen = linear(np.asarray(image, float) / 255)
        small = seen.reshape(54, times, 72, times).mean(axis=(1, 3))
        small = np.maximum(small - np.median(small), 0.0)
        x, y = (round((n - 1) / 2 + p * n / 2) for n, p in zip((72, 54), place, strict=True))
        return width_of(small[y - 11 : y + 12, x - 11 : x + 12])


class RingTest(Drilled):
    def test_the_view_keeps_up_while_the_ring_turns(self) -> None:
        self.do("star")
        frames = self.driver.execute_async_script(
            "const done = arguments[0]; const canvas = document.querySelector('.stack canvas');"
            "const begin = performance.now(); const first = Number(canvas.dataset.painted);"
            "let at = 0;"
            "const turn = () => { at += 1; drill.stage.go(at % 57);"
            "  if (performance.now() - begin < 1500) requestAnimationFrame(turn);"
            "  else done((Number(canvas.dataset.painted) - first) / 1.5); }; turn();"
        )
        self.assertGreaterEqual(frames, 10)


class ByTouchTest(Drilled):
    def setUp(self) -> None:
        super().setUp()
        chromium.resize(self.driver, PHONE, touch=True)
        self.addCleanup(chromium.resize, self.driver, chromium.WIDE)

    def turn(self, pixels: int) -> None:
        edge = self.find(".edge")
        steps = ActionChains(self.driver).move_to_element(edge).click_and_hold()
        steps.move_by_offset(0, pixels // 2).move_by_offset(0, pixels - pixels // 2)
        steps.release().perform()

    def test_a_called_position_is_turned_to_unseen_and_timed(self) -> None:
        self.do("positions")
        self.read("window.AudioContext = class { constructor() { window.aimSound = true; } }")
        first = self.read("return drill.task")
        self.wait_until("return drill.stage.since > 0")
        self.assertEqual(self.text(".called"), first["calls"])
        self.assertEqual(self.read("return document.querySelector('.judged')"), None)
        self.turn(-round((first["best"] - first["start"]) * 2.6))
        self.wait_until("return document.getElementById('task').dataset.told === '0'")
        self.assertIn("right", self.text("#said"))
        self.assertIsNone(self.read("return window.aimSound"))
        kept = self.sent(1)[0]
        self.assertTrue(kept.right)
        self.assertTrue(0 < (kept.ms or 0) < 10_000)
        self.wait_until("return drill.at === 1 && drill.stage.since > 0")  # and back home
        self.assertEqual(self.text(".called"), "Home")
        self.press(Keys.ENTER)  # left where it stood: a miss, and told so
        self.wait_until("return document.getElementById('task').dataset.told === '1'")
        self.assertIn("missed", self.text("#said"))

    def test_sounds_only_when_asked_for(self) -> None:
        self.do("positions")
        self.read("window.aimTones = []; window.AudioContext = class {"
                  " createOscillator() { const f = {}; window.aimTones.push(f);"
                  "  const connect = () => ({ connect() {} });"
                  "  return { frequency: f, connect, start() {}, stop() {} }; }"
                  " createGain() { return { gain: {} }; } }")  # fmt: skip
        self.read("document.getElementById('sound').click()")
        self.wait_until("return drill.stage.since > 0")
        self.assertEqual(self.read("return window.aimTones.length"), 1)
