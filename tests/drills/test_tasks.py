"""What is true of answers, against plain geometry that is written out here."""

from __future__ import annotations

import math
import random
import unittest
from typing import Any

from drills import back, distance, focus, moment, positions, ring, star
from drills.every import BY_KEY, DRILLS
from drills.tasks import Gear, Stage, Task
from tests.drills.gears import GEARS, gear

CIRCLES = {1: 0.033, 2: 0.025, 3: 0.025}
"""mm, by level: what the marks were made for, and then one's own standard."""


def blur(f: float, n: float, at: float, subject: float) -> float:
    """The disc of a thin lens's defocus, mm, by the lens equation; distances mm from the sensor."""

    def image(distance: float) -> float:
        if math.isinf(distance):
            return f
        half = distance / 2  # u + v = distance, uv = f (u + v)
        return half - math.sqrt(half * half - f * distance)

    v = image(at)
    # The subject's own cone meets the sensor, which stays where it is: v behind the lens.
    u = math.inf if math.isinf(subject) else subject - v
    own = f if math.isinf(u) else 1.0 / (1.0 / f - 1.0 / u)
    return f / n * abs(v - own) / own


def every(seeds: int = 3) -> Any:
    for lens in GEARS:
        for drill in DRILLS:
            for part in drill.parts:
                for level in (1, 2, 3):
                    for seed in range(seeds):
                        yield lens, drill.make(lens, random.Random(seed), part, level)


class EveryTaskTest(unittest.TestCase):
    def test_each_has_an_answer_that_is_right_and_one_that_is_wrong(self) -> None:
        for lens, task in every():
            with self.subTest(
                task.drill, part=task.part, level=task.level, f=lens.kit.focal_length
            ):
                self.assertEqual(len(task.stops), len(task.outcomes))
                self.assertTrue(task.outcomes[task.best].right)
                self.assertFalse(all(one.right for one in task.outcomes))
                self.assertIn(task.start, range(len(task.stops)))
                self.assertTrue(all(math.isfinite(one.off) for one in task.outcomes))

    def test_the_same_chance_makes_the_same_task(self) -> None:
        for one, other in zip(every(1), every(1), strict=True):
            self.assertEqual(one[1].picture, other[1].picture)
            self.assertEqual(repr(one[1].outcomes), repr(other[1].outcomes))

    def test_a_higher_level_lets_no_more_pass(self) -> None:
        for drill in ("ring", "positions", "star", "back"):
            for part in BY_KEY[drill].parts:
                shares = [
                    sum(one.right for one in BY_KEY[drill].make(
                        gear(), random.Random(4), part, level).outcomes)
                    for level in (1, 3)
                ]  # fmt: skip
                self.assertLessEqual(shares[1], shares[0], (drill, part))


class TruthTest(unittest.TestCase):
    def make(self, drill: Any, part: str, seed: int, lens: Gear = GEARS[0], level: int = 2) -> Task:
        made: Task = drill.DRILL.make(lens, random.Random(seed), part, level)
        return made

    def test_distances(self) -> None:
        for seed in range(20):
            task = self.make(distance, distance.MIDDLE, seed)
            for stop, one in zip(task.stops, task.outcomes, strict=True):
                self.assertAlmostEqual(one.off, math.log(stop / task.facts["was"]))
                ratio = max(stop, one.was) / min(stop, one.was)
                self.assertEqual(one.right, ratio <= 1.15 * (1 + 1e-12))
            self.assertTrue(2500 <= task.facts["was"] < 6000)

    def test_what_the_marks_of_a_ring_tell(self) -> None:
        """The ends of the depth of field by the circle that the marks were made for."""
        for seed in range(18):
            for part in (ring.NEAREST, ring.FARTHEST):
                level = 1 + seed % 3
                task = self.make(ring, part, seed, level=level)
                f, n = 28.0, task.facts["f_number"]
                said = task.stops[task.best]
                at = task.facts["focus"]
                own = CIRCLES[level]
                if math.isinf(said):
                    self.assertLessEqual(blur(f, n, at, said), own * 1.001)
                    continue
                # The end lies beside what can be said of it: the circle of what is nearer to the
                # focus is smaller, and of what is farther from it larger.
                there = [blur(f, n, at, task.stops[task.best + k]) for k in (-1, 1)]
                self.assertTrue(min(there) <= own <= max(there), (seed, part, there))

    def test_infinity_to_a_mark(self) -> None:
        for seed in range(12):
            level = 1 + seed % 3
            task = self.make(ring, ring.INFINITY, seed, level=level)
            for stop, one in zip(task.stops, task.outcomes, strict=True):
                if one.right:
                    held = blur(28.0, task.facts["f_number"], stop, math.inf)
                    self.assertLessEqual(held, CIRCLES[level] * 1.0001)

    def test_a_stretch_that_is_held(self) -> None:
        for seed in range(12):
            level = 1 + seed % 3
            task = self.make(ring, ring.HOLD, seed, level=level)
            for stop, one in zip(task.stops, task.outcomes, strict=True):
                if stop < 400:
                    continue
                worst = max(
                    blur(28.0, task.facts["f_number"], stop, task.facts[end])
                    for end in ("near", "far")
                )
                if abs(worst / CIRCLES[level] - 1) > 1e-3:
                    self.assertEqual(one.right, worst < CIRCLES[level], (seed, stop))

    def test_which_mark(self) -> None:
        lens = gear()
        for seed in range(8):
            task = self.make(ring, ring.MARK, seed, lens)
            wanted = task.facts["f_number"] * lens.kit.coc / lens.scale_circle
            told = task.facts["true"]
            below = [n for n in lens.scale if n <= wanted * 1.03]
            self.assertEqual(told, max(below) if below else 0.0)

    def test_positions(self) -> None:
        """What is kept of a stretch: how much of it lies within the depth of field there."""
        lens = gear()
        task = self.make(positions, positions.AWAY, 2, lens)
        near, far = task.facts["near"], task.facts["far"]
        for stop, one in zip(task.stops, task.outcomes, strict=True):
            if stop < 4.2 * 28:
                continue
            inside = [
                d for d in (1 / (1 / far + (1 / near - 1 / far) * k / 400) for k in range(401))
                if blur(28.0, 8.0, stop, d) <= 0.025
            ]  # fmt: skip
            self.assertAlmostEqual(one.facts["kept"], len(inside) / 401, delta=0.02)
        self.assertEqual(task.outcomes[task.best].facts["kept"], 1.0)

    def test_a_walker_and_a_tile(self) -> None:
        for seed in range(8):
            task = self.make(moment, moment.TILE, seed)
            facts = task.facts
            closing = facts["speed"] * math.cos(math.radians(15.0))
            for at, one in enumerate(task.outcomes):
                there = facts["begins"] - closing * (at * 0.025 + 0.05)
                margin = 0.06 * there  # as it can be said
                if facts["near"] + margin < there < facts["far"] - margin:
                    self.assertTrue(one.right)
                elif not facts["near"] - margin < there < facts["far"] + margin:
                    self.assertFalse(one.right)
                    self.assertEqual(one.off < 0, there > facts["far"])

    def test_lag_is_the_middle_of_what_could_be_true_and_the_shutter(self) -> None:
        self.assertIsNone(moment.lag([0.2] * 4))
        self.assertAlmostEqual(moment.lag([0.01, 0.3, 0.25, 0.26, 0.24, 0.28, 3.0]) or 0, 0.31)

    def test_a_focus_point(self) -> None:
        """Rows, by the rays of a pinhole over flat ground, and both ends by the lens equation."""
        for seed in range(10):
            for part in (focus.RIDGE, focus.WALL):
                task = self.make(focus, part, seed)
                facts = task.facts
                for row, one in zip(task.stops, task.outcomes, strict=True):
                    t = (0.5 - row) * 24.0 / 28.0
                    angle = facts["tilt"] + math.atan(t)
                    ahead = math.inf
                    if angle > 0:
                        slant = facts["height"] / math.sin(angle)
                        ahead = slant * math.cos(math.atan(t)) + 28.0
                    at = min(ahead, facts["far"])
                    if at < 340:
                        continue
                    worst = max(
                        blur(28.0, facts["f_number"], at, facts[e]) for e in ("near", "far")
                    )
                    if abs(worst / 0.025 - 1) > 2e-3:
                        self.assertEqual(one.right, worst < 0.025, (seed, part, row))
                self.assertEqual(task.stops[facts["third"]], 20 / 60)

    def test_back_from_infinity(self) -> None:
        for lens in GEARS[:3]:
            task = self.make(back, back.CLEAR, 1, lens)
            f, n = lens.kit.focal_length, task.facts["f_number"]
            for one in task.outcomes:
                at = one.facts["focus"]
                self.assertAlmostEqual(
                    one.facts["blur"], blur(f, n, at, math.inf) / lens.kit.coc, places=6
                )
                self.assertLessEqual(one.facts["blur"] if one.right else 0.0, 1.0)
            over = f * f / (n * lens.kit.coc) + 2 * f
            self.assertAlmostEqual(task.facts["over"], over, delta=0.1 * over)

    def test_a_star_is_as_wide_as_the_lens_makes_it(self) -> None:
        setup = gear(50.0, 1.8).kit.at(1.8)
        for out in (-0.1, -0.03, 0.02, 0.08):
            wide = star.disc_at(setup, out)
            self.assertAlmostEqual(wide, abs(out) / 1.8, delta=0.06 * abs(out) / 1.8 + 0.0008)
        self.assertLess(star.disc_at(setup, 0.0), 0.002)

    def test_of_a_lens_that_shifts_what_counts_is_how_it_is_taken(self) -> None:
        for seed in range(6):
            task = self.make(star, star.SHIFT, seed)
            assert task.picture is not None
            assert task.after is not None
            seen = min(
                range(len(task.stops)),
                key=lambda at, t=task: abs(t.picture["first"] - at * t.picture["step"]),
            )
            self.assertGreaterEqual(abs(task.best - seen), 4)
            self.assertFalse(task.outcomes[seen].right)
            self.assertEqual(task.stage, Stage.DIAL)
