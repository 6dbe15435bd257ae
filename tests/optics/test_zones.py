"""Zones that tile a band, and what share of pictures they keep: against brute force."""

from __future__ import annotations

import itertools
import math
import unittest
from dataclasses import replace
from statistics import NormalDist

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from optics import Setup
from optics.base.errors import FocusTooNear, NotANumber, NoWidth, OutOfRange, WrongOrder
from optics.lens import depth
from optics.zones import hit_rate, people, tiling
from optics.zones.tiling import Gap, Zone, tile, zone_set

STREET = Setup(28, 8, 0.025)

bands = st.tuples(st.floats(500, 3000), st.one_of(st.floats(1.3, 30), st.just(math.inf)))
lenses = st.builds(
    Setup, focal_length=st.floats(18, 60), f_number=st.floats(2.8, 22), coc=st.floats(0.01, 0.04)
)


def covers(setup: Setup, focuses: tuple[float, ...], nearest: float, farthest: float) -> bool:
    """Whether zones at these positions hold all of a band, sampled."""
    held = depth.limits(setup, np.array(focuses))
    inverse = np.linspace(1 / nearest, 0 if math.isinf(farthest) else 1 / farthest, 400)
    with np.errstate(divide="ignore"):
        points = (1 / inverse)[:, np.newaxis]
    inside = (points >= np.asarray(held.near) * (1 - 1e-9)) & (
        points <= np.asarray(held.far) * (1 + 1e-9)
    )
    return bool(inside.any(axis=1).all())


def any_choice_covers(
    setup: Setup, nearest: float, farthest: float, count: int, fixed: tuple[float, ...] = ()
) -> bool:
    """Every choice of positions from a net, tried one after the other."""
    last = 0 if math.isinf(farthest) else 1 / farthest
    net = 1 / np.linspace(1 / nearest, last + (1 / nearest - last) / 90, 90)
    free = itertools.combinations(net, count - len(fixed))
    held = depth.limits(setup, net)
    zone_of = dict(zip(net, zip(held.near, held.far, strict=True), strict=True))  # type: ignore[arg-type]
    kept = [(float(z.near), float(z.far)) for z in (depth.limits(setup, f) for f in fixed)]
    for choice in free:
        reached = nearest
        for near, far in sorted([*kept, *(zone_of[focus] for focus in choice)]):
            if near <= reached * (1 + 1e-9):
                reached = max(reached, far)
        if reached >= farthest:
            return True
    return False


class BruteForceTest(unittest.TestCase):
    CASES = (
        (STREET, 700, math.inf, 3, ()),
        (STREET, 700, math.inf, 2, ()),
        (STREET, 1200, 5000, 2, ()),
        (Setup(35, 11, 0.025), 1000, math.inf, 3, (1500.0,)),
        (Setup(35, 11, 0.025), 1000, 8000, 2, (4000.0,)),
        (Setup(28, 8, 0.025, diffraction=True), 700, math.inf, 2, ()),
    )

    def test_no_choice_of_positions_does_it_at_a_smaller_circle(self) -> None:
        for setup, nearest, farthest, count, fixed in self.CASES:
            with self.subTest(nearest=nearest, farthest=farthest, count=count, fixed=fixed):
                # Tried at a loose standard, so that the circle found is the least there is.
                found = tile(replace(setup, coc=0.2), nearest, farthest, count, fixed)
                self.assertTrue(found.complete)
                self.assertEqual(len(found.zones), count)
                less, more = (replace(setup, coc=found.coc * k) for k in (0.985, 1.05))
                self.assertFalse(any_choice_covers(less, nearest, farthest, count, fixed))
                # The net of positions is coarse, so it needs a little more than the truth.
                self.assertTrue(any_choice_covers(more, nearest, farthest, count, fixed))

    def test_shares_against_counting_people(self) -> None:
        for count, error, farthest in ((1, 0.15, math.inf), (3, 0.15, math.inf), (2, 0.4, 8000)):
            positions = [z.focus for z in zone_set(STREET, 700, math.inf, count)]
            end = 30000 if math.isinf(farthest) else farthest
            people = np.exp(np.linspace(math.log(700), math.log(end), 2001))
            middles = (np.arange(500) + 0.5) / 500
            z = np.array([NormalDist().inv_cdf(p) for p in middles])
            judged = people[:, np.newaxis] * np.exp(error * z)
            turned = np.abs(1 / judged[..., np.newaxis] - 1 / np.array(positions)).argmin(axis=-1)
            held = depth.limits(STREET, np.array(positions))
            near, far = np.asarray(held.near)[turned], np.asarray(held.far)[turned]
            kept = (people[:, np.newaxis] >= near) & (people[:, np.newaxis] <= far)
            with self.subTest(count=count, error=error):
                found = hit_rate.share(STREET, positions, 700, farthest, error)
                self.assertAlmostEqual(found, float(kept.mean()), delta=0.002)


class TileTest(unittest.TestCase):
    @given(lenses, bands, st.integers(1, 5))
    def test_zones_meet_end_to_end_or_cover_from_the_far_end(
        self, setup: Setup, band: tuple[float, float], count: int
    ) -> None:
        nearest, farthest = band[0], band[0] * band[1]
        found = tile(setup, nearest, farthest, count)
        self.assertLessEqual(found.coc, setup.coc)
        for near, far in itertools.pairwise(found.zones):
            self.assertAlmostEqual(near.far / far.near, 1, delta=1e-8)
        at_circle = replace(setup, coc=found.coc)
        for zone in found.zones:
            held = depth.limits(at_circle, zone.focus)
            self.assertAlmostEqual(float(held.near) / zone.near, 1, delta=1e-8)
        last = found.zones[-1]
        if math.isinf(farthest):
            self.assertAlmostEqual(last.focus / float(depth.hyperfocal(at_circle)), 1, delta=1e-9)
        else:
            self.assertAlmostEqual(last.far / farthest, 1, delta=1e-8)
        if found.complete:
            self.assertEqual(len(found.zones), count)
            self.assertAlmostEqual(found.zones[0].near / nearest, 1, delta=1e-7)
            self.assertEqual(found.gaps, ())
        else:
            self.assertEqual(found.coc, setup.coc)
            self.assertEqual(found.gaps, (Gap(nearest, found.zones[0].near),))

    @given(lenses, bands, st.integers(1, 4))
    def test_the_f_number_needed_is_the_edge(
        self, setup: Setup, band: tuple[float, float], count: int
    ) -> None:
        nearest, farthest = band[0], band[0] * band[1]
        for counting in (False, True):
            tried = replace(setup, diffraction=counting)
            needed = tiling.f_number_needed(tried, nearest, farthest, count)
            if needed is None:
                self.assertTrue(counting)
                continue
            enough = replace(tried, f_number=needed * (1 + 1e-7))
            self.assertTrue(tile(enough, nearest, farthest, count).complete)
            if needed > tiling.WIDEST:
                wider = replace(tried, f_number=needed * (1 - 1e-6))
                self.assertFalse(tile(wider, nearest, farthest, count).complete)

    def test_fixed_positions_are_kept_and_their_gaps_said(self) -> None:
        found = tile(STREET, 700, math.inf, 3, fixed=(1500, 800))
        self.assertIn(1500.0, [z.focus for z in found.zones])
        self.assertIn(800.0, [z.focus for z in found.zones])
        self.assertFalse(found.complete)
        left = [(round(gap.near), round(gap.far)) for gap in found.gaps]
        # By hand: at 800 mm m = 0.03769, q = 29.06 and the circle is 0.00714 of the pupil, so the
        # far limit is 29.06/(0.03769 − 0.00714) + 29.06 = 980; and so the near one of 1500: 1104.
        self.assertEqual(left, [(980, 1104)])

    def test_gaps_at_both_ends(self) -> None:
        found = tile(STREET, 700, 5000, 1, fixed=(1500,))
        self.assertEqual(
            [(round(g.near), round(g.far)) for g in found.gaps], [(700, 1104), (2358, 5000)]
        )
        self.assertFalse(found.complete)

    def test_a_zone_beyond_the_band_closes_no_gap(self) -> None:
        held = (Zone(2500, 2200, 2800), Zone(math.inf, 24_000, math.inf))
        self.assertEqual(tiling.gaps(held, 2500, 20_000), (Gap(2800, 20_000),))

    def test_what_no_ring_reaches_no_aperture_tiles(self) -> None:
        self.assertIsNone(tiling.f_number_needed(STREET, 20, 60, 2))

    def test_positions_on_either_side_of_a_fixed_one(self) -> None:
        found = tile(replace(STREET, coc=0.05), 700, math.inf, 3, fixed=(1300.0,))
        self.assertTrue(found.complete)
        self.assertEqual([z.focus for z in found.zones].index(1300.0), 1)
        self.assertTrue(
            covers(
                replace(STREET, coc=found.coc), tuple(z.focus for z in found.zones), 700, math.inf
            )
        )

    def test_bad_input(self) -> None:
        cases = (
            (OutOfRange, (700, 5000, 0)),
            (WrongOrder, (5000, 700, 2)),
            (NoWidth, (700, 700, 2)),
            (NotANumber, (math.nan, 700, 2)),
            (OutOfRange, (700, 5000, 1, (1000, 2000))),
            (FocusTooNear, (700, 5000, 2, (50,))),
        )
        for error, arguments in cases:
            with self.subTest(arguments=arguments), self.assertRaises(error):
                zone_set(STREET, *arguments)  # type: ignore[arg-type]

    def test_no_aperture_tiles_what_diffraction_forbids(self) -> None:
        strict = Setup(50, 8, 0.006, diffraction=True)
        self.assertIsNone(tiling.f_number_needed(strict, 500, math.inf, 2))


class StepsTest(unittest.TestCase):
    @given(lenses, bands, st.sampled_from([0.0, 0.2, 0.5]))
    def test_the_fewest_frames_that_overlap(
        self, setup: Setup, band: tuple[float, float], overlap: float
    ) -> None:
        nearest, farthest = band[0], band[0] * band[1]
        frames = tiling.steps(setup, nearest, farthest, overlap)
        if frames is None:  # a zone is 1/hyperfocal wide in 1/distance, a little less close up
            zone = (1 - overlap) / float(depth.hyperfocal(setup))
            self.assertGreater((1 / nearest - 1 / farthest) / zone, 150)
            return
        self.assertLessEqual(frames[0].near, nearest * (1 + 1e-7))
        self.assertGreaterEqual(frames[-1].far, farthest * (1 - 1e-7))
        for near, far in itertools.pairwise(frames):
            shared = (1 / far.near - 1 / near.far) / (1 / far.near - 1 / far.far)
            self.assertAlmostEqual(shared, overlap, delta=1e-6)
        if len(frames) > 1:
            self.assertFalse(
                overlap == 0 and tile(setup, nearest, farthest, len(frames) - 1).complete
            )

    def test_one_distance_is_one_frame(self) -> None:
        frames = tiling.steps(STREET, 2000, 2000)
        assert frames is not None
        self.assertEqual([z.focus for z in frames], [2000])
        self.assertIsNone(tiling.steps(Setup(28, 32, 0.01, diffraction=True), 500, 2000))


class WalkTest(unittest.TestCase):
    def test_a_walker_through_a_zone(self) -> None:
        walk = people.walk_through(Zone(1300, 1000, 2000), speed=1400, lag=0.2)
        self.assertAlmostEqual(walk.inside, 1 / 1.4, 12)
        self.assertAlmostEqual(walk.press_at, 1580, 9)
        self.assertAlmostEqual(walk.middle, 1500, 9)
        self.assertAlmostEqual(walk.press_for_middle, 1780, 9)
        self.assertEqual(people.walk_through(Zone(4000, 2000, math.inf), 1400).inside, math.inf)
        with self.assertRaises(OutOfRange):
            people.walk_through(Zone(1300, 1000, 2000), 0)


class KeepersTest(unittest.TestCase):
    @given(lenses, st.integers(1, 4), st.floats(0, 0.6))
    def test_a_share_is_a_share(self, setup: Setup, count: int, error: float) -> None:
        positions = zone_set(setup, 700, math.inf, count)
        kept = hit_rate.share(setup, positions, 700, math.inf, error)
        self.assertGreaterEqual(kept, 0)
        self.assertLessEqual(kept, 1 + 1e-12)
        exact = hit_rate.share(setup, positions, 700, math.inf, 0)
        self.assertLessEqual(kept, exact + 1e-12)
        self.assertAlmostEqual(hit_rate.share(setup, positions, 700, math.inf, 1e-7), exact, 5)

    def test_judging_without_error_keeps_what_is_covered(self) -> None:
        positions = zone_set(STREET, 700, math.inf, 4)
        self.assertAlmostEqual(hit_rate.share(STREET, positions, 700, math.inf, 0), 1, 9)
        one = zone_set(STREET, 700, math.inf, 1)
        expected = math.log(30000 / one[0].near) / math.log(30000 / 700)
        self.assertAlmostEqual(hit_rate.share(STREET, one, 700, math.inf, 0), expected, 9)

    def test_bad_input(self) -> None:
        cases = (
            (OutOfRange, ([], 700, 5000, 0.1)),
            (OutOfRange, ([2000], 700, 5000, -0.1)),
            (NoWidth, ([2000], 700, 700, 0.1)),
            (WrongOrder, ([2000], 40000, math.inf, 0.1)),
            (NotANumber, ([2000], 700, 5000, math.nan)),
        )
        for error, arguments in cases:
            with self.subTest(arguments=arguments), self.assertRaises(error):
                hit_rate.share(STREET, *arguments)  # type: ignore[arg-type]

    def test_nothing_held_keeps_nothing(self) -> None:
        blind = Setup(28, 32, 0.01, diffraction=True)
        self.assertEqual(hit_rate.share(blind, [2000], 700, 5000, 0.1), 0)
