"""Blur, limits and windows: against outside values, against traced rays, and as laws."""

from __future__ import annotations

import itertools
import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from optics import Setup
from optics.base.errors import FocusTooNear, NotANumber, OutOfRange, SubjectTooNear, WrongOrder
from optics.lens import depth
from optics.lens.conjugates import focus_of, magnification, nearest_focus
from tests.optics import rays
from tests.optics.reference import values

setups = st.builds(
    Setup,
    focal_length=st.floats(8, 600),
    f_number=st.floats(1, 45),
    coc=st.floats(0.002, 0.2),
    pupil_ratio=st.floats(0.4, 2.5),
    hiatus=st.floats(-20, 40),
)
how_far = st.one_of(st.floats(1.001, 1e5), st.just(math.inf))
"""Distances as multiples of the nearest focus; at that itself the ring stands on a turning point,
where no method can tell one setting from the next."""


class ReferenceTest(unittest.TestCase):
    def assert_reference(self, found: object, reference: values.Reference) -> None:
        if math.isinf(reference.value):
            self.assertEqual(found, reference.value)
        else:
            self.assertAlmostEqual(float(found), reference.value, delta=reference.tolerance)

    def test_hyperfocal(self) -> None:
        for fields, expected in values.HYPERFOCAL:
            with self.subTest(fields):
                self.assert_reference(depth.hyperfocal(Setup(*fields)), expected)

    def test_limits(self) -> None:
        for fields, more, focus, near, far in values.LIMITS:
            with self.subTest(fields):
                limits = depth.limits(Setup(*fields, **more), focus)
                self.assert_reference(limits.near, near)
                self.assert_reference(limits.far, far)
                self.assertIs(limits.empty, False)

    def test_blur(self) -> None:
        for fields, focus, subject, expected in values.BLUR:
            with self.subTest(subject=subject):
                self.assert_reference(depth.blur_disc(Setup(*fields), subject, focus), expected)

    def test_working_f_number(self) -> None:
        fields, more, focus, expected = values.WORKING_F_NUMBER
        self.assert_reference(depth.working_f_number(Setup(*fields, **more), focus), expected)

    def test_window(self) -> None:
        window = depth.focus_window(Setup(24, 11, 0.025), 1300, 180000)
        assert window is not None
        self.assert_reference(window.nearest, values.WINDOW_NEAREST)
        self.assert_reference(window.farthest, values.WINDOW_FARTHEST)


class LawTest(unittest.TestCase):
    @given(setups, how_far, st.floats(0.6, 1e4))
    def test_blur_agrees_with_traced_rays(self, setup: Setup, far: float, nearer: float) -> None:
        focus = float(nearest_focus(setup)) * far
        subject = float(nearest_focus(setup)) * nearer
        f, p = float(setup.focal_length), float(setup.pupil_ratio)
        sensor = rays.sensor_behind_rear_plane(f, float(setup.hiatus), focus)
        assume(subject - setup.hiatus - sensor > 1.05 * max(f, f * (1 - 1 / p)))
        traced = rays.blur(f, float(setup.f_number), p, float(setup.hiatus), sensor, subject)
        found = float(depth.blur_disc(setup, subject, focus))
        # Bisection and the subtraction in the traced rays leave about 1e-13 of the pupil.
        self.assertAlmostEqual(found, traced, delta=1e-9 * traced + 1e-12 * f / setup.f_number)

    @given(setups, how_far)
    def test_blur_at_a_limit_is_the_standard(self, setup: Setup, far: float) -> None:
        focus = float(nearest_focus(setup)) * far
        limits = depth.limits(setup, focus)
        near = float(depth.blur_disc(setup, limits.near, focus))
        self.assertAlmostEqual(near, setup.coc, delta=1e-9 * setup.coc + 1e-14 * setup.focal_length)
        if math.isfinite(limits.far):
            # Past 1e9 mm the far limit itself has lost the figures that its blur would need.
            assume(limits.far < 1e9)
            blur = float(depth.blur_disc(setup, limits.far, focus))
            self.assertAlmostEqual(blur, setup.coc, delta=1e-8 * setup.coc)
        else:
            self.assertLessEqual(float(depth.blur_disc(setup, math.inf, focus)), setup.coc)

    @given(setups, st.floats(1.001, 1e4))
    def test_near_is_nearer_than_the_focus_and_far_beyond(self, setup: Setup, far: float) -> None:
        focus = float(nearest_focus(setup)) * far
        limits = depth.limits(setup, focus)
        self.assertLess(limits.near, focus)
        self.assertLess(focus, limits.far)

    @given(setups, st.floats(1.01, 300))
    def test_limits_give_back_their_focus(self, setup: Setup, far: float) -> None:
        focus = float(nearest_focus(setup)) * far
        limits = depth.limits(setup, focus)
        if limits.near > nearest_focus(setup):  # nearer, two settings share it
            from_near = depth.focus_with_near_limit(setup, float(limits.near))
            self.assertAlmostEqual(float(from_near) / focus, 1, delta=1e-7)
        if limits.far < 1e8:
            from_far = depth.focus_with_far_limit(setup, float(limits.far))
            self.assertAlmostEqual(float(from_far) / focus, 1, delta=1e-6)

    @given(setups, st.floats(0.6, 500), st.floats(1, 50))
    def test_a_window_is_exactly_where_both_ends_hold(
        self, setup: Setup, start: float, ratio: float
    ) -> None:
        near = float(nearest_focus(setup)) * start
        # in front of the entrance pupil wherever the ring stands, out to 1:1
        assume(near > setup.hiatus + setup.focal_length * (3.05 - 1 / setup.pupil_ratio))
        far = near * ratio
        assume(far >= nearest_focus(setup))
        focuses = np.geomspace(float(nearest_focus(setup)), far * 20, 400)
        ends = np.array([[near], [far]])
        holds = (np.asarray(depth.blur_disc(setup, ends, focuses)) <= setup.coc).all(axis=0)
        window = depth.focus_window(setup, near, far)
        if window is None:
            self.assertFalse(holds.any())
            return
        slack = 1 + 1e-9
        inside = (focuses * slack >= window.nearest) & (focuses <= window.farthest * slack)
        surely = (focuses > window.nearest * slack) & (focuses * slack < window.farthest)
        self.assertFalse((holds & ~inside).any(), "holds outside the window")
        self.assertFalse((surely & ~holds).any(), "does not hold inside the window")

    @given(setups, how_far, st.floats(1.01, 4))
    def test_stopping_down_never_narrows(self, setup: Setup, far: float, darker: float) -> None:
        focus = float(nearest_focus(setup)) * far
        open_, closed = (
            depth.limits(replace(setup, f_number=setup.f_number * k), focus) for k in (1.0, darker)
        )
        self.assertLessEqual(closed.near, open_.near)
        self.assertGreaterEqual(closed.far, open_.far)

    @given(setups)
    def test_at_the_hyperfocal_distance_infinity_just_holds(self, setup: Setup) -> None:
        hyperfocal = float(depth.hyperfocal(setup))
        assume(hyperfocal > nearest_focus(setup))
        blur = float(depth.blur_disc(setup, math.inf, hyperfocal))
        self.assertAlmostEqual(blur / setup.coc, 1, delta=1e-8)

    def test_the_nearest_focus_itself_is_a_focus(self) -> None:
        for hiatus in (0.0, 0.9667368970012936, -7.3):
            setup = Setup(16.3, 4, 0.02, hiatus=hiatus)
            self.assertAlmostEqual(magnification(setup, nearest_focus(setup)), 1, 6)
            several = np.array([nearest_focus(setup), math.inf])
            np.testing.assert_allclose(magnification(setup, several), [1, 0], atol=1e-6)

    def test_where_infinity_holds_at_any_focus_the_nearest_is_hyperfocal(self) -> None:
        setup = Setup(8.0, 41.0, 0.2)
        self.assertEqual(depth.hyperfocal(setup), nearest_focus(setup))
        self.assertLess(depth.blur_disc(setup, math.inf, nearest_focus(setup)), 0.2)

    @given(setups, how_far)
    def test_distance_to_magnification_and_back(self, setup: Setup, far: float) -> None:
        focus = float(nearest_focus(setup)) * far
        back = focus_of(setup, magnification(setup, focus))
        if math.isinf(focus):
            self.assertEqual(back, focus)
        else:
            self.assertAlmostEqual(float(back) / focus, 1, delta=1e-12)

    def test_a_positive_focus_shift_sharpens_farther_things(self) -> None:
        plain, shifted = Setup(35, 2, 0.02), Setup(35, 2, 0.02, focus_shift=0.03)
        for subject, relation in ((1800, self.assertGreater), (2300, self.assertLess)):
            blurs = [float(depth.blur_disc(s, subject, 2000)) for s in (plain, shifted)]
            relation(blurs[1], blurs[0])
        hyperfocal = float(depth.hyperfocal(shifted))
        self.assertAlmostEqual(float(depth.blur_disc(shifted, math.inf, hyperfocal)), 0.02, 12)

    def test_a_shift_can_put_the_sharpness_past_infinity(self) -> None:
        # By exactly a circle at infinity: then infinity is all that holds, and beyond it nothing.
        lost = Setup(32, 8, 0.03125, focus_shift=0.25)
        held = depth.limits(lost, math.inf)
        self.assertEqual((held.near, held.far, held.empty), (math.inf, math.inf, False))
        self.assertEqual(depth.blur_disc(lost, math.inf, math.inf), 0.03125)
        back = Setup(32, 8, 0.03125, focus_shift=-0.5)
        self.assertEqual(depth.hyperfocal(back), math.inf)


class ArrayTest(unittest.TestCase):
    def test_arrays_in_arguments_and_fields_broadcast(self) -> None:
        setup = Setup(np.array([24.0, 35.0]), np.array([[8.0], [11.0], [16.0]]), 0.025)
        limits = depth.limits(setup, 2600)
        self.assertEqual(np.shape(limits.near), (3, 2))
        one = depth.limits(Setup(35.0, 16.0, 0.025), 2600)
        self.assertEqual(np.asarray(limits.near)[2, 1], one.near)
        self.assertEqual(np.shape(limits.empty), (3, 2))
        self.assertIsInstance(one.near, float)

    def test_every_field_may_be_an_array_of_its_own_shape(self) -> None:
        fields = {
            "focal_length": (24.0, 90.0),
            "f_number": (4.0, 11.0),
            "coc": (0.02, 0.03),
            "pupil_ratio": (0.7, 1.3),
            "hiatus": (0.0, 8.0),
            "lens_disc": (0.0, 0.006),
            "focus_shift": (0.0, 0.01),
        }
        focus = (900.0, 2600.0)
        axes = [(*fields, "focus")[::-1].index(name) for name in (*fields, "focus")]
        shaped = [
            np.reshape(values, (2,) + (1,) * axis)
            for values, axis in zip((*fields.values(), focus), axes, strict=True)
        ]
        for counting in (False, True):
            many = Setup(**dict(zip(fields, shaped, strict=False)), diffraction=counting)
            found = {
                "blur": depth.blur_disc(many, 1500, shaped[-1]),
                "total": depth.total_blur(many, 1500, shaped[-1]),
                "hyperfocal": depth.hyperfocal(many),
                "near": depth.limits(many, shaped[-1]).near,
                "far": depth.limits(many, shaped[-1]).far,
                "scale": depth.image_scale(many, 1500, shaped[-1]),
                "working": depth.working_f_number(many, shaped[-1]),
            }
            for place in itertools.product((0, 1), repeat=8):
                values = [(*fields.values(), focus)[at][index] for at, index in enumerate(place)]
                one = Setup(**dict(zip(fields, values, strict=False)), diffraction=counting)
                expected = {
                    "blur": depth.blur_disc(one, 1500, values[-1]),
                    "total": depth.total_blur(one, 1500, values[-1]),
                    "hyperfocal": depth.hyperfocal(one),
                    "near": depth.limits(one, values[-1]).near,
                    "far": depth.limits(one, values[-1]).far,
                    "scale": depth.image_scale(one, 1500, values[-1]),
                    "working": depth.working_f_number(one, values[-1]),
                }
                for name, value in expected.items():
                    many_here = np.broadcast_to(np.asarray(found[name]), (2,) * 8)[place]
                    np.testing.assert_allclose(many_here, value, rtol=1e-10, err_msg=name)

    def test_an_error_says_which_element(self) -> None:
        with self.assertRaises(FocusTooNear) as caught:
            depth.limits(Setup(24, 11, 0.025), np.array([[500, 700], [90, 800]]))
        self.assertEqual(caught.exception.index, (1, 0))
        self.assertEqual(caught.exception.value, 90)
        self.assertIn("element 1, 0", str(caught.exception))


class BadInputTest(unittest.TestCase):
    def test_setup_names_the_field(self) -> None:
        cases = (
            ("focal_length", 0, OutOfRange),
            ("f_number", -8, OutOfRange),
            ("coc", math.inf, OutOfRange),
            ("pupil_ratio", math.nan, NotANumber),
            ("hiatus", math.nan, NotANumber),
            ("focus_shift", math.inf, OutOfRange),
        )
        for name, value, error in cases:
            with self.subTest(name), self.assertRaises(error) as caught:
                Setup(**{"focal_length": 24, "f_number": 11, "coc": 0.025, name: value})
            self.assertEqual(caught.exception.name, name)

    def test_distances(self) -> None:
        setup = Setup(24, 11, 0.025)
        cases = (
            (FocusTooNear, lambda: depth.limits(setup, 95.9)),
            (NotANumber, lambda: depth.limits(setup, math.nan)),
            (SubjectTooNear, lambda: depth.blur_disc(setup, 20, 1000)),
            (NotANumber, lambda: depth.blur_disc(setup, math.nan, 1000)),
            (SubjectTooNear, lambda: depth.focus_window(setup, 20, 1000)),
            (NotANumber, lambda: depth.focus_window(setup, math.nan, 1000)),
            (WrongOrder, lambda: depth.focus_window(setup, 2000, 1000)),
        )
        for error, call in cases:
            with self.subTest(error.__name__), self.assertRaises(error):
                call()
