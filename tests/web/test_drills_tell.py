"""What tries tell of oneself, counted with in plans only when that was wanted."""

from __future__ import annotations

import math
import random

from optics.zones.subjects import kept
from tests.drills.test_learner import BIAS, SCATTER, deviates
from tests.web.test_drills import Case, tasks_of, tried_once
from web.street.sample import GEAR


class TellsTest(Case):
    def learn(self, count: int = 60, way: str = "") -> None:
        """A learner who is 20 % too far and scatters by 15 %, at the page itself."""
        luck = random.Random(11)
        offs = deviates(count, luck)
        while offs:
            for task in tasks_of(self.client.get("/drills/distance/practice/")):
                if not offs:
                    break
                wanted = task["was"] * (1 + BIAS) * math.exp(SCATTER * offs.pop())
                at = min(range(len(task["said"])), key=lambda k: abs(task["said"][k] - wanted))
                said = {name: task[name] for name in ("drill", "part", "level")}
                self.send(tried_once(**said, right=bool(task["right"][at]), off=task["off"][at],
                                     said=task["said"][at], was=task["was"]))  # fmt: skip

    def test_a_learner_gets_both_back_and_shares_change_as_optics_has_it(self) -> None:
        self.learn()
        page = self.client.get("/drills/")
        judged = page.context["judged"][0]
        self.assertEqual(judged.count, 60)
        self.assertAlmostEqual(judged.of.bias, BIAS, delta=0.03)
        self.assertAlmostEqual(judged.of.scatter, SCATTER, delta=0.03)
        self.assertContains(page, "too far ±")
        link = {**GEAR, "count": "2"}
        before = self.client.get("/street/", link).context["answer"]
        self.assertEqual(before.street.judging, 0.15)
        self.client.post("/drills/accept/", {"what": "screen"})
        self.owner.refresh_from_db()
        self.assertEqual(self.owner.judgement_error, judged.off)
        after = self.client.get("/street/", link).context["answer"]
        self.assertLess(after.share, before.share - 0.01)
        street = after.street
        self.assertEqual(street.judging, judged.off)
        for error, told in ((0.15, before.share), (judged.off, after.share)):
            by_optics = sum(kept(street.setup, after.focuses, street.people, error))
            self.assertAlmostEqual(told, by_optics, places=9)

    def test_nothing_is_taken_over_unasked_or_too_early(self) -> None:
        self.learn(7)
        self.client.post("/drills/accept/", {"what": "screen"})
        self.client.post("/drills/accept/", {"what": "lag"})
        self.client.post("/drills/accept/", {"what": "anything"})
        self.owner.refresh_from_db()
        self.assertEqual((self.owner.judgement_error, self.owner.lag_s), (0.15, 0.2))
        self.assertContains(self.client.get("/drills/"), "7 judged: with eight")

    def test_a_finger_that_is_late_moves_where_to_press(self) -> None:
        for late in (0.28, 0.31, 0.29, 0.35, 0.3):
            self.send(tried_once(drill="moment", part="seen", off=late))
        before = self.client.get("/street/", GEAR).context["answer"]
        self.assertContains(self.client.get("/drills/"), "0.35 s")
        self.client.post("/drills/accept/", {"what": "lag"})
        self.owner.refresh_from_db()
        self.assertEqual(self.owner.lag_s, 0.35)
        after = self.client.get("/street/", GEAR).context["answer"]
        self.assertGreater(after.positions[1].last_press, before.positions[1].last_press)
        typed = self.client.get("/street/", {**GEAR, "lag": "0.2 s"}).context["answer"]
        self.assertEqual(typed.street.lag, 0.2)

    def test_what_is_weakest_comes_first_and_is_asked_more(self) -> None:
        for at in range(30):
            self.send(tried_once(drill="star", part="dim", right=False, off=3.0))
            self.send(tried_once(drill="ring", part="mark", right=True, key=f"0a0a0a0a-{at}"))
        page = self.client.get("/drills/")
        rows = page.context["progress"].rows
        self.assertEqual((rows[0].key, rows[-1].key), ("star", "ring"))
        self.assertEqual(rows[0].weak, "a dim one")
        made = tasks_of(self.client.get("/drills/five/practice/"))
        self.assertEqual(made[0]["drill"], "star")
        levels = {task["level"] for task in made if task["drill"] == "ring"}
        self.assertEqual(levels, {2})
