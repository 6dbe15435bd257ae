"""One scene, one answer; a kit at every aperture; what is inside the lens."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from optics import Kit, Mark, OpticsError, Scene, Setup, Wish, answer
from optics.base import settable
from optics.lens import depth
from optics.lens.cone import nearest_subject
from optics.lens.conjugates import nearest_focus
from optics.lens.kit import Fault
from optics.scene import choosing
from optics.scene.after_trial import Trial, learn
from optics.scene.comparing import compare
from optics.scene.rescue import Asked, rescue
from optics.scene.scenes import Choose
from optics.scene.schools import OFFERED, SCHOOLS
from tests.optics.scenes import SALLOW_PIT, SAMPLE, scene_of

lenses = st.builds(
    lambda f, n, c, p, h, d: Setup(f, n, c, p, h, d),
    st.floats(8, 400),
    st.sampled_from([1.4, 2.8, 5.6, 8.0, 11.0, 16.0, 22.0]),
    st.sampled_from([0.006, 0.015, 0.025, 0.05]),
    st.sampled_from([0.5, 0.8, 1.0, 1.5, 3.0]),
    st.sampled_from([0.0, 0.0, -10.0, 8.0, 300.0]),
    st.booleans(),
)


class KitTest(unittest.TestCase):
    def test_the_setup_at_each_aperture(self) -> None:
        kit = Kit(24, 0.025, pupil_ratio=0.9, hiatus=4, diffraction=True)
        self.assertEqual(kit.at(8), Setup(24, 8, 0.025, 0.9, 4, True))
        self.assertEqual(kit.closest, 100, "no lens focuses nearer than four focal lengths")
        self.assertEqual(replace(kit, closest=280.0).closest, 280)

    def test_what_a_lens_gets_wrong_goes_with_the_aperture(self) -> None:
        kit = Kit(50, 0.02, faults=(Fault(8, 0.002, 0.0), Fault(2, 0.010, 0.04)))
        found = {n: kit.at(n) for n in (1.4, 2, 4, 8, 16)}
        self.assertEqual((found[1.4].lens_disc, found[1.4].focus_shift), (0.010, 0.04))
        self.assertEqual((found[16].lens_disc, found[16].focus_shift), (0.002, 0.0))
        # Half way in stops between f/2 and f/8.
        self.assertAlmostEqual(found[4].lens_disc, 0.006, 12)
        self.assertAlmostEqual(found[4].focus_shift, 0.02, 12)

    def test_bad_input(self) -> None:
        for bad in (
            lambda: Kit(0, 0.025), lambda: Kit(24, math.nan), lambda: Kit(24, 0.025, closest=-1),
            lambda: Kit(24, 0.025, apertures=(0.0, 8.0)), lambda: Kit(24, 0.025).at(0),
        ):  # fmt: skip
            with self.assertRaises(OpticsError):
                bad()


class InsideTheLensTest(unittest.TestCase):
    @given(lenses, st.floats(0, 1))
    def test_what_is_outside_can_be_judged_at_every_ring_setting(
        self, lens: Setup, share: float
    ) -> None:
        least = float(nearest_focus(lens))
        focus = math.inf if share == 0 else max(least / share, least)
        near = nearest_subject(lens)
        self.assertGreaterEqual(near, lens.focal_length)
        self.assertGreaterEqual(float(depth.blur_disc(lens, near, focus)), 0)

    def test_a_thin_lens_draws_out_to_two_focal_lengths(self) -> None:
        self.assertAlmostEqual(nearest_subject(SAMPLE), 24 * 2.1, 9)
        # The pupil of a lens with a pupil ratio of 3 stands 2/3 f before its principal plane.
        self.assertAlmostEqual(
            nearest_subject(Setup(24, 8, 0.025, pupil_ratio=3.0)), 24 * (2 + 2 / 3 + 0.1), 9
        )
        self.assertAlmostEqual(nearest_subject(Setup(24, 8, 0.025, hiatus=300.0)), 350.4, 9)


class AnswerTest(unittest.TestCase):
    def test_sallow_pit(self) -> None:
        found = answer(SALLOW_PIT)
        self.assertEqual([shot.focus for shot in found.shots], [2600])
        self.assertAlmostEqual(found.ring.exact, 2557.8, delta=0.1)
        held = depth.limits(SAMPLE, 2600)
        self.assertEqual((found.ring.near, found.ring.far), (held.near, held.far))
        self.assertEqual((settable.figures_of(found.ring.focus), found.ring.f_number), (2, 11))
        self.assertEqual([v.word for v in found.verdicts], ["holds", "holds", "holds", "soft"])
        self.assertTrue(found.inside_window)
        self.assertIsNone(found.remedy)

    def test_unsure_distances_move_the_ring(self) -> None:
        """35 mm at f/16: marks at 1.51 and 9.1 m, 5 % unsure, both hold at 2.5 m and not at 2.6."""
        marks = (Mark(1510, 0.05 * 1510), Mark(9100, 0.05 * 9100))
        found = answer(scene_of(Setup(35, 16, 0.025), marks))
        self.assertEqual(found.ring.focus, 2500)
        self.assertEqual([v.word for v in found.verdicts], ["holds", "holds"])

    @given(lenses, st.lists(st.floats(0.5, 8), min_size=1, max_size=5), st.sampled_from(SCHOOLS))
    def test_what_is_said_is_of_the_setting_said(self, lens, powers, school) -> None:  # type: ignore[no-untyped-def]
        near = nearest_subject(lens)
        marks = tuple(Mark(near * 2.0**power, 0.01 * near) for power in powers)
        scene = scene_of(lens, marks, school=school.key, apertures=(2.8, 8.0, 16.0))
        found = answer(scene)
        for verdict in found.verdicts:
            blurs = [
                float(depth.counted_blur(lens, verdict.mark.depth, shot.focus))
                for shot in found.shots
            ]
            self.assertLessEqual(min(blurs), verdict.blur * (1 + 1e-9))
            if len(found.shots) == 1:
                self.assertAlmostEqual(verdict.circles, blurs[0] / lens.coc, 9)
        for shot in found.shots:
            self.assertGreaterEqual(shot.focus, scene.closest * (1 - 1e-2))
        compare(scene)
        rescue(found, Asked())
        trial = Trial(found.ring.focus, found.scene.f_number, frozenset("A"))
        learnt = learn(found.scene, 0.02, [trial])
        if learnt is not None:
            answer(learnt.scene)
        choosing.chart(scene)
        for choose in Choose:
            answer(replace(scene, choose=choose))

    def test_a_rescue_says_what_would_do(self) -> None:
        close = scene_of(SAMPLE, (Mark(500, 5, letter="A"), Mark(math.inf, letter="B")))
        found = answer(close)
        saved = rescue(found, Asked(bracket=3, seconds=0.5, longest=35.0))
        assert saved is not None
        assert saved.frames is not None
        assert found.remedy is not None
        self.assertFalse(saved.holds)
        assert saved.widest is not None
        self.assertEqual(saved.widest.f_number, found.remedy.f_number)
        self.assertEqual(saved.frames.exposures, 3 * len(saved.frames.frames))
        # A bracket a stop apart about half a second: 0.25 + 0.5 + 1 s; and 2 s between frames.
        count = len(saved.frames.frames)
        self.assertAlmostEqual(saved.frames.seconds or 0, count * 1.75 + (count - 1) * 2, 9)
        self.assertIsNone(rescue(answer(scene_of(SAMPLE)), Asked()))

    def test_soft_where_it_should_be(self) -> None:
        marks = (Mark(3000), Mark(12000, wish=Wish.SOFT))
        scene = scene_of(Setup(50, 11, 0.03), marks, choose=Choose.SOFTENS, apertures=(2.8, 4, 8))
        self.assertIn(answer(scene).chosen.f_number, (2.8, 4, 8))
        none = answer(replace(scene, marks=marks[:1]))
        self.assertEqual(none.chosen.says, choosing.NOTHING_SOFT)


class FaultsTest(unittest.TestCase):
    def test_what_is_wrong_at_one_aperture_says_nothing_of_another(self) -> None:
        """A lens too soft at f/4 for any two ends, and as good as ideal from f/5.6 on."""
        kit = Kit(24, 0.025, diffraction=True, apertures=(4.0, 5.6, 8.0, 11.0, 16.0),
                  faults=(Fault(4.0, lens_disc=0.03), Fault(5.6, lens_disc=0.0)))  # fmt: skip
        marks = (Mark(2000, letter="A"), Mark(50_000, letter="B"))
        found = answer(Scene(kit, 4.0, marks))
        assert found.remedy is not None
        ideal = answer(Scene(replace(kit, faults=()), 4.0, marks))
        assert ideal.remedy is not None
        self.assertGreater(found.worst_circles, 1)
        self.assertEqual(found.remedy.f_number, ideal.remedy.f_number)
        self.assertEqual(answer(Scene(kit, found.remedy.f_number or 0, marks)).failing, ())


class SchoolsTest(unittest.TestCase):
    def test_each_is_told_apart_and_offered_in_order(self) -> None:
        self.assertEqual(len({school.key for school in SCHOOLS}), len(SCHOOLS))
        self.assertEqual([s.number for s in OFFERED], list(range(1, len(OFFERED) + 1)))
        for school in SCHOOLS:
            self.assertTrue(school.name and school.short and school.says)
