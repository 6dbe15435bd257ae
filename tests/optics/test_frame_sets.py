"""Several frames: settings that a hand can set, and never a gap between them."""

from __future__ import annotations

import math
import unittest

from optics import Setup
from optics.base import settable
from optics.lens.depth import limits
from optics.lens.focus_window import far_ring, near_rings
from optics.scene.answer import answer
from optics.scene.comparing import compare
from optics.scene.focus_distances import insures
from optics.scene.marks import Mark
from optics.scene.rescue import Asked, rescue
from optics.zones import tiling
from optics.zones.frame_sets import MOST_BY_HAND, NoSet, frame_set
from tests import chance
from tests.optics.scenes import scene_of


class FrameSetTest(unittest.TestCase):
    def test_no_gap_and_no_figure_more_than_a_hand_sets(self) -> None:
        random, sets = chance(1), 0
        for _ in range(400):
            setup = Setup(
                random.choice((12, 24, 50, 90, 200, 600)), random.choice((2.8, 5.6, 11, 18)),
                random.choice((0.005, 0.015, 0.025)), diffraction=random.random() < 0.3,
            )  # fmt: skip
            closest = 7 * setup.focal_length
            near = closest * random.uniform(0.8, 6)
            far = random.choice((math.inf, near * random.uniform(1.0, 8)))
            overlap, system = random.choice((0.0, 0.2, 0.5)), random.choice(("m", "ft"))
            found = frame_set(setup, near, far, overlap, closest, system)
            if isinstance(found, NoSet):
                self.assertTrue(found.sentence.endswith("."))
                continue
            if len(found) == 1:
                continue
            sets += 1
            reached = max(near, float(limits(setup, closest).near))
            with self.subTest(setup=setup, near=near, far=far, overlap=overlap):
                self.assertEqual(tiling.gaps(found, reached, far), ())
                self.assertLessEqual(len(found), MOST_BY_HAND + 3)
                for zone in found:
                    self.assertLessEqual(settable.figures_of(zone.focus, system), settable.FINE)
                    self.assertGreaterEqual(zone.focus, closest * (1 - 1e-9))
                    held = limits(setup, zone.focus)
                    self.assertEqual((zone.near, zone.far), (held.near, held.far))
        self.assertGreater(sets, 100)

    def test_what_is_no_job_by_hand_says_how_many_it_would_take(self) -> None:
        """600 mm, f/18, from 2.58 to 3.35 m: 197 frames."""
        found = frame_set(Setup(600, 18, 0.005), 2580, 3350, 0.2, 2400)
        assert isinstance(found, NoSet)
        assert found.count is not None
        # In 1/distance: the band over what each frame adds.
        held = limits(Setup(600, 18, 0.005), 2915)
        width = 0.8 * (1 / float(held.near) - 1 / float(held.far))
        self.assertAlmostEqual(found.count * width / (1 / 2580 - 1 / 3350), 1, delta=0.03)
        self.assertIn(f"{found.count} frames: no job for turning the ring by hand", found.sentence)

    def test_one_distance_is_one_frame(self) -> None:
        for at in (2000.0, math.inf):
            found = frame_set(Setup(24, 11, 0.025), at, at, 0.2, 300)
            assert not isinstance(found, NoSet)
            self.assertEqual([zone.focus for zone in found], [at])

    def test_one_set_on_one_page(self) -> None:
        """12 mm, f/2.8, diffraction counted, from 1.98 to 5.94 m: once three different sets."""
        setup = Setup(12, 2.8, 0.005006, diffraction=True)
        marks = (Mark(1980, letter="A"), Mark(5940, letter="B"))
        scene = scene_of(setup, marks, school="frames")
        found = answer(scene)
        self.assertEqual(found.failing, ())
        settings = tuple(shot.focus for shot in found.shots)
        way = next(one for one in compare(scene) if one.school.key == "frames")
        self.assertEqual(way.settings, settings)
        saved = rescue(found, Asked())
        assert saved is not None
        self.assertEqual(tuple(shot.focus for shot in saved.frames.frames), settings)


class InsuranceTest(unittest.TestCase):
    def test_one_of_the_bracket_is_right_as_it_is_written(self) -> None:
        random, brackets = chance(2), 0
        for _ in range(200):
            setup = Setup(random.choice((24, 50, 90)), random.choice((5.6, 11)), 0.02)
            near = 40 * setup.focal_length * random.uniform(0.8, 3)
            marks = (Mark(near, letter="A"), Mark(near * random.uniform(1.1, 3), letter="B"))
            error = random.choice((5e-5, 1e-4, 3e-4))
            scene = scene_of(setup, marks, focus_error=error)
            way = next(one for one in compare(scene) if one.school.key == "insurance")
            if way.why_not or len(way.settings) < 2:
                continue
            brackets += 1
            window = near_rings(setup, marks[0].depth)[0], far_ring(setup, marks[1].depth)
            self.assertTrue(insures(setup, way.settings, *window, error))
            self.assertEqual(len(set(way.settings)), len(way.settings))
            if len(way.settings) > 2:  # and none of them is there for nothing
                fewer = way.settings[: len(way.settings) // 2 - 1]
                self.assertFalse(insures(setup, fewer, *window, error))
        self.assertGreater(brackets, 20)


if __name__ == "__main__":
    unittest.main()
