"""Why a mark came out soft: budgets with one cause each, put together by the formulas."""

from __future__ import annotations

import math
import unittest

from optics import Setup
from optics.lens.conjugates import magnification
from optics.light.motion import disc_as_streak
from optics.scene.fell import Shown, fell_on, predicted, where_it_fell
from optics.scene.why_soft import Cause, why_soft

SETUP = Setup(24.0, 11.0, 0.025, diffraction=True)
DEPTHS = {"A": 1300.0, "B": 2600.0, "C": 4200.0, "D": 180_000.0}
PLANNED = 2600.0


def seen(focus: float, setup: Setup = SETUP, share: float = 0.04, **more: float) -> list[Shown]:
    """Marks as they come out with the ring truly at a distance."""
    ring = float(magnification(setup, focus))
    return [
        Shown(letter, depth, blur := predicted(setup, ring, depth), share * blur, **more)
        for letter, depth in DEPTHS.items()
    ]


class WhySoftTest(unittest.TestCase):
    def by_letter(self, setup: Setup, marks: list[Shown]) -> dict[str, Cause | None]:
        return {one.letter: one.first for one in why_soft(setup, PLANNED, marks)}

    def test_what_came_out_as_planned_is_not_soft(self) -> None:
        said = why_soft(SETUP, PLANNED, seen(PLANNED))
        for one in said:
            self.assertFalse(one.soft, one)
            self.assertIsNone(one.first)
            self.assertEqual(one.left, 0.0)

    def test_a_focus_that_was_missed_is_told_with_its_way_and_its_place(self) -> None:
        wide = Setup(24.0, 2.8, 0.025, diffraction=True)
        for really, way in ((1500.0, Cause.NEAR), (9000.0, Cause.FAR)):
            with self.subTest(really):
                marks = seen(really, wide)
                fell = where_it_fell(wide, PLANNED, marks)
                assert fell is not None
                self.assertTrue(fell.sure)
                self.assertAlmostEqual(fell_on(wide, fell) / really, 1.0, delta=0.06)
                self.assertEqual(self.by_letter(wide, marks)["B"], way)

    def test_a_shift_that_the_bench_found_is_named_and_not_called_a_miss(self) -> None:
        shifts = Setup(50.0, 4.0, 0.02, focus_shift=0.16)
        still = Setup(50.0, 4.0, 0.02)
        for setup, wanted in ((shifts, Cause.SHIFT), (still, Cause.DEPTH)):
            marks = [one for one in seen(PLANNED, setup) if one.letter in "BC"]
            said = {one.letter: one for one in why_soft(setup, PLANNED, marks)}
            causes = [part.cause for part in said["B"].parts]
            if wanted is Cause.SHIFT:
                self.assertTrue(said["B"].soft)
                self.assertEqual(causes[0], Cause.SHIFT)
                self.assertNotIn(Cause.NEAR, causes)
                self.assertNotIn(Cause.FAR, causes)
            else:
                self.assertFalse(said["B"].soft)

    def test_one_mark_alone_tells_no_way(self) -> None:
        wide = Setup(24.0, 2.8, 0.025, diffraction=True)
        (only,) = (one for one in seen(1500.0, wide) if one.letter == "B")
        (said,) = why_soft(wide, PLANNED, [only])
        self.assertEqual(said.first, Cause.MISSED)
        assert said.fell is not None
        self.assertFalse(said.fell.sure)

    def test_too_little_depth_is_not_called_a_miss(self) -> None:
        wide = Setup(24.0, 2.0, 0.025, diffraction=True)
        said = self.by_letter(wide, seen(PLANNED, wide))
        self.assertEqual(said["A"], Cause.DEPTH)
        self.assertEqual(said["D"], Cause.DEPTH)
        self.assertIsNone(said["B"])

    def test_diffraction_and_the_lens_itself(self) -> None:
        closed = Setup(24.0, 32.0, 0.020, diffraction=True)
        self.assertEqual(self.by_letter(closed, seen(PLANNED, closed))["B"], Cause.DIFFRACTION)
        poor = Setup(24.0, 8.0, 0.020, diffraction=True, lens_disc=0.04)
        self.assertEqual(self.by_letter(poor, seen(PLANNED, poor))["B"], Cause.LENS)

    def drawn_out(self, letters: str, direction: float, star: str = "") -> list[Shown]:
        length = disc_as_streak(0.06)
        return [
            Shown(one.letter, one.depth, one.disc, one.disc_error,
                 *((length, 0.1 * length, direction) if one.letter in letters else ()),
                 star=one.letter in star)
            for one in seen(PLANNED)
        ]  # fmt: skip

    def test_what_moved_by_itself_and_what_all_moved_together(self) -> None:
        said = self.by_letter(SETUP, self.drawn_out("C", 0.4))
        self.assertEqual(said["C"], Cause.MOVING)
        self.assertIsNone(said["A"])
        self.assertEqual(set(self.by_letter(SETUP, self.drawn_out("ABCD", 0.4)).values()),
                         {Cause.SHAKE})  # fmt: skip
        self.assertEqual(self.by_letter(SETUP, self.drawn_out("D", 0.1, "D"))["D"], Cause.DRIFT)

    def test_haze_is_no_blur(self) -> None:
        marks = [
            Shown(one.letter, one.depth, one.disc, one.disc_error,
                 contrast=0.2 if one.letter == "D" else 0.8)
            for one in seen(PLANNED)
        ]  # fmt: skip
        said = {one.letter: one for one in why_soft(SETUP, PLANNED, marks)}
        self.assertEqual(said["D"].first, Cause.HAZE)
        self.assertAlmostEqual(said["D"].parts[0].blur, 0.75)
        self.assertIsNone(said["A"].first)

    def test_parts_are_ranked_and_add_up(self) -> None:
        wide = Setup(24.0, 2.8, 0.025, diffraction=True, lens_disc=0.01)
        for one in why_soft(wide, PLANNED, seen(1500.0, wide)):
            blurs = [part.blur for part in one.parts]
            self.assertEqual(blurs, sorted(blurs, reverse=True))
            self.assertAlmostEqual(math.hypot(*blurs) / one.total, 1.0, delta=0.12)

    def test_a_mark_whose_depth_nobody_knows(self) -> None:
        blurred = Shown("E", math.nan, 0.08, 0.003)
        said = why_soft(SETUP, PLANNED, [blurred])
        self.assertEqual(said[0].first, Cause.MISSED)
        self.assertIsNone(said[0].fell)

    def test_what_is_too_unsure_is_not_known(self) -> None:
        (said,) = why_soft(SETUP, PLANNED, [Shown("B", 2600.0, 0.024, 0.02)])
        self.assertFalse(said.soft)
        self.assertFalse(said.known)
