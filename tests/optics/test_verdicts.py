"""Marks, what is asked of them, and their verdicts."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

from optics.base.errors import NotANumber, OutOfRange, SubjectTooNear
from optics.lens import depth
from optics.scene.marks import Ends, Look, Mark, Wish, Word, ends, judge
from tests.optics.scenes import FULL_FRAME, LOOK, SALLOW_PIT, SAMPLE, scene_of


class VerdictTest(unittest.TestCase):
    def test_what_a_blur_means(self) -> None:
        (verdict,) = judge(SAMPLE, (Mark(1300),), 2600, LOOK)
        self.assertAlmostEqual(verdict.blur, 0.02091015, delta=5e-9)
        self.assertAlmostEqual(verdict.circles, 0.836406, delta=5e-7)
        # The widest print: enlarged until 0.0209 mm become 0.2 mm, 36 mm are 344 mm.
        self.assertAlmostEqual(verdict.print_width, 36 * 0.2 / 0.02091015, delta=0.01)
        # At the subject: 1300 mm from the sensor, 1275.8 from the pupil; the scale 24.23/1275.8.
        self.assertAlmostEqual(verdict.at_subject, 0.02091015 * 1275.77 / 24.2257, delta=1e-4)
        (film,) = judge(SAMPLE, (Mark(math.inf),), 2600, Look(FULL_FRAME))
        self.assertIsNone(film.pixels)
        self.assertEqual(film.at_subject, math.inf)

    def test_holds_just_soft(self) -> None:
        held = depth.limits(SAMPLE, 2600)
        near = float(held.near)
        cases = (
            (near * 1.1, 10, Word.HOLDS),
            (near * 1.01, near * 0.05, Word.JUST),
            (near * 0.99, 1, Word.SOFT),
        )
        for at, unsure, word in cases:
            (verdict,) = judge(SAMPLE, (Mark(at, unsure),), 2600, LOOK)
            self.assertEqual((verdict.word, verdict.met), (word, word is not Word.SOFT))
            self.assertEqual(verdict.surely, word is Word.HOLDS)

    def test_a_wish_to_fall_soft(self) -> None:
        soft = Mark(600, 20, Wish.SOFT, softness=2)
        (verdict,) = judge(SAMPLE, (soft,), 2600, LOOK)
        self.assertTrue(verdict.met and verdict.surely)
        (sharp,) = judge(SAMPLE, (replace(soft, depth=2600),), 2600, LOOK)
        self.assertFalse(sharp.met or sharp.surely)
        around = Mark(1500, 1200, Wish.SOFT, softness=1)  # the plane of focus lies within it
        (verdict,) = judge(replace(SAMPLE, f_number=2.0), (around,), 2600, LOOK)
        self.assertTrue(verdict.met)
        self.assertFalse(verdict.surely)
        self.assertLess(verdict.least, 1e-12)

    def test_ends(self) -> None:
        marks = SALLOW_PIT.marks
        self.assertEqual(ends(marks), Ends(1300, 180000))
        self.assertEqual(ends(marks, surely=True), Ends(1235, 189000))
        self.assertIsNone(ends(marks[3:]))

    def test_bad_input(self) -> None:
        cases = (
            (OutOfRange, lambda: Mark(0)),
            (NotANumber, lambda: Mark(math.nan)),
            (OutOfRange, lambda: Mark(1000, 1000)),
            (OutOfRange, lambda: Mark(1000, -1)),
            (OutOfRange, lambda: Mark(1000, wish=Wish.SOFT, softness=0.5)),
            (OutOfRange, lambda: scene_of(SAMPLE, margin=0)),
            (SubjectTooNear, lambda: judge(SAMPLE, (Mark(20),), 2600, LOOK)),
            (SubjectTooNear, lambda: scene_of(SAMPLE, (Mark(50),))),
            (SubjectTooNear, lambda: scene_of(SAMPLE, (Mark(60, 11),))),
        )
        for at, (error, call) in enumerate(cases):
            with self.subTest(at), self.assertRaises(error):
                call()
        self.assertEqual(judge(SAMPLE, (), 2600, LOOK), ())
