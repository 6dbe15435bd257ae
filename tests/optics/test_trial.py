"""A trial frame: what it leaves possible, against drawing worlds at random and throwing out those
in which the frame would have come out differently."""

from __future__ import annotations

import math
import unittest
from dataclasses import dataclass

from optics import Setup
from optics.lens import focusing
from optics.lens.depth import focus_window
from optics.scene.trial_frame import Frame, Revised, revise
from tests import chance
from tests.optics import rays

SETUP = Setup(24, 11, 0.025)
WORLDS = 40_000


@dataclass(frozen=True)
class Seen:
    """A mark as the trial frame showed it."""

    depth: float
    doubt: float
    sharp: bool | None


def revised(focus: float, error: float, seen: list[Seen]) -> Revised | None:
    """One frame's worth."""
    came = tuple(mark.sharp for mark in seen)
    return revise([Frame(SETUP, focus, came)], error, [(m.depth, m.doubt) for m in seen])


def imagined(focus: float, error: float, seen: list[Seen]) -> tuple[list[float], float, int]:
    """The mean 1/depth of each mark and the mean travel of the lens over the worlds that fit."""
    dice = chance(5)
    f = float(SETUP.focal_length)
    at = rays.sensor_behind_rear_plane(f, 0.0, focus)
    ends = []
    for mark in seen:
        v_near, v_far = (
            rays.sensor_behind_rear_plane(f, 0.0, mark.depth + side * mark.doubt)
            for side in (-1, 1)
        )
        ends.append((v_far, v_near))
    sums, travel, kept = [0.0] * len(seen), 0.0, 0
    for _ in range(WORLDS):
        off = dice.uniform(-error, error)
        images = [dice.uniform(low, high) for low, high in ends]
        # A cone f/N wide that meets at v is |v - sensor| / v of that at the sensor.
        blurs = [f / float(SETUP.f_number) * abs(v - at - off) / v for v in images]
        fits = (
            mark.sharp is None or (blur <= float(SETUP.coc)) is mark.sharp
            for mark, blur in zip(seen, blurs, strict=True)
        )
        if all(fits):
            kept += 1
            travel += off
            for index, v in enumerate(images):
                sums[index] += v
    return [total / kept for total in sums], travel / kept, kept


class TrialTest(unittest.TestCase):
    def revised(self, focus: float, error: float, seen: list[Seen]) -> Revised:
        found = revised(focus, error, seen)
        assert found is not None
        return found

    def test_it_agrees_with_worlds_drawn_at_random(self) -> None:
        cases = (
            (2600.0, 0.05, [Seen(1300, 130, sharp=False), Seen(180000, 9000, sharp=None)]),
            (2200.0, 0.04, [Seen(1150, 115, sharp=False), Seen(8000, 1200, sharp=True)]),
            (2100.0, 0.03, [Seen(1500, 225, sharp=True), Seen(60000, 9000, sharp=False)]),
        )
        for focus, error, seen in cases:
            with self.subTest(focus=focus):
                places, travel, kept = imagined(focus, error, seen)
                found = self.revised(focus, error, seen)
                self.assertGreater(kept, 500)
                # A mean of that many draws from so wide a stretch is good to about this.
                self.assertAlmostEqual(found.offset, travel, delta=4 * error / math.sqrt(kept))
                for depth, mark, v in zip(found.depths, seen, places, strict=True):
                    if mark.sharp is None:
                        continue
                    wanted = rays.sensor_behind_rear_plane(24.0, 0.0, depth)
                    near = rays.sensor_behind_rear_plane(24.0, 0.0, mark.depth - mark.doubt)
                    far = rays.sensor_behind_rear_plane(24.0, 0.0, mark.depth + mark.doubt)
                    self.assertAlmostEqual(
                        wanted, v, delta=4 * (near - far) / math.sqrt(kept) + 1e-5
                    )

    def test_a_soft_near_end_is_nearer_or_the_lens_farther(self) -> None:
        found = self.revised(2600.0, 0.05, [Seen(1300, 130, sharp=False)])
        self.assertLess(found.depths[0], 1300)
        self.assertGreater(found.really, 2600)

    def test_who_is_in_doubt_takes_the_blame(self) -> None:
        sure_mark = self.revised(2600.0, 0.05, [Seen(1300, 0, sharp=False)])
        self.assertAlmostEqual(sure_mark.depths[0], 1300)
        sure_ring = self.revised(2600.0, 0.0, [Seen(1250, 200, sharp=False)])
        self.assertAlmostEqual(sure_ring.really, 2600)
        self.assertLess(sure_ring.depths[0], 1250)

    def test_what_cannot_be_is_said(self) -> None:
        self.assertIsNone(revised(2600.0, 0.01, [Seen(2600, 50, sharp=False)]))

    def test_nothing_said_changes_nothing(self) -> None:
        found = self.revised(2600.0, 0.05, [Seen(1300, 130, None), Seen(math.inf, 0, None)])
        self.assertEqual(found.depths, (1300, math.inf))
        self.assertAlmostEqual(found.really, 2600, 6)


class FocusingTest(unittest.TestCase):
    def test_travel_is_how_far_the_sensor_stands_apart(self) -> None:
        for near, far in ((1000.0, 3000.0), (300.0, 310.0), (2000.0, math.inf)):
            apart = rays.sensor_behind_rear_plane(24, 0, near) - rays.sensor_behind_rear_plane(
                24, 0, far
            )
            self.assertAlmostEqual(focusing.travel(SETUP, near, far), apart, 9)

    def test_where_the_ring_may_end_up(self) -> None:
        near, far = focusing.in_distance(SETUP, 2600.0, 0.03)
        self.assertAlmostEqual(focusing.travel(SETUP, near, 2600.0), 0.03, 9)
        self.assertAlmostEqual(focusing.travel(SETUP, 2600.0, far), 0.03, 9)
        self.assertEqual(focusing.in_distance(SETUP, 2600.0, 0.5)[1], math.inf)

    def test_room_on_both_sides_of_the_ring_and_past_infinity(self) -> None:
        def blur(subject: float, sensor: float) -> float:
            return rays.blur(24, 11, 1.0, 0.0, sensor, subject)

        for near, far, focus in (
            (1300.0, 180000.0, 2600.0),
            (1300.0, math.inf, 2300.0),
            (5000.0, math.inf, 8000.0),
            (math.inf, math.inf, math.inf),
        ):
            with self.subTest(near=near):
                window = focus_window(SETUP, near, far)
                assert window is not None
                room = focusing.room(SETUP, window, focus, near)
                at = rays.sensor_behind_rear_plane(24, 0, focus)
                # Off by as much either way both ends hold; by a hundredth more, one does not.
                worst = [
                    max(
                        blur(end, at + side * share * room)
                        for end in (near, far)
                        for side in (-1, 1)
                    )
                    for share in (0.999, 1.01)
                ]
                self.assertLessEqual(worst[0], 0.025)
                self.assertGreater(worst[1], 0.025)

    def test_ways_against_a_window(self) -> None:
        found = focusing.errors(24, 4, 0.006, None)
        by_way = {error.way: error for error in found}
        # By hand: two pixels of 6 µm at f/4 let the picture lie 48 µm off.
        self.assertAlmostEqual(by_way[focusing.Way.MAGNIFIED].worst, 0.048)
        self.assertAlmostEqual(by_way[focusing.Way.SPOT].best, 0.032)
        self.assertNotIn(focusing.Way.SCALE, by_way, "no ring, no scale")
        self.assertEqual(focusing.fit(by_way[focusing.Way.MAGNIFIED], 0.05), focusing.Fit.GOOD)
        self.assertEqual(focusing.fit(by_way[focusing.Way.MAGNIFIED], 0.03), focusing.Fit.CAREFUL)
        self.assertEqual(focusing.fit(by_way[focusing.Way.MAGNIFIED], 0.02), focusing.Fit.NOT)
        fast = {e.way: e for e in focusing.errors(24, 1.4, 0.006, None)}
        self.assertAlmostEqual(fast[focusing.Way.EYE].best, 0.03 * 2.8, msg="the screen's limit")

    def test_swinging_makes_it_shallower(self) -> None:
        self.assertAlmostEqual(focusing.swung(3000.0, math.radians(30)), 2598.08, 2)
