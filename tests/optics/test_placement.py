"""Placing focus, and the apertures that go with it."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from optics import Setup
from optics.base import settable, units
from optics.base.errors import FocusTooNear, NotANumber, OutOfRange, SubjectTooNear, WrongOrder
from optics.lens import aperture, depth
from optics.lens.conjugates import nearest_focus
from optics.scene import focus_distances
from tests.optics.reference import values
from tests.optics.test_depth import setups

SAMPLE = Setup(24, 11, 0.025)


class BetweenTest(unittest.TestCase):
    def test_reference(self) -> None:
        focus = focus_distances.between(SAMPLE, 1300, 180000)
        expected = values.BETWEEN_FOCUS
        self.assertAlmostEqual(focus, expected.value, delta=expected.tolerance)
        worst = focus_distances.worst_blur(SAMPLE, 1300, 180000, focus)
        self.assertAlmostEqual(
            worst, values.BETWEEN_BLUR.value, delta=values.BETWEEN_BLUR.tolerance
        )

    @given(setups, st.floats(1.3, 300), st.one_of(st.floats(1.001, 1e4), st.just(math.inf)))
    def test_both_ends_are_equally_blurred(self, setup: Setup, start: float, ratio: float) -> None:
        near = float(nearest_focus(setup)) * start
        focus = focus_distances.between(setup, near, near * ratio)
        blurs = [float(depth.blur_disc(setup, end, focus)) for end in (near, near * ratio)]
        scale = setup.focal_length / setup.f_number
        self.assertAlmostEqual(blurs[0], blurs[1], delta=1e-9 * blurs[0] + 1e-13 * scale)
        self.assertLess(near, focus)
        self.assertLess(focus, near * ratio)

    def test_one_distance_or_infinity_alone(self) -> None:
        self.assertAlmostEqual(focus_distances.between(SAMPLE, 1300, 1300), 1300, 6)
        self.assertEqual(focus_distances.between(SAMPLE, math.inf, math.inf), math.inf)
        self.assertAlmostEqual(focus_distances.between(SAMPLE, 96, 96), 96, 4)

    @given(setups, st.lists(st.floats(1.3, 300), min_size=1, max_size=4), st.floats(1.001, 1e4))
    def test_arrays_give_what_plain_numbers_do(
        self, setup: Setup, starts: list[float], ratio: float
    ) -> None:
        nears = float(nearest_focus(setup)) * np.array(starts)
        found = np.asarray(focus_distances.between(setup, nears, nears * ratio))
        for near, focus in zip(nears, found, strict=True):
            self.assertAlmostEqual(
                focus / focus_distances.between(setup, near, near * ratio), 1, 12
            )
        lenses = replace(setup, focal_length=np.array([setup.focal_length, setup.focal_length]))
        self.assertEqual(
            np.shape(focus_distances.between(lenses, nears[0], nears[0] * ratio)), (2,)
        )
        self.assertEqual(np.shape(focus_distances.infinity(setup, np.array([1.0, 2.0]))), (2,))

    def test_an_array_says_which_element(self) -> None:
        with self.assertRaises(FocusTooNear) as caught:
            focus_distances.between(SAMPLE, np.array([1300.0, 60.0]), np.array([2000.0, 61.0]))
        self.assertEqual(caught.exception.index, (1,))
        self.assertAlmostEqual(caught.exception.value, 60, 9)

    def test_bad_input(self) -> None:
        cases = (
            (WrongOrder, 2000, 1000),
            (NotANumber, math.nan, 1000),
            (SubjectTooNear, 20, 1000),
            (FocusTooNear, 60, 61),
        )
        for error, near, far in cases:
            with self.subTest(error.__name__), self.assertRaises(error):
                focus_distances.between(SAMPLE, near, far)


class ApertureTest(unittest.TestCase):
    def test_f_number_needed(self) -> None:
        needed = aperture.widest_holding(SAMPLE, 1300, 180000)
        assert needed is not None
        expected = values.F_NUMBER_NEEDED
        self.assertAlmostEqual(needed, expected.value, delta=expected.tolerance)
        self.assertEqual(aperture.next_settable(needed), 10)

    @given(setups, st.floats(1.3, 300), st.floats(1.01, 1e4))
    def test_it_is_the_smallest_that_holds(self, setup: Setup, start: float, ratio: float) -> None:
        near = float(nearest_focus(setup)) * start
        far = near * ratio
        needed = aperture.widest_holding(setup, near, far)
        if needed is None:
            return
        self.assertGreaterEqual(needed, aperture.WIDEST)

        def holds(f_number: float) -> bool:
            return depth.focus_window(replace(setup, f_number=f_number), near, far) is not None

        self.assertTrue(holds(needed * 1.001))
        if needed > aperture.WIDEST:
            self.assertFalse(holds(needed * 0.98))

    def test_the_next_engraved_number(self) -> None:
        self.assertEqual(aperture.next_settable(9.05), 10)
        self.assertIsNone(aperture.next_settable(91))
        with self.assertRaises(OutOfRange):
            aperture.next_settable(0)

    def test_engraved_numbers_are_what_they_are_named_for(self) -> None:
        for series in (aperture.FULL, aperture.HALVES, aperture.THIRDS):
            for at, name in enumerate(series.names):
                with self.subTest(name=name, per_stop=series.per_stop):
                    self.assertAlmostEqual(name / series.exact(at), 1, delta=0.06)
        self.assertAlmostEqual(aperture.FULL.exact(aperture.FULL.names.index(11)), 8 * 2**0.5, 12)
        self.assertEqual(aperture.HALVES.from_to(2.8, 6), (2.8, 3.3, 4, 4.8, 5.6))

    def test_names_and_exact_stops(self) -> None:
        self.assertAlmostEqual(aperture.exact(11), 8 * math.sqrt(2), 12)
        self.assertEqual(aperture.exact(11.5), 11.5)

    def test_stops_between(self) -> None:
        self.assertAlmostEqual(aperture.stops_between(4, 16), 4)
        self.assertAlmostEqual(aperture.stops_between(8, 8 / math.sqrt(2)), -1)


class SharpestTest(unittest.TestCase):
    def test_reference(self) -> None:
        found = aperture.sharpest(SAMPLE, 1300, 180000)
        self.assertAlmostEqual(found, values.SHARPEST_F_NUMBER.value, delta=0.1)
        focus = focus_distances.between(SAMPLE, 1300, 180000)
        setup = replace(SAMPLE, f_number=found)
        blur = max(depth.total_blur(setup, end, focus) for end in (1300, 180000))
        expected = values.SHARPEST_BLUR
        self.assertAlmostEqual(blur, expected.value, delta=expected.tolerance)

    @given(setups, st.floats(1.3, 300), st.floats(1.05, 1e4), st.floats(1.05, 4))
    def test_no_other_aperture_is_sharper(
        self, setup: Setup, start: float, ratio: float, factor: float
    ) -> None:
        near = float(nearest_focus(setup)) * start
        far = near * ratio
        best = aperture.sharpest(setup, near, far)
        focus = focus_distances.between(setup, near, far)

        def worst(f_number: float) -> float:
            at = replace(setup, f_number=f_number, diffraction=True)
            return max(float(depth.total_blur(at, end, focus)) for end in (near, far))

        for other in (best * factor, best / factor):
            if aperture.WIDEST <= other <= aperture.NARROWEST:
                self.assertGreaterEqual(worst(other), worst(best) * (1 - 1e-6))

    @given(st.floats(12, 200), st.floats(0.012, 0.05), st.floats(1.5, 100), st.floats(1.05, 100))
    def test_with_diffraction_the_widest_holding_is_the_edge(
        self, focal_length: float, coc: float, start: float, ratio: float
    ) -> None:
        setup = Setup(focal_length, 8, coc, diffraction=True)
        near = float(nearest_focus(setup)) * start
        far = near * ratio

        def holds(f_number: float) -> bool:
            return depth.focus_window(replace(setup, f_number=f_number), near, far) is not None

        needed = aperture.widest_holding(setup, near, far)
        if needed is None:
            self.assertFalse(any(holds(float(n)) for n in aperture.THIRDS.names))
            return
        self.assertTrue(holds(needed * (1 + 1e-7)))
        if needed > aperture.WIDEST:
            self.assertFalse(holds(needed * (1 - 1e-6)))

    def test_nothing_holds_past_the_narrowest_useful(self) -> None:
        setup = Setup(24, 8, 0.025, diffraction=True)
        last = aperture.narrowest_useful(setup, 2600)
        self.assertFalse(depth.limits(replace(setup, f_number=last * 0.9999), 2600).empty)
        self.assertTrue(depth.limits(replace(setup, f_number=last * 1.0001), 2600).empty)


class SettableTest(unittest.TestCase):
    def test_rounding_stays_in_the_window(self) -> None:
        cases = (
            # focus, window, units → setting
            (2557.8, (2118.5, 3250.7), "m", 2600, 2),
            (2142.8, (2142.8, math.inf), "m", 2200, 2),
            (2557.8, (2118.5, 3250.7), "ft", 8.5 * 304.8, 2),
            (2531.0, (2528.0, 2534.0), "m", 2530, 3),
            (450.0, (448.0, 452.0), "m", 450, 2),
            (math.inf, (5000, math.inf), "m", math.inf, 2),
        )
        for focus, window, system, expected, figures in cases:
            with self.subTest(focus=focus, system=system):
                setting = settable.within(focus, *window, system)
                self.assertAlmostEqual(setting.focus, expected, 6)
                self.assertEqual(settable.figures_of(setting.focus, system), figures)
                self.assertTrue(setting.held)

    def test_infinity_is_on_every_grid(self) -> None:
        for rounded in (settable.nearest, settable.up, settable.down):
            self.assertEqual(rounded(math.inf), math.inf)
        span = settable.inside(math.inf, math.inf)
        self.assertEqual((span.near, span.far), (math.inf, math.inf))
        self.assertEqual(units.write(0.0), "0 mm")

    def test_what_no_hand_can_set_is_said(self) -> None:
        setting = settable.within(2531.4, 2531.2, 2531.6)
        self.assertFalse(setting.held)
        self.assertEqual(setting.focus, 2531.4)

    @given(st.floats(20, 1e6), st.sampled_from(["m", "ft"]), st.sampled_from([2, 3]))
    def test_up_and_down_enclose(self, distance: float, system: str, figures: int) -> None:
        low = settable.down(distance, system, figures)
        high = settable.up(distance, system, figures)
        self.assertLessEqual(low, distance * (1 + 1e-8))
        self.assertGreaterEqual(high, distance * (1 - 1e-8))
        step = settable.grid_step(distance, system, figures)
        self.assertLessEqual(high - low, 1.0001 * step)
        self.assertAlmostEqual(settable.up(low, system, figures), low, delta=1e-6)

    @given(st.floats(300, 1e5), st.floats(1.02, 1e3), st.sampled_from(["m", "ft"]))
    def test_a_stretch_is_rounded_inwards(self, near: float, ratio: float, system: str) -> None:
        span = settable.inside(near, near * ratio, system)
        self.assertGreaterEqual(span.near, near * (1 - 1e-8))
        self.assertLessEqual(span.far, near * ratio * (1 + 1e-8))
        self.assertLess(span.near, span.far)

    @given(st.floats(300, 1e5), st.floats(1e-7, 1e-3), st.sampled_from(["m", "ft"]))
    def test_turning_moves_and_turning_far_reaches_infinity(
        self, start: float, inverse: float, system: str
    ) -> None:
        start = settable.nearest(start, system)
        self.assertLess(settable.shift(start, inverse, system), start)
        self.assertGreater(settable.shift(start, -inverse, system), start)
        self.assertEqual(settable.shift(start, -1.0, system), math.inf)
        self.assertLess(settable.shift(math.inf, inverse, system), math.inf)
        self.assertGreaterEqual(settable.shift(start, 1.0, system, least=250.0), 250.0)
