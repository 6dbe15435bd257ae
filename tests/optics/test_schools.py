"""The schools of placing focus, against traced rays and each other; marks and their verdicts."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

from hypothesis import assume, given
from hypothesis import strategies as st

from optics import Setup
from optics.base import settable
from optics.base.errors import NotANumber, SubjectTooNear, WrongOrder
from optics.lens import depth
from optics.lens.conjugates import nearest_focus
from optics.scene import focus_distances
from optics.scene.camera import Camera
from optics.scene.comparing import Compared, compare
from optics.scene.marks import Look, Mark, Wish, Word, judge, judge_best
from optics.scene.scenes import Scene
from optics.scene.schools import (
    ABOVE_THE_HORIZON,
    NO_CAMERA,
    NO_GROUND,
    NO_SETTING,
    NO_THIRD_OF_INFINITY,
    NOTHING_HOLDS,
    NOTHING_MUST,
)
from optics.zones import tiling
from optics.zones.frame_sets import NoSet, frame_set
from tests.optics import rays
from tests.optics.reference import values
from tests.optics.scenes import FULL_FRAME, LOOK, SALLOW_PIT, SAMPLE, scene_of
from tests.optics.test_depth import setups


def by(scene: Scene) -> dict[str, Compared]:
    """What every school says, by its key."""
    return {compared.school.key: compared for compared in compare(scene)}


def traced_circles(setup: Setup, focus: float, subject: float) -> float:
    """The blur of a subject in circles, by tracing rays."""
    sensor = rays.sensor_behind_rear_plane(setup.focal_length, setup.hiatus, focus)  # type: ignore[arg-type]
    blur = rays.blur(
        float(setup.focal_length), float(setup.f_number), float(setup.pupil_ratio),
        float(setup.hiatus), sensor, subject,
    )  # fmt: skip
    return blur / float(setup.coc)


class PlacementTest(unittest.TestCase):
    def test_infinity_with_a_margin(self) -> None:
        fields, margin, expected = values.INFINITY_WITH_A_MARGIN
        found = focus_distances.infinity(Setup(*fields), margin)
        self.assertAlmostEqual(found, expected.value, delta=expected.tolerance)
        self.assertEqual(focus_distances.infinity(SAMPLE), depth.hyperfocal(SAMPLE))

    @given(setups, st.floats(1, 8))
    def test_at_that_margin_infinity_is_so_much_sharper(self, setup: Setup, margin: float) -> None:
        focus = focus_distances.infinity(setup, margin)
        assume(focus > 1.0001 * nearest_focus(setup))
        blur = float(depth.blur_disc(setup, math.inf, focus))
        self.assertAlmostEqual(blur * margin / setup.coc, 1, delta=1e-8)

    def test_subject_first_allows_for_focus_shift(self) -> None:
        shifted = replace(SAMPLE, focus_shift=0.02)
        focus = focus_distances.subject_first(shifted, 2000)
        self.assertLess(focus, 2000)
        self.assertAlmostEqual(float(depth.blur_disc(shifted, 2000, focus)), 0, 9)
        self.assertAlmostEqual(float(depth.sharp_distance(shifted, focus)), 2000, 5)
        self.assertEqual(depth.sharp_distance(shifted, math.inf), math.inf)
        with self.assertRaises(NotANumber):
            focus_distances.subject_first(SAMPLE, math.nan)

    def test_a_third_up_sees_itself(self) -> None:
        camera = SALLOW_PIT.camera
        assert camera is not None
        focus = focus_distances.third_up(camera)
        assert focus is not None
        # By hand, v = f(1 + m) with m = 24/(2177.3 − 24.27 − 24) = 0.011273: v = 24.2706.
        # t = (1/2 − 1/3)·24/24.2706 = 0.164809; depth = 900/(0.258819 + 0.159193) + 24.27.
        self.assertAlmostEqual(focus, 2177.3, delta=0.1)
        self.assertIsNone(focus_distances.third_up(camera, row=0.9))

    def test_a_third_along(self) -> None:
        camera = SALLOW_PIT.camera
        assert camera is not None
        focus = focus_distances.third_along(camera, 1080, 5000)
        # 1080 + 3920/3 = 2386.67 along; × cos 15° + 900 × sin 15° + v = 2305.34 + 232.94 + 24.23
        self.assertAlmostEqual(focus or 0, 2562.5, delta=0.1)
        self.assertIsNone(focus_distances.third_along(camera, 1080, math.inf))
        with self.assertRaises(WrongOrder):
            focus_distances.third_along(camera, 5000, 1080)

    def test_insurance_covers_an_unsure_distance(self) -> None:
        setup = Setup(50, 4, 0.02)
        zones = frame_set(setup, 2100, 3900, 0.0, 500)
        assert not isinstance(zones, NoSet)
        self.assertEqual(tiling.gaps(zones, 2100, 3900), ())
        for zone in zones:
            self.assertLessEqual(settable.figures_of(zone.focus), settable.FINE)

    @given(st.floats(0, 2e-3), st.floats(-1, 1))
    def test_one_of_the_insurance_settings_is_right_whatever_the_error(
        self, error: float, off: float
    ) -> None:
        near, far = 1300.0, 180000.0
        found = focus_distances.insurance_for_method(SAMPLE, near, far, error)
        assert found is not None
        window = depth.focus_window(SAMPLE, near, far)
        assert window is not None
        f = float(SAMPLE.focal_length)

        def lands(setting: float) -> bool:
            ring = (0 if math.isinf(setting) else f / (setting - 2 * f)) + off * error * f
            inside = (f / (window.farthest - 2 * f), f / (window.nearest - 2 * f))
            hair = 2e-4 * (inside[1] - inside[0]) + 1e-6  # m against f/(D − 2f): second order
            return inside[0] - hair <= ring <= inside[1] + hair

        past_infinity = math.inf in found.settings
        self.assertTrue(past_infinity or any(lands(setting) for setting in found.settings))
        if len(found.settings) > 1:
            fewer = len(found.settings) - 1
            rings = [f / (w - 2 * f) for w in (window.nearest, window.farthest)]
            self.assertLess(fewer * (rings[0] - rings[1]), 2 * f * error * (1 + 1e-3))

    def test_no_insurance_without_a_window(self) -> None:
        self.assertIsNone(focus_distances.insurance_for_method(SAMPLE, 600, math.inf, 1e-4))
        self.assertIsNone(
            focus_distances.insurance_for_method(Setup(200, 2, 0.01), 3000, 3001, 1e-2)
        )


class CompareTest(unittest.TestCase):
    SCENES = (
        SALLOW_PIT,
        scene_of(  # a longer lens, looking down a market row
            Setup(50, 8, 0.02),
            (Mark(3000, 100), Mark(9000, 300), Mark(25000, 1000, Wish.SOFT, 1.5)),
            camera=Camera(1600, math.radians(5), 0, 50, 24, 36),
        ),
        scene_of(  # close work with a thick lens
            Setup(90, 16, 0.02, pupil_ratio=0.6, hiatus=8),
            (Mark(600, 2), Mark(612, 2), Mark(900, 20, Wish.SOFT, 3)),
            look=Look(FULL_FRAME),
        ),
    )

    def test_every_verdict_agrees_with_traced_rays(self) -> None:
        for scene in self.SCENES:
            for placed in compare(scene):
                if len(placed.settings) != 1:
                    continue
                for mark, verdict in zip(scene.marks, placed.verdicts, strict=True):
                    with self.subTest(placed.school, mark=mark.depth):
                        assert placed.focus is not None
                        traced = traced_circles(scene.setup, placed.focus, mark.depth)
                        self.assertAlmostEqual(verdict.circles, traced, delta=1e-7)
                        edges = [
                            traced_circles(scene.setup, placed.focus, at)
                            for at in (mark.nearest, mark.farthest)
                        ]
                        expected = (
                            Word.SOFT if traced > 1 + 1e-7
                            else Word.JUST if max(edges) > 1 + 1e-7
                            else Word.HOLDS
                        )  # fmt: skip
                        self.assertEqual(verdict.word, expected)

    def test_costs_are_those_of_the_verdicts(self) -> None:
        for scene in self.SCENES:
            for placed in compare(scene):
                if placed.cost is None:
                    self.assertTrue(placed.why_not.endswith("."))
                    self.assertIsNone(placed.focus)
                    continue
                must = [v for v in placed.verdicts if v.mark.wish is Wish.SHARP]
                self.assertEqual(placed.cost.worst, max(v.circles for v in must))
                self.assertEqual(len(placed.cost.lost), sum(not v.met for v in must))
                if placed.cost.stops is not None:
                    self.assertGreaterEqual(placed.cost.stops, -1e-7)

    def test_sallow_pit(self) -> None:
        found = by(SALLOW_PIT)
        between = found["between"]
        # Where a hand can set it: 2557.8 mm is 2.6 m, and all that is said is said of that.
        self.assertEqual(between.focus, settable.nearest(values.BETWEEN_FOCUS.value))
        assert between.cost is not None
        self.assertEqual(between.cost.lost, ())
        self.assertEqual([v.word for v in between.verdicts], ["holds", "holds", "holds", "soft"])
        rounded = focus_distances.worst_blur(SAMPLE, 1300, 180000, 2600)
        stops = 2 * math.log2(rounded / values.BETWEEN_BLUR.value)
        self.assertAlmostEqual(between.cost.stops or 0, stops, 5)
        hyperfocal = found["hyperfocal"]
        self.assertEqual(hyperfocal.focus, settable.up(2142.8205))
        assert hyperfocal.limits is not None
        self.assertEqual(hyperfocal.limits.far, math.inf)
        slab = found["subject"]
        assert slab.cost is not None
        self.assertEqual(slab.cost.lost, (1, 2), "the wheel and the ridge go")
        # Closing by so many stops makes the worst mark as sharp as between makes it.
        stopped = replace(SAMPLE, f_number=11 * 2 ** (slab.cost.stops / 2))  # type: ignore[operator]
        worst = focus_distances.worst_blur(stopped, 1300, 180000, 1300)
        self.assertAlmostEqual(worst, values.BETWEEN_BLUR.value, delta=1e-8)

    def test_what_a_school_cannot_do_it_says(self) -> None:
        sky = replace(SALLOW_PIT, camera=Camera(900, math.radians(-20), 0, 24, 24, 36))
        down = replace(SALLOW_PIT, camera=Camera(900, math.pi / 2, 0, 24, 24, 36))
        endless = replace(SALLOW_PIT, marks=(Mark(1300), Mark(math.inf)))
        close = replace(SALLOW_PIT, marks=(Mark(500), Mark(math.inf)))
        blind = scene_of(Setup(24, 32, 0.01, diffraction=True), SALLOW_PIT.marks)
        cases = (
            (scene_of(SAMPLE), "between", NOTHING_MUST),
            (scene_of(SAMPLE), "subject", NOTHING_MUST),
            (scene_of(SAMPLE), "frames", NOTHING_MUST),
            (scene_of(SAMPLE), "insurance", NOTHING_MUST),
            (scene_of(SAMPLE), "third_up", NO_CAMERA),
            (replace(SALLOW_PIT, marks=()), "third_along", NOTHING_MUST),
            (sky, "third_up", ABOVE_THE_HORIZON),
            (endless, "third_along", NO_THIRD_OF_INFINITY),
            (down, "third_along", NO_GROUND),
            (close, "insurance", NO_SETTING),
            (blind, "hyperfocal", NOTHING_HOLDS),
            (blind, "frames", NOTHING_HOLDS),
        )
        for scene, school, why in cases:
            with self.subTest(school):
                self.assertEqual(by(scene)[school].why_not, why)
        near = replace(SALLOW_PIT, marks=(Mark(80),))
        self.assertIn("nearer than four focal lengths", by(near)["between"].why_not)
        flat = replace(SALLOW_PIT, camera=Camera(50, math.radians(85), 0, 24, 24, 36))
        for scene, school in ((flat, "third_up"), (near, "third_along")):
            self.assertIn("nearer than four focal lengths", by(scene)[school].why_not)
        with self.assertRaises(SubjectTooNear):
            compare(replace(SALLOW_PIT, marks=(Mark(20),)))

    def test_several_frames_hold_what_one_cannot(self) -> None:
        near = replace(SALLOW_PIT, marks=(Mark(500, 10), Mark(4200, 100), Mark(math.inf)))
        placed = by(near)["frames"]
        assert placed.cost is not None
        assert placed.limits is not None
        self.assertGreater(placed.cost.exposures, 1)
        self.assertEqual(placed.cost.lost, ())
        self.assertLessEqual(placed.limits.near, 500 * (1 + 1e-7))
        self.assertEqual(placed.limits.far, math.inf)
        best = judge_best(SAMPLE, near.marks, placed.settings, LOOK)
        by_one = [judge(SAMPLE, near.marks, focus, LOOK) for focus in placed.settings]
        for at, verdict in enumerate(best):
            self.assertEqual(verdict.worst, min(one[at].worst for one in by_one))

    def test_a_setting_by_hand(self) -> None:
        found = judge(SAMPLE, SALLOW_PIT.marks, 2600, LOOK)
        self.assertEqual([v.word for v in found], ["holds", "holds", "holds", "soft"])
        self.assertAlmostEqual(found[0].pixels or 0, 0.02091015 / 0.006, delta=1e-5)
