"""What is called sharp, from prints, screens and pixels, and back."""

from __future__ import annotations

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from optics import Setup
from optics.base.errors import NotANumber, OutOfRange, WrongOrder
from optics.base.formats import BY_KEY, FORMATS
from optics.lens import aperture, depth, standards
from optics.lens.conjugates import nearest_focus
from optics.lens.standards import CLASSIC_EYE, FILLED, FITTED, KEEN_EYE, Print
from tests.optics.reference import values

FULL_FRAME = BY_KEY["full-frame"]


class PrintTest(unittest.TestCase):
    def test_reference(self) -> None:
        for width, height, away, keen, filled, expected in values.CIRCLE_FROM_PRINT:
            with self.subTest(width=width, height=height, away=away):
                eye, way = (KEEN_EYE if keen else CLASSIC_EYE), (FILLED if filled else FITTED)
                paper = Print(width, height, away, eye, way)
                circle = standards.from_print(paper, FULL_FRAME)
                self.assertAlmostEqual(circle, expected.value, delta=max(expected.tolerance, 1e-12))

    def test_a_print_for_a_circle(self) -> None:
        # 0.025 mm is enlarged eight times before the classic eye sees 0.2 mm: 36 mm become 288.
        self.assertAlmostEqual(standards.widest_print(0.025, FULL_FRAME), 288)
        self.assertEqual(standards.widest_print(0.0, FULL_FRAME), math.inf)
        with self.assertRaises(OutOfRange):
            standards.widest_print(-0.01, FULL_FRAME)

    @given(
        st.floats(50, 3000),
        st.floats(100, 5000),
        st.sampled_from(FORMATS),
        st.sampled_from([CLASSIC_EYE, KEEN_EYE]),
    )
    def test_circle_to_print_and_back(self, width, away, frame, eye) -> None:  # type: ignore[no-untyped-def]
        paper = Print(width, width * frame.height / frame.width, viewing_distance=away, eye=eye)
        circle = standards.from_print(paper, frame)
        self.assertAlmostEqual(standards.widest_print(circle, frame, away, eye) / width, 1, 9)

    def test_bad_input(self) -> None:
        for fields in ((0, 100), (100, math.nan), (100, 100, -1)):
            with self.subTest(fields), self.assertRaises((OutOfRange, NotANumber)):
                Print(*fields)
        with self.assertRaises(OutOfRange):
            Print(100, 100, way="stretched")


class CircleTest(unittest.TestCase):
    def test_diagonal_screen_and_pixels(self) -> None:
        # √(36² + 24²) = 43.26662 mm; ÷ 1500 and ÷ 1730 by hand.
        self.assertAlmostEqual(standards.from_diagonal(FULL_FRAME, 1500), 0.0288444, 7)
        self.assertAlmostEqual(standards.from_diagonal(FULL_FRAME, 1730), 0.0250096, 7)
        self.assertAlmostEqual(standards.from_screen(FULL_FRAME, 1920), 0.01875, 12)
        self.assertAlmostEqual(standards.from_pixels(FULL_FRAME, 6000, 1.5), 0.009, 12)
        with self.assertRaises(OutOfRange):
            standards.from_screen(FULL_FRAME, 0)

    def test_three_stops_tighter(self) -> None:
        self.assertAlmostEqual(0.03 / standards.tighten(0.03, 3), 2.8284271, 7)
        self.assertAlmostEqual(standards.stops_tighter(0.03, 0.015), 2, 12)

    def test_which_engraved_mark_to_read(self) -> None:
        three = standards.tighten(0.03, 3)
        cases = (
            (11, 0.03, three, 4),
            (16, 0.03, 0.03, 16),
            (8, 0.03, 0.016, 4),
            (11, 0.02, 0.03, 16),
        )
        for f_number, engraved, wanted, expected in cases:
            with self.subTest(f_number=f_number, wanted=wanted):
                self.assertEqual(standards.engraved_mark(f_number, engraved, wanted), expected)
        self.assertLess(standards.engraved_mark(0.7, 0.03, 0.01), 0.5)

    @given(st.floats(1.4, 32), st.floats(0.01, 0.05), st.floats(0.004, 0.05))
    def test_the_mark_read_never_promises_too_much(self, f_number, engraved, wanted) -> None:  # type: ignore[no-untyped-def]
        mark = standards.engraved_mark(f_number, engraved, wanted)
        self.assertLessEqual(
            aperture.exact(mark) * engraved, aperture.exact(f_number) * wanted * (1 + 1e-6)
        )


class FromLimitsTest(unittest.TestCase):
    def test_reference(self) -> None:
        for fields, more, focus, near, far in values.LIMITS:
            if not more:
                focal_length, f_number, circle = fields
                found = standards.from_limits(focal_length, f_number, focus, near.value, far.value)
                self.assertAlmostEqual(found, circle, delta=2e-8)

    @given(
        st.floats(10, 300),
        st.floats(1, 32),
        st.floats(0.003, 0.1),
        st.floats(1.01, 500),
    )
    def test_limits_give_back_their_circle(self, f, n, circle, away) -> None:  # type: ignore[no-untyped-def]
        setup = Setup(f, n, circle)
        focus = float(nearest_focus(setup)) * away
        held = depth.limits(setup, focus)
        found = standards.circles_from_limits(f, n, focus, float(held.near), float(held.far))
        self.assertAlmostEqual(found.near / circle, 1, delta=1e-6)
        self.assertAlmostEqual(found.circle / circle, 1, delta=1e-5)
        self.assertEqual(found.far is None, held.far == math.inf)

    def test_bad_input(self) -> None:
        with self.assertRaises(WrongOrder):
            standards.from_limits(28, 8, 2000, 2100, 3000)
        with self.assertRaises(NotANumber):
            standards.from_limits(28, 8, 2000, math.nan, 3000)
