"""Positions out of a list, and the band shared out among them."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from itertools import combinations, pairwise

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from optics import Setup
from optics.base.errors import OutOfRange, WrongOrder
from optics.base.settable import RING_METRES
from optics.lens import depth, diffraction
from optics.zones import from_list, people, stretches, tiling
from tests import chance, examples

LENS = Setup(28.0, 8.0, 0.025)
GRID = tuple(
    round(d, 6) for d in np.concatenate((np.arange(600, 1000, 10), np.arange(1000, 10000, 100)))
)
SETTABLE = (*GRID, math.inf)
ENGRAVED = (*RING_METRES[6:], math.inf)

lenses = st.builds(
    Setup,
    st.sampled_from((18.0, 24.0, 28.0, 35.0, 50.0)),
    st.sampled_from((2.8, 4.0, 5.6, 8.0, 11.0, 16.0)),
    st.floats(0.01, 0.04),
    diffraction=st.booleans(),
)
bands = st.tuples(st.floats(700, 4000), st.one_of(st.just(math.inf), st.floats(1.2, 8))).map(
    lambda pair: (pair[0], pair[0] * pair[1])
)


class Handover(unittest.TestCase):
    @given(lenses, st.floats(400, 5000), st.floats(1.05, 20))
    def test_both_blur_it_alike(self, lens: Setup, nearer: float, ratio: float) -> None:
        for farther in (nearer * ratio, math.inf):
            met = stretches.handover(lens, nearer, farther)
            self.assertTrue(nearer * (1 - 1e-9) <= met < farther)
            one, other = (depth.counted_blur(lens, met, focus) for focus in (nearer, farther))
            # So close together that the nearer one, at its larger f-number, is nowhere sharper.
            if met > nearer * (1 + 1e-9):
                self.assertAlmostEqual(one, other, delta=1e-10)

    def test_with_the_pupil_off_the_principal_plane_too(self) -> None:
        lens = Setup(90.0, 8.0, 0.02, pupil_ratio=0.6, hiatus=8.0, focus_shift=0.02)
        met = stretches.handover(lens, 450.0, 470.0)
        one, other = (depth.blur_disc(lens, met, focus) for focus in (450.0, 470.0))
        self.assertAlmostEqual(one, other, delta=1e-10)

    def test_order(self) -> None:
        with self.assertRaises(WrongOrder):
            stretches.handover(LENS, 2000.0, 1000.0)


def _brute_gaps(lens: Setup, focuses: tuple[float, ...], near: float, far: float) -> list[float]:
    """Depths of a band, a net even in 1/distance and finer than it, that no position holds."""
    net = 1.0 / np.linspace(1 / near, 0.0 if math.isinf(far) else 1 / far, 4001)[:-1]
    held = np.zeros(net.shape, bool)
    for focus in focuses:
        held |= np.asarray(depth.counted_blur(lens, net, focus)) <= lens.coc * (1 + 1e-9)
    return list(net[~held])


class Tiles(unittest.TestCase):
    @settings(max_examples=examples(150))
    @given(lenses, bands, st.integers(1, 5))
    def test_meet_to_a_millimetre_or_leave_the_gap_they_name(
        self, lens: Setup, band: tuple[float, float], count: int
    ) -> None:
        near, far = band
        chosen = from_list.choose(lens, near, far, count, SETTABLE)
        tiles = [t for t in stretches.tiles(lens, chosen.focuses, near, far) if t.used]
        missed = _brute_gaps(lens, chosen.focuses, near, far)
        named = stretches.left_open(lens, chosen.focuses, near, far)
        if chosen.complete:
            self.assertEqual(missed, [])
            self.assertEqual(named, ())
            self.assertAlmostEqual(tiles[0].start, near, delta=1e-6)
            self.assertEqual(tiles[-1].end, far)
            for one, other in pairwise(tiles):
                self.assertLessEqual(abs(one.end - other.start), 1.0)
        for lost in missed:
            self.assertTrue(any(gap.near * 0.9999 <= lost <= gap.far * 1.0001 for gap in named))

    @settings(max_examples=examples(60))
    @given(lenses, bands, st.integers(1, 4))
    def test_each_depth_goes_to_the_sharpest(
        self, lens: Setup, band: tuple[float, float], count: int
    ) -> None:
        near, far = band
        focuses = from_list.choose(lens, near, far, count, SETTABLE).focuses
        for tile in stretches.tiles(lens, focuses, near, far):
            if not tile.used:
                continue
            end = min(tile.end, 1e6)
            assume(end > tile.start)
            middle = 2 / (1 / tile.start + 1 / end)
            blurs = {f: float(depth.blur_disc(lens, middle, f)) for f in focuses}
            self.assertLessEqual(blurs[tile.focus], min(blurs.values()) * (1 + 1e-9))

    def test_where_nothing_holds_nothing_is_used(self) -> None:
        closed = Setup(28.0, 16.0, 0.004, diffraction=True)
        for tile in stretches.tiles(closed, (700.0, 1400.0, math.inf), 700.0, math.inf):
            self.assertFalse(tile.used)
            self.assertTrue(math.isnan(tile.near) and math.isnan(tile.end))

    def test_worst_blur_is_that_of_a_fine_net(self) -> None:
        focuses = (800.0, 1300.0, 4000.0)
        net = 1.0 / np.linspace(1 / 650, 1e-9, 200_001)
        least = np.min([np.asarray(depth.blur_disc(LENS, net, f)) for f in focuses], axis=0)
        found = stretches.worst_blur(LENS, focuses, 650.0, math.inf)
        self.assertAlmostEqual(found, float(least.max()), delta=1e-6)


class Choosing(unittest.TestCase):
    def test_no_choice_out_of_the_list_is_sharper(self) -> None:
        few = (*(d for d in RING_METRES if 600 <= d <= 10000), math.inf)
        for near, far, count in ((900.0, math.inf, 2), (700.0, 4000.0, 3), (1500.0, 9000.0, 1)):
            lens = replace(LENS, f_number=11.0, coc=0.04)
            chosen = from_list.choose(lens, near, far, count, few)
            self.assertTrue(chosen.complete)
            worst = stretches.worst_blur(lens, chosen.focuses, near, far)
            best = min(
                stretches.worst_blur(lens, tried, near, far) for tried in combinations(few, count)
            )
            self.assertLessEqual(worst, best + lens.coc / 128)

    def test_ideal_and_settable_agree_where_the_list_is_fine(self) -> None:
        fine = (*(1 / k for k in np.linspace(1 / 600, 1e-6, 4000)), math.inf)
        ideal = tiling.tile(LENS, 700.0, math.inf, 3)
        chosen = from_list.choose(LENS, 700.0, math.inf, 3, fine)
        self.assertAlmostEqual(chosen.coc, ideal.coc, delta=LENS.coc / 100)
        for one, other in zip(chosen.focuses, ideal.zones, strict=True):
            self.assertAlmostEqual(1 / one, 1 / other.focus, delta=1e-5)

    def test_fixed_positions_stay(self) -> None:
        chosen = from_list.choose(LENS, 750.0, math.inf, 3, SETTABLE, (1400.0,))
        self.assertIn(1400.0, chosen.focuses)
        self.assertTrue(chosen.complete)
        stops = from_list.choose(LENS, 660.0, math.inf, 4, SETTABLE, (700.0, math.inf))
        self.assertTrue({700.0, math.inf} <= set(stops.focuses))
        self.assertEqual(len(stops.focuses), 4)

    def test_free_ones_stand_evenly_round_a_fixed_one(self) -> None:
        """Seven from 1.78 to 3.35 m round 2.44 m: no two neighbours closer than half the others,
        in 1/distance."""
        lens = replace(LENS, focal_length=50.0, f_number=5.6)
        grid = (*map(float, range(1000, 5000, 10)), math.inf)
        chosen = from_list.choose(lens, 1780.0, 3350.0, 7, grid, (2440.0,))
        self.assertEqual(len(chosen.focuses), 7)
        apart = [1 / one - 1 / other for one, other in pairwise(chosen.focuses)]
        self.assertGreater(min(apart), 0.5 * max(apart))
        worst = stretches.worst_blur(lens, chosen.focuses, 1780.0, 3350.0)
        self.assertLessEqual(worst, chosen.coc * 1.15)

    def test_too_few_hold_as_much_as_can_be(self) -> None:
        """Against every choice from a short list, by the share of ln distance held."""
        few = tuple(d for d in SETTABLE if d in (700, 800, 900, 1000, 1200, 1500, 2000, 3000, 4000))
        for count, fixed in ((1, ()), (2, ()), (3, ()), (2, (1200.0,)), (3, (1200.0, 1500.0))):
            chosen = from_list.choose(LENS, 500.0, 9000.0, count, few, fixed)
            self.assertFalse(chosen.complete)
            free = [d for d in few if d not in fixed]
            best = max(_held((*fixed, *tried)) for tried in combinations(free, count - len(fixed)))
            self.assertAlmostEqual(_held(chosen.focuses), best, places=9)
            self.assertTrue(set(fixed) <= set(chosen.focuses))

    def test_a_lock_that_leaves_a_hair_does_not_cost_the_rest(self) -> None:
        chosen = from_list.choose(LENS, 720.0, math.inf, 3, SETTABLE, (1400.0, 4500.0))
        self.assertLess(chosen.focuses[0], 900.0)
        (gap,) = stretches.left_open(LENS, chosen.focuses, 720.0, math.inf)
        self.assertLess(gap.far - gap.near, 10.0)

    def test_more_than_the_band_needs_are_all_used(self) -> None:
        chosen = from_list.choose(LENS, 2000.0, 2100.0, 4, SETTABLE)
        self.assertEqual(len(chosen.focuses), 4)
        self.assertTrue(chosen.complete)

    def test_counted(self) -> None:
        self.assertEqual(from_list.count_needed(LENS, 720.0, math.inf, SETTABLE), 3)
        self.assertIsNone(from_list.count_needed(LENS, 300.0, math.inf, SETTABLE))
        near = from_list.reach(LENS, math.inf, 3, SETTABLE)
        self.assertLess(near, 720.0)
        self.assertTrue(from_list.choose(LENS, near * 1.001, math.inf, 3, SETTABLE).complete)

    def test_counts_that_make_no_sense(self) -> None:
        with self.assertRaises(OutOfRange):
            from_list.choose(LENS, 700.0, math.inf, 0, SETTABLE)
        with self.assertRaises(OutOfRange):
            from_list.choose(LENS, 700.0, math.inf, 1, SETTABLE, (700.0, 2000.0))


def _held(focuses: tuple[float, ...]) -> float:
    open_ = stretches.left_open(LENS, focuses, 500.0, 9000.0)
    return math.log(9000 / 500) - sum(math.log(gap.far / gap.near) for gap in open_)


class AsSharpAsTheListAllows(unittest.TestCase):
    """The promise of ``from_list.choose``, against every choice there is."""

    def test_no_other_choice_is_sharper(self) -> None:
        random, closed = chance(7), 0
        for _ in range(120):
            setup = Setup(
                random.choice((21, 28, 35)), random.choice((5.6, 8, 11, 16)),
                random.choice((0.015, 0.02, 0.03)), diffraction=random.random() < 0.25,
            )  # fmt: skip
            near = random.choice((700.0, 900.0, 1200.0, 1500.0, 2000.0))
            far = random.choice((math.inf, 4000.0, 7000.0, 15000.0))
            count = random.choice((1, 2, 3))
            fixed = (random.choice((1000.0, 2000.0, 5000.0)),) if count > 1 else ()
            fixed = fixed if random.random() < 0.4 else ()
            found = from_list.choose(setup, near, far, count, ENGRAVED, fixed)
            if not found.complete:
                continue
            closed += 1
            others = combinations([d for d in ENGRAVED if d not in fixed], count - len(fixed))
            best = min(stretches.worst_blur(setup, (*some, *fixed), near, far) for some in others)
            worst = stretches.worst_blur(setup, found.focuses, near, far)
            with self.subTest(setup=setup, near=near, far=far, count=count, fixed=fixed):
                self.assertLessEqual(worst, best * (1 + 1e-6), found.focuses)
        self.assertGreater(closed, 25)


class HandedOver(unittest.TestCase):
    def test_with_diffraction_what_tiles_leaves_no_gap(self) -> None:
        """Once in twenty random runs a gap was left, and none named."""
        example = Setup(24, 16, 0.016222624136831187, diffraction=True)
        cases = [(example, 2480.3, math.inf, 2)]
        random = chance(5)
        for _ in range(300):
            f_number = random.choice((4, 8, 11, 16, 22))
            coc = diffraction.disc(f_number) * random.uniform(1.005, 2.5)
            setup = Setup(
                random.choice((16, 24, 50, 85)), f_number, coc, random.choice((1, 0.8, 1.4)),
                random.choice((0, -6, 9)), diffraction=True,
            )  # fmt: skip
            near = 8 * setup.focal_length + 50 + 3000 * random.random() ** 2
            far = random.choice((math.inf, near * random.uniform(1.2, 20)))
            cases.append((setup, near, far, random.choice((2, 3, 4))))
        tiled = 0
        for setup, near, far, count in cases:
            found = tiling.tile(setup, near, far, count)
            focuses = [zone.focus for zone in found.zones]
            if not found.complete or len(set(focuses)) < count:
                continue
            tiled += 1
            tiles = stretches.tiles(setup, focuses, near, far)
            with self.subTest(setup=setup, near=near, far=far, count=count):
                self.assertAlmostEqual(tiles[0].start / near, 1, 6)
                for one, other in pairwise(tiles):
                    self.assertAlmostEqual(one.end / other.start, 1, 6)
        self.assertGreater(tiled, 80)


class Around(unittest.TestCase):
    def test_the_next_positions_on_both_sides_leave_no_gap(self) -> None:
        found = stretches.around(LENS, 1300.0, SETTABLE)
        self.assertEqual(len(found), 3)
        held = [tiling.zone_at(LENS, focus) for focus in found]
        for one, other in pairwise(held):
            self.assertGreaterEqual(one.far, other.near)
        self.assertEqual(tiling.gaps(held, held[0].near, held[-1].far), ())

    def test_one_that_holds_infinity_has_only_nearer_neighbours(self) -> None:
        found = stretches.around(LENS, 6000.0, SETTABLE)
        self.assertEqual(max(found), 6000.0)
        self.assertEqual(len(found), 3)


class Figures(unittest.TestCase):
    def test_what_fits(self) -> None:
        for height, said in (
            (100, "part of a face"), (212.5, "cut at the chin"), (430, "cut at the chest"),
            (600, "cut at the waist"), (900, "cut at the hips"), (1275, "cut at the knees"),
            (1500, "cut at the shins"), (1699, "cut at the shins"), (1700, "whole"),
            (math.inf, "whole"),
        ):  # fmt: skip
            self.assertEqual(people.framing(height), said)

    def test_half_of_the_frame_by_the_reference(self) -> None:
        share = people.share_filled(LENS, 36.0, 1700.0, 2700.74, 2700.74)
        self.assertAlmostEqual(share, 0.5, places=5)


if __name__ == "__main__":
    unittest.main()
