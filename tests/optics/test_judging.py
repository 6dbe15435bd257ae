"""How somebody judges distances, told from tries: simulated learners get their own errors back."""

from __future__ import annotations

import math
import random
import statistics
import unittest

from optics import Setup
from optics.base.errors import OutOfRange
from optics.zones.hit_rate import share
from optics.zones.judging import Judgement, judged


def tried(bias: float, scatter: float, count: int, seed: int) -> Judgement:
    """A learner who is that far off."""
    luck = random.Random(seed)
    pairs = []
    for _ in range(count):
        true = math.exp(luck.uniform(math.log(800.0), math.log(15_000.0)))
        pairs.append((true * (1 + bias) * math.exp(luck.gauss(0.0, scatter)), true))
    return judged(pairs)


class JudgingTest(unittest.TestCase):
    def test_a_learner_of_known_bias_and_scatter_gets_both_back(self) -> None:
        found = [tried(0.2, 0.15, 60, seed) for seed in range(200)]
        self.assertAlmostEqual(statistics.fmean(one.bias for one in found), 0.2, delta=0.005)
        self.assertAlmostEqual(statistics.fmean(one.scatter for one in found), 0.15, delta=0.003)
        within = [abs(one.bias - 0.2) < 0.03 and abs(one.scatter - 0.15) < 0.03 for one in found]
        self.assertGreater(sum(within), 150)  # three in four: chance alone is 2.3 % of bias
        for value, true in (("bias", 0.2), ("scatter", 0.15)):
            inside = [
                abs(getattr(one, value) - true) < 2 * getattr(one, f"{value}_error")
                for one in found
            ]
            self.assertGreater(sum(inside), 180, value)
        self.assertTrue(all(one.leans for one in found))
        fair = [tried(0.0, 0.15, 60, seed) for seed in range(200)]
        self.assertLess(sum(one.leans for one in fair), 22)

    def test_what_is_found_is_what_shares_are_worked_out_with(self) -> None:
        found = tried(0.0, 0.15, 4000, 1)
        setup = Setup(28.0, 8.0, 0.03)
        with_it = share(setup, [1400.0, 4200.0], 800.0, 10_000.0, found.scatter)
        known = share(setup, [1400.0, 4200.0], 800.0, 10_000.0, 0.15)
        self.assertAlmostEqual(with_it, known, delta=0.004)

    def test_one_try_tells_no_scatter_and_none_tells_nothing(self) -> None:
        one = judged([(2.0, 1.0)])
        self.assertEqual((one.count, one.bias, one.scatter), (1, 1.0, 0.0))
        self.assertFalse(one.leans)
        self.assertAlmostEqual(judged([(1.1, 1.0), (1.1, 1.0)]).off, math.log(1.1))
        for pairs in ([], [(0.0, 1.0)], [(1.0, -1.0)]):
            with self.assertRaises(OutOfRange):
                judged(pairs)
