"""Just inside and just outside of what counts: on the edge itself nothing slips through."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np

from optics import Camera, Mark, Setup, answer
from optics.base.errors import SubjectTooNear
from optics.lens.cone import Cone
from optics.scene import tape
from optics.scene.rescue import Asked, rescue
from optics.sky.star_field import trails
from optics.zones import from_list
from tests.optics.scenes import SAMPLE, scene_of


class InsideTheLensTest(unittest.TestCase):
    def test_in_the_pupil_itself_nothing_is_judged(self) -> None:
        cone = Cone.at(SAMPLE, 0.01)
        for ask in (cone.blur, cone.scale, cone.from_pupil):
            for subject in (cone.origin, cone.origin - 1):
                with self.subTest(ask.__name__, at=subject), self.assertRaises(SubjectTooNear):
                    ask(subject)

    def test_a_tape_reads_as_near_as_a_hair_before_the_pupil(self) -> None:
        camera = Camera(900, 0.26, 0, 24, 24, 36)
        pupil = camera.image_distance
        self.assertAlmostEqual(
            tape.straight_of_depth(camera, pupil + 0.5, 0.5), pupil + 0.5, delta=0.01
        )
        for nearer in (pupil, pupil - 0.5):
            with self.assertRaises(SubjectTooNear):
                tape.straight_of_depth(camera, nearer, 0.5)

    def test_a_star_is_seen_until_it_is_beside_the_camera(self) -> None:
        """On the equator a star in the middle of the picture turns out of it a day's quarter
        later: a hair before that it is still drawn, far outside; a hair after, nowhere."""
        quarter = 86164.0905 / 4
        found = trails(20, [quarter - 100, quarter - 1, quarter + 1], 0.0, 0.0, 0.0)
        x = np.abs(np.asarray(found.x).ravel())
        self.assertTrue(math.isfinite(x[0]))
        self.assertTrue(math.isfinite(x[1]))
        self.assertGreater(x[1], 50 * x[0])
        self.assertTrue(math.isnan(x[2]))


class NothingToMendTest(unittest.TestCase):
    def test_what_holds_is_not_opened(self) -> None:
        """Where something is sharp the mending is the widest that holds, from every aperture."""
        marks = (Mark(1200, letter="A"), Mark(50_000, letter="B"))
        for f_number in (1.4, 2.8, 4.0):
            found = answer(scene_of(Setup(24, f_number, 0.025), marks))
            assert found.remedy is not None
            assert found.remedy.f_number is not None
            self.assertGreater(found.remedy.f_number, f_number)
        # Too small an aperture, though something is sharp at it: not just a little wider.
        close = (Mark(1600, letter="A"), Mark(50_000, letter="B"))
        found = answer(scene_of(Setup(24, 22, 0.022, diffraction=True), close))
        assert found.remedy is not None
        assert found.remedy.f_number is not None
        self.assertLess(found.remedy.f_number, 10)
        # So small an aperture that nothing is sharp: opened by as little as it takes.
        lost = answer(scene_of(Setup(24, 45, 0.02, diffraction=True), marks))
        assert lost.remedy is not None
        assert lost.remedy.f_number is not None
        self.assertLess(lost.remedy.f_number, 45)

    def test_insured_is_what_is_least_known_for_its_distance(self) -> None:
        marks = (
            Mark(400, letter="A", uncertainty=20),  # 1 in 20
            Mark(30_000, letter="B", uncertainty=900),  # 1 in 33, though 45 times as much
            Mark(math.inf, letter="C"),
        )
        scene = scene_of(Setup(24, 4, 0.012), marks)
        saved = rescue(answer(scene), Asked())
        assert saved is not None
        assert saved.insured is not None
        self.assertEqual(saved.insured.letter, "A")
        known = replace(scene, marks=(Mark(400, letter="A"), *marks[1:]))
        saved = rescue(answer(known), Asked())
        assert saved is not None
        assert saved.insured is not None
        self.assertEqual(saved.insured.letter, "B")


class EvenedTest(unittest.TestCase):
    def test_beside_a_fixed_one_the_free_ones_stand_evenly(self) -> None:
        """In 1/distance an end of the band is half a step from its position."""
        setup = Setup(28, 8, 0.03)
        near, far, fixed = 1000.0, 8000.0, 2000.0
        row = np.geomspace(900, 9000, 4000)
        found = from_list.choose(setup, near, far, 3, row, fixed=(fixed,))
        at = [1 / focus for focus in found.focuses]
        self.assertIn(fixed, found.focuses)
        ends = 1 / near, 1 / far
        place = found.focuses.index(fixed)
        free = [n for n in range(3) if n != place]
        for n in free:
            before = at[n - 1] if n else None
            after = at[n + 1] if n < 2 else None
            if before is None and after is not None:
                # Half a step to the end, a whole one to the neighbour.
                self.assertAlmostEqual(
                    (ends[0] - at[n]) * 2, at[n] - after, delta=0.03 * (at[n] - after)
                )
            elif after is None and before is not None:
                self.assertAlmostEqual(
                    (at[n] - ends[1]) * 2, before - at[n], delta=0.03 * (before - at[n])
                )
