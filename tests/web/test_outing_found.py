"""Of which plan frames are, what is found in those of the sample world, and what they teach."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np
from django.test import TestCase

from drawing.fell import fell_line
from drawing.softness_map import softness_map
from imaging.reading import read
from imaging.whole import plain, whole
from tests.web.test_outings import Case, entry
from tools.demo_frames import file, shots
from web.demo.came_home import frames
from web.demo.world import load
from web.outings.learning import judged_by, learnt
from web.outings.matching import Wanted, match
from web.outings.models import Frame, Outing, State


class MatchingTest(TestCase):
    PLANS = (Wanted(1, "Pit", 24.0, (11.0,)), Wanted(2, "Wheel", 24.0, (22.0,)),
             Wanted(3, "Night", 16.0, (2.0,)))  # fmt: skip

    def matched(self, **said: Any) -> tuple[int | None, bool]:
        frame = Frame(outing=Outing(name="A"), name="a.jpg", **said)
        begun = datetime(2026, 3, 7, 16, 0, tzinfo=UTC)
        times = [(begun, 1, "taken"), (begun + timedelta(minutes=30), 2, "checked")]
        found = match(frame, self.PLANS, times)
        return found.item, found.sure

    def at(self, minute: int) -> datetime:
        return datetime(2026, 3, 7, 16, minute, tzinfo=UTC)

    def test_by_aperture_time_and_focal_length(self) -> None:
        for said, wanted in (
            ({"focal_length_mm": 24.0, "f_number": 11.0}, (1, True)),
            ({"focal_length_mm": 24.0, "f_number": 22.0}, (2, True)),
            ({"focal_length_mm": 16.0, "f_number": 2.0}, (3, True)),
            ({"focal_length_mm": 16.0}, (3, False)),
            ({"focal_length_mm": 24.0, "f_number": 11.0, "at": self.at(1)}, (1, True)),
            ({"focal_length_mm": 24.0, "at": self.at(0)}, (1, True)),
            ({"focal_length_mm": 24.0, "at": self.at(35)}, (2, True)),
            ({"focal_length_mm": 24.0, "f_number": 16.0}, (1, False)),
            ({"focal_length_mm": 90.0, "f_number": 11.0, "at": self.at(0)}, (None, False)),
            ({}, (None, False)),
        ):  # fmt: skip
            with self.subTest(said):
                self.assertEqual(self.matched(**said), wanted)


class DemoTest(TestCase):
    """What the application finds in the frames of the sample world is right."""

    WRONG = {
        "pit-03.jpg": ("C", "NEAR"), "pit-04.jpg": ("B", "MOVING"),
        "pit-05.jpg": ("A", "DIFFRACTION"), "row-02.jpg": ("A", "SHAKE"),
        "top-03.jpg": ("S", "DRIFT"),
    }  # fmt: skip

    def test_what_went_wrong_is_named_and_what_held_holds(self) -> None:
        load()
        every = list(Frame.objects.all())
        self.assertEqual(len(every), 11)
        for frame in every:
            assert frame.found is not None
            with self.subTest(frame.name):
                marks = {one["letter"]: one for one in frame.found["marks"]}
                if frame.name not in self.WRONG:
                    self.assertEqual(frame.state, State.HELD)
                    self.assertNotIn("soft", {one["word"] for one in marks.values()})
                    continue
                letter, cause = self.WRONG[frame.name]
                self.assertEqual(marks[letter]["word"], "soft")
                self.assertEqual(marks[letter]["parts"][0][0], cause)

    def test_they_are_what_the_made_up_camera_takes_and_what_is_measured_now(self) -> None:
        wanted = next(shot for shot in shots() if shot.name == "row-02.jpg")
        said = next(one for one in frames() if one["name"] == "row-02.jpg")
        seen = plain(whole(read(file(wanted)).luminance))
        self.assertEqual(seen["size"], said["whole"]["size"])
        now, then = (np.array(one["disc"], float) for one in (seen, said["whole"]))
        self.assertLess(float(np.nanmedian(np.abs(now - then))), 0.11)

    def test_pages_say_it(self) -> None:
        load()
        for name, words in (
            ("pit-03.jpg", ("Focused too near", "Set the ring to 2.6 m", "It would have shown")),
            ("pit-04.jpg", ("Winch wheel: it moved", "Wait for the lull")),
            ("pit-05.jpg", ("Diffraction", "Open to about f/")),
            ("row-02.jpg", ("The camera moved", "so are")),
            ("top-03.jpg", ("The stars moved on", "Expose no longer than")),
            ("pit-01.jpg", ("It holds", "Hatched the closer the softer")),
        ):
            page = self.client.get(f"/outings/frames/{Frame.objects.get(name=name).pk}/")
            for said in words:
                self.assertContains(page, said)

    def test_what_frames_teach(self) -> None:
        owner = load()
        found = learnt(owner)
        self.assertEqual((found.count, found.held), (11, 6))
        by_lens = next(table for table in found.tables if table.title == "by lens")
        self.assertEqual({row.name: (row.held, row.count) for row in by_lens.rows},
                         {"20–35 mm f/4 zoom": (3, 6), "28 mm f/2.8 with tab": (2, 3),
                          "16 mm f/2 for the night": (1, 2)})  # fmt: skip
        self.assertContains(self.client.get("/outings/learnt/"), "6 of 11 held")
        self.assertFalse(judged_by(owner).enough)


class LearningTest(Case):
    def miss(self, off: float, missed: str) -> None:
        found = {
            "held": missed == "", "planned_mm": 1200.0, "f_number": 4.0, "lens": "A", "place": "",
            "way": "scale", "marks": [],
            "fell": {"off_um": off, "sure": True, "missed": missed},
        }  # fmt: skip
        count = self.outing.frames.count()
        Frame.objects.create(outing=self.outing, name=f"{count}.jpg", found=found, order=count,
                             state=State.SOFT if missed else State.HELD)  # fmt: skip

    def test_misses_to_one_side_are_told_and_chance_is_not(self) -> None:
        self.owner.outings.exclude(pk=self.outing.pk).delete()
        for off in (12.0, 20.0, 16.0, 9.0, 14.0):
            self.miss(off, "near")
        page = self.client.get("/outings/learnt/")
        self.assertContains(page, "Your misses are on the near side at close range.")
        self.assertContains(page, "a finger’s width farther")
        for off in (-15.0, -18.0, -12.0, -14.0, -16.0):
            self.miss(off, "far")
        self.assertContains(
            self.client.get("/outings/learnt/"),
            "Where focus falls at close range is chance, no habit",
        )

    def test_how_far_off_one_judges_is_taken_over_when_accepted_and_never_before(self) -> None:
        pairs = (("3 m", "2.5 m"), ("2 m", "1.7 m"), ("6 m", "5 m"), ("1.2 m", "1 m"))
        says = [{"judged": one, "was": other} for one, other in (*pairs, ("no", "1 m"))]
        self.send(*(entry("judged", says=one) for one in says))
        before = self.owner.judgement_error
        page = self.client.get("/outings/learnt/")
        self.assertContains(page, "on the whole 19 % too far")
        self.owner.refresh_from_db()
        self.assertEqual(self.owner.judgement_error, before)
        self.assertContains(
            self.client.post("/outings/learnt/accept/", follow=True), "count with that"
        )
        self.owner.refresh_from_db()
        self.assertAlmostEqual(self.owner.judgement_error, 0.18, delta=0.005)


class DrawnTest(TestCase):
    def test_the_map_hatches_what_is_soft_and_names_the_sharpest_place(self) -> None:
        discs = [[9.0] * 9 for _ in range(9)]
        for row in range(6, 9):
            discs[row] = [1.5] * 5 + [5.0] * 4
        made = softness_map(discs, 64, 2.0)
        self.assertEqual({box.says for box in made.boxes}, {"softest", "softer"})
        self.assertEqual(made.sharpest, "lower left")
        self.assertAlmostEqual(made.sharp, 15 / 81)
        nothing = softness_map([[None, None]], 64, 2.0)
        self.assertEqual((nothing.sharpest, nothing.told), ("", 0.0))

    def test_the_line_of_where_focus_fell(self) -> None:
        marks = [("A", "holds", 1300.0), ("B", "soft", float("inf"))]
        line = fell_line(marks, 2600.0, (1300.0, 1400.0, 1500.0), "m", 24, 576)
        self.assertTrue(line.knows)
        self.assertLess(line.bar, line.fell)
        self.assertLess(line.fell, line.meant)
        self.assertLess(line.marks[0].x, line.marks[1].x)
        self.assertFalse(fell_line(marks, 2600.0, None, "m", 24, 576).knows)
