"""The axis: where distances stand, which get a tick, and that no two labels touch."""

from __future__ import annotations

import itertools
import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from drawing.lettering import text_width
from drawing.scale import DistanceScale, fitting
from drawing.ticks import ticks
from optics.base import units

nears = st.floats(100, 5e4)
fars = st.one_of(st.floats(1.002, 3000), st.just(math.inf))
widths = st.sampled_from([300.0, 328.0, 820.0, 1400.0])
systems = st.sampled_from(units.SYSTEMS)
SIZE = 14.0


class ScaleTest(unittest.TestCase):
    @given(nears, fars, st.floats(0, 1))
    def test_distance_and_position_are_inverse(self, near: float, ratio: float, at: float) -> None:
        scale = DistanceScale(near, near * ratio, 50, 900)
        x = 50 + 850 * at
        back = scale.x(scale.distance(x))
        self.assertAlmostEqual(back, x, delta=1e-6 / scale.span * 1e-6 + 1e-6)

    def test_it_is_even_in_inverse_distance(self) -> None:
        scale = DistanceScale(1000, math.inf, 0, 100)
        self.assertEqual([scale.x(d) for d in (1000, 2000, 4000, math.inf)], [0, 50, 75, 100])
        self.assertEqual(scale.distance(100), math.inf)
        self.assertEqual(scale.clamped(500), 0)

    @given(st.lists(st.floats(100, 1e6), min_size=1, max_size=8), st.booleans())
    def test_everything_of_interest_stands_on_it_with_room(
        self, interest: list[float], infinite: bool
    ) -> None:
        if infinite:
            interest.append(math.inf)
        scale = fitting(tuple(interest), 0, 800)
        self.assertTrue(all(scale.contains(distance) for distance in interest))
        self.assertGreater(scale.x(min(interest)), 0)
        if math.isfinite(scale.far):
            self.assertLess(scale.x(max(interest)), 800)

    def test_a_small_change_moves_nothing(self) -> None:
        ends = {fitting((800, 1185 + k, math.inf), 0, 800) for k in range(-40, 40, 5)}
        self.assertEqual(len(ends), 1)


class TicksTest(unittest.TestCase):
    @given(nears, fars, widths, systems)
    def test_labels_never_collide_and_stand_where_they_say(
        self, near: float, ratio: float, width: float, system: str
    ) -> None:
        scale = DistanceScale(near, near * ratio, 40, 40 + width)
        row = ticks(scale, system, SIZE)
        labelled = [tick for tick in row if tick.label]
        self.assertTrue(labelled, "an axis without a single number")
        for left, right in itertools.pairwise(labelled):
            gap = (right.x - text_width(right.label, SIZE) / 2) - (
                left.x + text_width(left.label, SIZE) / 2
            )
            self.assertGreater(gap, 4, (left, right))
        for left, right in itertools.pairwise(row):
            self.assertGreaterEqual(right.x - left.x, 4.99)
        for tick in labelled:
            said = units.parse(tick.label, system)
            if math.isfinite(said):
                self.assertAlmostEqual(said / tick.distance, 1, delta=1e-4, msg=tick)
            self.assertAlmostEqual(scale.x(tick.distance), tick.x, 6)
        if math.isinf(scale.far):
            self.assertEqual(labelled[-1].label, "∞")

    def test_well_chosen_for_the_sample_scene(self) -> None:
        scale = DistanceScale(700, math.inf, 92, 912)
        metres = [tick.label for tick in ticks(scale, "m", SIZE) if tick.label]
        self.assertEqual(
            metres,
            [
                "0.7",
                "0.8",
                "0.9",
                "1 m",
                "1.2",
                "1.5",
                "2",
                "2.5",
                "3",
                "4",
                "5",
                "7",
                "10",
                "20",
                "∞",
            ],
        )
        feet = [tick.label for tick in ticks(scale, "ft", SIZE) if tick.label]
        self.assertEqual(feet, ["2½", "3", "4", "5", "6", "7", "8", "10 ft", "15", "20", "50", "∞"])

    def test_close_up_the_steps_are_even(self) -> None:
        scale = fitting((448.3, 450, 451.7), 0, 820)
        labels = [tick.label for tick in ticks(scale, "m", SIZE) if tick.label]
        self.assertEqual(labels[0], "0.448 m")
        steps = {round(float(b) - float(a), 6) for a, b in itertools.pairwise(labels[1:])}
        self.assertEqual(len(steps), 1)
