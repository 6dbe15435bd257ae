"""Blur by waves: the integral against outside values, and the fast table against the integral."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from optics import Setup
from optics.base.errors import NotANumber, OutOfRange, SubjectTooNear
from optics.lens import depth, diffraction, wave
from optics.lens.conjugates import focus_of, nearest_focus
from tests.optics.reference import values
from tests.optics.test_depth import how_far, setups

counting = st.builds(
    Setup,
    focal_length=st.floats(8, 400),
    f_number=st.floats(1, 32),
    coc=st.floats(0.004, 0.1),
    pupil_ratio=st.floats(0.5, 2.0),
    diffraction=st.just(True),
    lens_disc=st.one_of(st.just(0.0), st.floats(0.001, 0.01)),
)


def overlap_by_area(frequency: float, defocus: float, wavelength: float, grid: int = 1501) -> float:
    """The transfer function for N = 1 by summing over the overlap of two pupils, cell by cell.

    In the plane of the pupil, of radius 1: shear s = λν each way, and across the overlap the
    phase 2π W₂₀·2·2s·x/λ, with W₂₀ the defocus in length at the edge: disc ÷ 8N for N = 1.
    """
    shear = wavelength * frequency
    x = np.linspace(-1, 1, grid)
    across, up = np.meshgrid(x, x)
    inside = ((across - shear) ** 2 + up**2 <= 1) & ((across + shear) ** 2 + up**2 <= 1)
    edge = defocus / 8
    phase = 2 * np.pi / wavelength * edge * 4 * shear * across
    cell = (x[1] - x[0]) ** 2
    return float(np.sum(np.cos(phase)[inside]) * cell / np.pi)


class WaveTest(unittest.TestCase):
    def test_a_sharp_lens_has_the_published_transfer_function(self) -> None:
        frequency = np.linspace(0, 2500, 101)
        found = wave.transfer(frequency, 0.0, 550e-6)
        s = np.minimum(frequency * 550e-6, 1.0)  # the closed form of a sharp lens: [born]
        published = 2 / np.pi * (np.arccos(s) - s * np.sqrt(1 - s * s))
        np.testing.assert_allclose(found, published, rtol=0, atol=1e-12)

    def test_at_long_waves_defocus_alone_is_a_uniform_disc(self) -> None:
        # λ → 0 leaves the transfer function of a disc, 2J₁(z)/z: one half at z = 2.21509.
        frequency = wave.DISC_HALF / (np.pi * 0.02)
        self.assertAlmostEqual(float(wave.transfer(frequency, 0.02, 1e-9)), 0.5, 5)

    def test_the_integral_agrees_with_summing_over_the_overlap(self) -> None:
        for frequency, defocus in ((300.0, 0.0), (300.0, 0.002), (700.0, 0.001), (120.0, 0.004)):
            with self.subTest(frequency=frequency, defocus=defocus):
                found = float(wave.transfer(frequency, defocus, 550e-6))
                # A grid of 1501 cells leaves about 1e-3 at the jagged edge of the overlap.
                summed = overlap_by_area(frequency, defocus, 550e-6)
                self.assertAlmostEqual(found, summed, delta=2e-3)

    def test_nothing_passes_the_cut_off(self) -> None:
        self.assertEqual(float(wave.transfer(1 / 550e-6, 0.001, 550e-6)), 0)
        with self.assertRaises(OutOfRange):
            wave.transfer(-1, 0, 550e-6)


class CombineTest(unittest.TestCase):
    def test_reference(self) -> None:
        for f_number, defocus, expected in values.EQUIVALENT_DISC:
            with self.subTest(f_number=f_number, defocus=defocus):
                found = float(diffraction.combine(defocus, f_number))
                self.assertAlmostEqual(found, expected.value, delta=expected.tolerance)
        self.assertAlmostEqual(float(diffraction.disc(8)), 0.0077324, 7)

    def test_within_a_percent_of_the_integral_over_the_whole_grid(self) -> None:
        f_number = np.geomspace(1.4, 32, 24)[:, np.newaxis]
        defocus = np.linspace(0, 0.1, 51)
        truth = f_number * wave.equivalent_disc(defocus / f_number)
        error = np.asarray(diffraction.combine(defocus, f_number)) / truth - 1
        self.assertLess(np.abs(error).max(), 0.01, "the promise")
        self.assertLess(np.abs(error).max(), 2e-6, "what the table does")

    def test_the_airy_diameter_in_quadrature_is_not_acceptable(self) -> None:
        airy = 2.44 * 550e-6 * 8
        wrong = math.hypot(0.012, airy) / float(diffraction.combine(0.012, 8))
        self.assertGreater(wrong, 1.2)
        self.assertAlmostEqual(airy / float(diffraction.disc(8)), 1.39, 2)

    @given(st.floats(1, 45), st.floats(0, 0.5))
    def test_what_is_left_for_defocus_undoes_it(self, f_number: float, defocus: float) -> None:
        total = diffraction.combine(defocus, f_number)
        again = float(diffraction.defocus_within(total, f_number))
        # The curve starts level: near no defocus at all, its inverse has half the figures.
        self.assertAlmostEqual(again, defocus, delta=1e-9 * defocus + 1e-7 * f_number)

    @given(st.floats(1, 45), st.floats(0, 200))
    def test_plain_numbers_take_a_shorter_way_to_the_same(self, n: float, total: float) -> None:
        found = diffraction.defocus_within_plain(total, n)
        same = float(diffraction.defocus_within(total, n))
        np.testing.assert_allclose(found, same, rtol=1e-12)

    @given(st.floats(1, 45), st.floats(0, 0.2), st.floats(1.001, 3))
    def test_more_of_either_is_more(self, f_number: float, defocus: float, more: float) -> None:
        less = float(diffraction.combine(defocus, f_number))
        self.assertGreaterEqual(float(diffraction.combine(defocus * more, f_number)), less)
        self.assertGreaterEqual(less * diffraction.MOST_ALLOWED, defocus)
        self.assertGreaterEqual(less, float(diffraction.disc(f_number)) * (1 - 1e-7))

    def test_bad_input(self) -> None:
        with self.assertRaises(OutOfRange):
            diffraction.disc(0)
        with self.assertRaises(NotANumber) as caught:
            diffraction.combine(np.array([0.01, math.nan]), 8)
        self.assertEqual(caught.exception.index, (1,))
        self.assertTrue(math.isnan(diffraction.defocus_within(0.001, 8)))


class CountedTest(unittest.TestCase):
    """*Holds* with diffraction: the combined equivalent disc is at most the circle."""

    def test_reference(self) -> None:
        fields, expected = values.HYPERFOCAL_WITH_DIFFRACTION
        setup = Setup(*fields, diffraction=True)
        found = float(depth.hyperfocal(setup))
        self.assertAlmostEqual(found, expected.value, delta=expected.tolerance)
        fields, focus, near = values.NEAR_WITH_DIFFRACTION
        limits = depth.limits(Setup(*fields, diffraction=True), focus)
        self.assertAlmostEqual(float(limits.near), near.value, delta=near.tolerance)
        self.assertEqual(limits.far, math.inf)

    def test_nothing_holds_where_diffraction_alone_is_too_much(self) -> None:
        setup = Setup(24, 22, 0.02, diffraction=True)
        limits = depth.limits(setup, 3000)
        self.assertTrue(limits.empty)
        self.assertTrue(math.isnan(float(limits.far)))
        self.assertEqual(depth.hyperfocal(setup), math.inf)
        self.assertIsNone(depth.focus_window(setup, 1000, 2000))
        several = Setup(24, np.array([8.0, 22.0]), 0.02, diffraction=True)
        found = np.asarray(depth.hyperfocal(several))
        self.assertAlmostEqual(found[0], depth.hyperfocal(replace(setup, f_number=8)), 6)
        self.assertEqual(found[1], math.inf)
        self.assertEqual(list(depth.limits(several, 3000).empty), [False, True])  # type: ignore[arg-type]

    @given(counting, st.floats(1.01, 1e4))
    def test_blur_at_a_limit_is_the_standard(self, setup: Setup, far: float) -> None:
        focus = float(nearest_focus(setup)) * far
        limits = depth.limits(setup, focus)
        if limits.empty:
            return
        for limit in (limits.near, limits.far):
            if limit < 1e8:
                blur = float(depth.total_blur(setup, limit, focus))
                self.assertAlmostEqual(blur / setup.coc, 1, delta=1e-6)

    @given(counting)
    def test_hyperfocal_is_where_infinity_just_holds(self, setup: Setup) -> None:
        hyperfocal = float(depth.hyperfocal(setup))
        if hyperfocal == math.inf:
            least = float(depth.total_blur(setup, math.inf, math.inf))
            self.assertGreater(least, setup.coc * (1 - 1e-9))
            return
        assume(hyperfocal > 1.0001 * nearest_focus(setup))
        blur = float(depth.total_blur(setup, math.inf, hyperfocal))
        self.assertAlmostEqual(blur / setup.coc, 1, delta=1e-6)
        arrays = replace(setup, coc=np.array([setup.coc]))
        self.assertAlmostEqual(
            float(np.asarray(depth.hyperfocal(arrays))[0]) / hyperfocal, 1, delta=1e-9
        )

    @given(counting, st.floats(1.5, 100), st.floats(1.01, 20))
    def test_a_window_is_where_both_ends_hold(
        self, setup: Setup, start: float, ratio: float
    ) -> None:
        near = float(nearest_focus(setup)) * start
        far = near * ratio
        focuses = np.geomspace(near * 0.9, far * 5, 200)
        ends = np.array([[near], [far]])
        holds = (np.asarray(depth.total_blur(setup, ends, focuses)) <= setup.coc).all(axis=0)
        window = depth.focus_window(setup, near, far)
        if window is None:
            self.assertFalse(holds.any())
            return
        slack = 1 + 1e-5
        inside = (focuses * slack >= window.nearest) & (focuses <= window.farthest * slack)
        surely = (focuses > window.nearest * slack) & (focuses * slack < window.farthest)
        self.assertFalse((holds & ~inside).any(), "holds outside the window")
        self.assertFalse((surely & ~holds).any(), "does not hold inside the window")

    @given(
        st.floats(8, 100),
        st.floats(8, 40),
        st.floats(1.0005, 1.3),
        st.floats(0.6, 5),
        st.floats(1, 3),
    )
    def test_close_up_and_close_to_nothing_holding_the_window_is_still_right(
        self, f: float, n: float, times: float, start: float, ratio: float
    ) -> None:
        setup = Setup(f, n, float(diffraction.disc(n)) * times, diffraction=True)
        near = float(nearest_focus(setup)) * start
        far = max(near * ratio, float(nearest_focus(setup)))
        rings = np.linspace(1, 1e-4, 3000)
        focuses = np.asarray(focus_of(setup, rings))
        ends = np.array([[near], [far]])
        holds = (np.asarray(depth.total_blur(setup, ends, focuses)) <= setup.coc).all(axis=0)
        window = depth.focus_window(setup, near, far)
        if window is None:
            # A window may be narrower than the net; a stretch of it may not be missed.
            self.assertLess(holds.sum(), 2)
            return
        slack = 1 + 1e-5
        inside = (focuses * slack >= window.nearest) & (focuses <= window.farthest * slack)
        surely = (focuses > window.nearest * slack) & (focuses * slack < window.farthest)
        self.assertFalse((holds & ~inside).any(), "holds outside the window")
        self.assertFalse((surely & ~holds).any(), "does not hold inside the window")

    def test_what_is_left_for_defocus(self) -> None:
        setup = Setup(24, 16, 0.025, diffraction=True)
        left = float(depth.allowed_defocus(setup, 2600))
        self.assertAlmostEqual(
            float(diffraction.combine(left, depth.working_f_number(setup, 2600))), 0.025, 9
        )
        self.assertEqual(depth.allowed_defocus(replace(setup, diffraction=False), 2600), 0.025)
        self.assertTrue(math.isnan(diffraction.defocus_within_plain(math.nan, 8)))

    @given(setups, how_far)
    def test_counting_diffraction_hardly_ever_widens(self, setup: Setup, far: float) -> None:
        focus = float(nearest_focus(setup)) * far
        plain = depth.limits(replace(setup, coc=setup.coc * diffraction.MOST_ALLOWED), focus)
        counted = depth.limits(replace(setup, diffraction=True), focus)
        if not counted.empty:
            self.assertGreaterEqual(counted.near, plain.near * (1 - 1e-12))
            self.assertLessEqual(counted.far, plain.far * (1 + 1e-12))

    def test_the_lens_adds_its_own_blur_in_quadrature(self) -> None:
        setup = Setup(24, 8, 0.025, diffraction=True, lens_disc=0.012)
        ideal = float(depth.total_blur(replace(setup, lens_disc=0.0), 1500, 2000))
        self.assertAlmostEqual(
            float(depth.total_blur(setup, 1500, 2000)), math.hypot(ideal, 0.012), 12
        )
        self.assertTrue(depth.limits(replace(setup, lens_disc=0.03), 2000).empty)
        self.assertLess(depth.counted_blur(replace(setup, diffraction=False), 2000, 2000), 1e-15)


class SizeTest(unittest.TestCase):
    def test_image_scale_is_that_of_the_rays_through_the_pupil(self) -> None:
        setup = Setup(50, 4, 0.03)
        focus = 2000.0
        magnification = float(depth.image_scale(setup, focus, focus))
        # u = f(1 + 1/m), and u + v is the whole distance: by hand, m = 0.026353
        self.assertAlmostEqual(50 * (2 + magnification + 1 / magnification), focus, 6)
        self.assertEqual(depth.image_scale(setup, math.inf, focus), 0)

    def test_size_at_the_subject(self) -> None:
        setup = Setup(50, 4, 0.03)
        scale = float(depth.image_scale(setup, 3000, 2000))
        self.assertAlmostEqual(
            float(depth.size_at_subject(setup, 0.03, 3000, 2000)), 0.03 / scale, 9
        )
        sizes = depth.size_at_subject(setup, np.array([0.0, 0.01]), math.inf, 2000)
        self.assertEqual(list(np.asarray(sizes)), [0.0, math.inf])
        with self.assertRaises(SubjectTooNear):
            depth.image_scale(setup, 40, 2000)
