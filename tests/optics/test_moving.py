"""Stepping back, with and without a crop: against brute force; roaming with a zoom; ring marks."""

from __future__ import annotations

import itertools
import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from optics import Setup
from optics.base import settable
from optics.base.errors import NotANumber, OutOfRange, WrongOrder
from optics.base.systems import SYSTEMS
from optics.lens import depth, zoom
from optics.scene import focus_distances
from optics.scene.moving import Keeping, NoStep, Step, Stuck, longer_lens, step_back

SAMPLE = Setup(24, 11, 0.025)


def first_step_that_holds(
    setup: Setup, near: float, far: float, keep: float | None, steps: np.ndarray
) -> float | None:
    """Walk back step by step; at each one crop so that ``keep`` has its old size, and look.

    Sizes go with 1/distance from the pupil, which for a thin lens is f(2 + m) − f from the sensor
    at focus m: taken with the ring between the ends, found by trying ring settings on a net.
    """
    f = float(setup.focal_length)
    for step in steps:
        ends = np.array([[near + step], [far + step]])
        focuses = focus_distances.between(setup, near + step, far + step) * np.linspace(
            0.9, 1.1, 4001
        )
        worst = np.asarray(depth.blur_disc(setup, ends, focuses)).max(axis=0)
        crop = 1.0
        if keep is not None:
            ring, before = (f / (focus - 2 * f) for focus in (
                focuses[worst.argmin()], focus_distances.between(setup, near, far)
            ))  # fmt: skip
            x, x_before = keep + step - f * (1 + ring), keep - f * (1 + before)
            crop = x / x_before * (1 + before) / (1 + ring)
        if worst.min() * crop <= float(setup.coc):
            return float(step)
    return None


class StepBackTest(unittest.TestCase):
    def test_against_walking_back_step_by_step(self) -> None:
        cases = (
            (SAMPLE, 800.0, math.inf, None),
            (SAMPLE, 800.0, math.inf, 4200.0),
            (SAMPLE, 800.0, 5000.0, 800.0),
            (SAMPLE, 900.0, 20000.0, 2000.0),
            (Setup(50, 8, 0.02), 3000.0, 9000.0, 3000.0),
        )
        for setup, near, far, keep in cases:
            with self.subTest(near=near, far=far, keep=keep):
                keeping = Keeping.AS_IT_IS if keep is None else Keeping.CROP
                found = step_back(setup, near, far, keep, keeping)
                assert isinstance(found, Step)
                around = found.back + np.arange(-40, 41) * 0.25  # quarters of a millimetre
                walked = first_step_that_holds(setup, near, far, keep, around)
                self.assertAlmostEqual(walked or 0, found.back, delta=0.6)

    def test_as_it_is_the_edge(self) -> None:
        found = step_back(SAMPLE, 800, math.inf)
        assert isinstance(found, Step)
        self.assertEqual((found.crop, found.coc), (1.0, 0.025))
        # With the far end at infinity the near mark comes to half the hyperfocal distance.
        half = float(depth.limits(SAMPLE, depth.hyperfocal(SAMPLE)).near)
        self.assertAlmostEqual(800 + found.back, half, 5)

    def test_a_crop_to_the_near_mark_undoes_it(self) -> None:
        found = step_back(SAMPLE, 800, math.inf, 800, Keeping.CROP)
        assert isinstance(found, Stuck)
        self.assertEqual(found.why, NoStep.CROP_UNDOES)
        worst = focus_distances.worst_blur(
            SAMPLE, 800, math.inf, focus_distances.between(SAMPLE, 800, math.inf)
        )
        self.assertAlmostEqual(found.best, worst / 0.025, 9)
        for back in (100.0, 5000.0):  # and it does, from anywhere
            walked = first_step_that_holds(
                replace(SAMPLE, coc=worst * 0.9999), 800, math.inf, 800, np.array([back])
            )
            self.assertIsNone(walked)

    def test_a_crop_to_something_nearer_in_the_middle_can_ask_too_much(self) -> None:
        found = step_back(SAMPLE, 700, math.inf, 900, Keeping.CROP)
        assert isinstance(found, Stuck)
        self.assertEqual(found.why, NoStep.CROP_EXCEEDS)
        self.assertGreater(found.best, 1)

    def test_pixels_are_not_tightened_by_a_crop(self) -> None:
        as_it_is = step_back(SAMPLE, 800, math.inf)
        cropped = step_back(SAMPLE, 800, math.inf, 800, Keeping.CROP_BY_PIXELS)
        assert isinstance(as_it_is, Step)
        assert isinstance(cropped, Step)
        self.assertAlmostEqual(cropped.back, as_it_is.back, 6)
        self.assertAlmostEqual(cropped.crop, (800 + cropped.back) / 800, delta=0.02)

    def test_no_step_where_it_holds_already_and_none_where_nothing_does(self) -> None:
        found = step_back(SAMPLE, 1300, 180000)
        assert isinstance(found, Step)
        self.assertEqual((found.back, found.crop), (0.0, 1.0))
        blind = step_back(Setup(24, 32, 0.01, diffraction=True), 1300, math.inf)
        assert isinstance(blind, Stuck)
        self.assertEqual(blind.why, NoStep.NEVER)
        stars = step_back(Setup(24, 32, 0.01, diffraction=True), math.inf, math.inf)
        assert isinstance(stars, Stuck)
        self.assertEqual(stars.why, NoStep.NEVER, "nothing comes nearer or goes farther")

    def test_a_longer_lens_from_there_holds_less_than_the_crop(self) -> None:
        found = step_back(SAMPLE, 800, math.inf, 4200, Keeping.CROP)
        assert isinstance(found, Step)
        longer = longer_lens(SAMPLE, 800, math.inf, 4200, found.back)
        self.assertAlmostEqual(longer.focal_length / 24, found.crop, delta=0.01)
        self.assertAlmostEqual(longer.circles, found.crop, delta=0.01)
        self.assertAlmostEqual(longer.f_number or 0, 11 * longer.circles, delta=0.01)

    def test_bad_input(self) -> None:
        cases = (
            (WrongOrder, lambda: step_back(SAMPLE, 2000, 1000)),
            (OutOfRange, lambda: step_back(SAMPLE, 800, 1000, None, Keeping.CROP)),
            (NotANumber, lambda: step_back(SAMPLE, 800, 1000, math.nan, Keeping.CROP)),
            (OutOfRange, lambda: step_back(SAMPLE, 800, 1000, math.inf, Keeping.CROP)),
        )
        for at, (error, call) in enumerate(cases):
            with self.subTest(at), self.assertRaises(error):
                call()


class RingMarksTest(unittest.TestCase):
    @given(st.floats(110, 2e5))
    def test_far_never_loses_infinity(self, focus: float) -> None:
        self.assertGreaterEqual(settable.ring_at_least(focus) * (1 + 1e-8), focus)

    def test_rings_rise(self) -> None:
        for ring in (system.ring for system in SYSTEMS):
            self.assertEqual(list(ring), sorted(set(ring)))


class RoamTest(unittest.TestCase):
    def test_where_to_focus_as_the_zoom_turns(self) -> None:
        found = zoom.roam(SAMPLE, (20, 24, 35))
        self.assertEqual([r.focus for r in found], [1500, 2500, 5000])
        for r in found:
            at = replace(SAMPLE, focal_length=r.focal_length)
            self.assertEqual(depth.limits(at, r.focus).far, math.inf)
            self.assertAlmostEqual(r.nearest, float(depth.limits(at, r.focus).near), 9)

    def test_a_few_numbers_cover_the_zoom(self) -> None:
        for most in (1, 2, 3, 9):
            found = zoom.bands(SAMPLE, 20, 35, most)
            self.assertLessEqual(len(found), most)
            self.assertEqual((found[0].shortest, found[-1].longest), (20, 35))
            for one, following in itertools.pairwise(found):
                self.assertAlmostEqual(one.longest, following.shortest, 5)
                self.assertLess(one.focus, following.focus)
            for band in found:
                for focal_length in np.linspace(band.shortest, band.longest, 9):
                    held = depth.limits(replace(SAMPLE, focal_length=focal_length), band.focus)
                    self.assertEqual(held.far, math.inf)
                    self.assertLessEqual(float(held.near), band.nearest * (1 + 1e-9))

    def test_cut_as_well_as_any_other_two(self) -> None:
        def given_away(bands: tuple[zoom.Band, ...]) -> float:
            return max(
                float(depth.limits(at, band.focus).near / depth.limits(at, ideal).near)
                for band in bands
                for at in (replace(SAMPLE, focal_length=band.shortest),)
                for ideal in (depth.hyperfocal(at),)
            )

        two = given_away(zoom.bands(SAMPLE, 20, 35, 2))
        for cut in np.linspace(20.5, 34.5, 60):
            foci = [
                settable.ring_at_least(float(depth.hyperfocal(replace(SAMPLE, focal_length=f))))
                for f in (cut, 35)
            ]
            other = (zoom.Band(20, cut, foci[0], 0), zoom.Band(cut, 35, foci[1], 0))
            self.assertLessEqual(two, given_away(other) * (1 + 1e-6))

    def test_bad_input(self) -> None:
        with self.assertRaises(WrongOrder):
            zoom.bands(SAMPLE, 35, 20)
        with self.assertRaises(OutOfRange):
            zoom.roam(SAMPLE, (24, -1))
