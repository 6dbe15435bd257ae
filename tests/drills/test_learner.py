"""Learners who are made up: what they are is what is found, and what they are asked next."""

from __future__ import annotations

import math
import random
import statistics
import unittest

from drills import distance, progress
from drills.every import BY_KEY, DRILLS
from drills.progress import Tried, standing
from drills.tasks import Task, nearest_stop
from optics.zones.judging import Judgement, judged
from tests.drills.gears import gear

BIAS, SCATTER, COUNT = 0.2, 0.15, 60


def deviates(count: int, luck: random.Random) -> list[float]:
    """Standard normal ones, in any order, that have the scatter of the whole."""
    even = statistics.NormalDist()
    found = [even.inv_cdf((at + 0.5) / count) for at in range(count)]
    scale = 1.0 / statistics.stdev(found)
    luck.shuffle(found)
    return [one * scale for one in found]


def answered(task: Task, off: float) -> tuple[float, float]:
    """A judgement that is off by a factor, as it can be given: said and true, mm."""
    stop = nearest_stop(task.stops, task.facts["was"] * math.exp(off))
    one = task.outcomes[stop]
    return one.said, one.was


def learner(seed: int, *, even: bool) -> Judgement:
    luck = random.Random(seed)
    offs = deviates(COUNT, luck) if even else [luck.gauss(0, 1) for _ in range(COUNT)]
    pairs = []
    for at, off in enumerate(offs):
        part = distance.DRILL.parts[at % 3]
        task = distance.DRILL.make(gear(), luck, part, 2)
        pairs.append(answered(task, math.log1p(BIAS) + SCATTER * off))
    return judged(pairs)


class LearnerTest(unittest.TestCase):
    def test_bias_and_scatter_come_back_within_three_in_a_hundred(self) -> None:
        for seed in range(12):
            found = learner(seed, even=True)
            self.assertAlmostEqual(found.bias, BIAS, delta=0.03)
            self.assertAlmostEqual(found.scatter, SCATTER, delta=0.03)
            self.assertTrue(found.leans)

    def test_by_chance_alone_most_come_back_so_and_none_are_pulled_one_way(self) -> None:
        found = [learner(seed, even=False) for seed in range(60)]
        within = [
            abs(one.bias - BIAS) < 0.03 and abs(one.scatter - SCATTER) < 0.03 for one in found
        ]
        self.assertGreater(sum(within), 40)  # 60 tries leave 2.3 % of chance
        self.assertAlmostEqual(statistics.fmean(one.bias for one in found), BIAS, delta=0.008)
        self.assertAlmostEqual(statistics.fmean(one.scatter for one in found), SCATTER, delta=0.008)


def tries(pattern: str, level: int = 1, part: str = "a") -> list[Tried]:
    return [Tried(part, level, one == "+") for one in pattern]


class ProgressTest(unittest.TestCase):
    def test_levels_follow_what_goes_well(self) -> None:
        self.assertEqual(progress.level_of([]), 1)
        self.assertEqual(progress.level_of(tries("+++++++")), 1)  # too few to tell
        self.assertEqual(progress.level_of(tries("++++++++")), 2)
        self.assertEqual(progress.level_of(tries("++++++++") + tries("+", 2)), 2)
        self.assertEqual(progress.level_of(tries("+-------", 2)), 1)
        self.assertEqual(progress.level_of(tries("+-+-+-+-", 2)), 2)
        self.assertEqual(progress.level_of(tries("++++++++++", 3)), 3)
        self.assertEqual(progress.level_of(tries("----------", 1)), 1)

    def test_the_weakest_comes_first_and_more_often(self) -> None:
        made = {
            drill.key: standing(drill, tries("+" * 20, part=drill.parts[0])) for drill in DRILLS
        }
        made["blur"] = standing(BY_KEY["blur"], tries("---+" * 5, part="near"))
        order = progress.weakest_first(made.values())
        self.assertEqual(order[0].drill.key, "blur")
        five = {one.drill.key: count for one, count in progress.five_minutes(made.values())}
        self.assertEqual(set(five), {drill.key for drill in DRILLS})
        self.assertGreater(five["blur"], BY_KEY["blur"].unit)
        seconds = sum(BY_KEY[key].seconds * count for key, count in five.items())
        self.assertTrue(240 <= seconds <= 300, seconds)

    def test_within_a_drill_too(self) -> None:
        drill = BY_KEY["distance"]
        of = tries("+" * 20, part="near") + tries("-" * 20, part="far")
        asked = progress.parts_for(standing(drill, of), 3000, random.Random(1))
        self.assertGreater(asked.count("far"), 4 * asked.count("near"))
        self.assertGreater(asked.count("near"), 100)  # now and then, all the same
        self.assertEqual(standing(drill, of).parts[0][0], "far")

    def test_one_who_begins_begins_with_the_first_part(self) -> None:
        for drill in DRILLS:
            asked = progress.parts_for(standing(drill, []), 3, random.Random(2))
            self.assertEqual(asked[0], drill.parts[0])
