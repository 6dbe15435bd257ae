"""Laws that hold for every lens and scene: more of this is never less of that."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

from hypothesis import assume, given
from hypothesis import strategies as st

from optics import Setup
from optics.lens import aperture, depth
from optics.lens.conjugates import nearest_focus
from optics.scene import focus_distances, frame, size
from optics.zones import hit_rate, tiling

setups = st.builds(
    Setup,
    focal_length=st.floats(12, 200),
    f_number=st.floats(1.4, 22),
    coc=st.floats(0.006, 0.05),
    pupil_ratio=st.floats(0.5, 2),
    diffraction=st.booleans(),
)
more = st.floats(1.01, 4)
starts = st.floats(1.5, 200)
ratios = st.one_of(st.floats(1.01, 100), st.just(math.inf))


class LawTest(unittest.TestCase):
    @given(setups, starts, ratios, more)
    def test_a_tighter_standard_never_widens_a_window(
        self, setup: Setup, start: float, ratio: float, tighter: float
    ) -> None:
        near = float(nearest_focus(setup)) * start
        loose = depth.focus_window(setup, near, near * ratio)
        tight = depth.focus_window(replace(setup, coc=setup.coc / tighter), near, near * ratio)
        if tight is None:
            return
        assert loose is not None
        self.assertLessEqual(loose.nearest, tight.nearest * (1 + 1e-9))
        self.assertGreaterEqual(loose.farthest, tight.farthest * (1 - 1e-9))

    @given(setups, starts, more)
    def test_a_tighter_standard_never_deepens_the_field(
        self, setup: Setup, start: float, tighter: float
    ) -> None:
        focus = float(nearest_focus(setup)) * start
        loose = depth.limits(setup, focus)
        tight = depth.limits(replace(setup, coc=setup.coc / tighter), focus)
        if not tight.empty:
            self.assertLessEqual(loose.near, tight.near * (1 + 1e-12))
            self.assertGreaterEqual(loose.far, tight.far * (1 - 1e-12))

    @given(setups, starts, ratios, more)
    def test_a_wider_scene_never_has_a_wider_window(
        self, setup: Setup, start: float, ratio: float, wider: float
    ) -> None:
        near = float(nearest_focus(setup)) * start
        inner = depth.focus_window(setup, near, near * ratio)
        outer = depth.focus_window(setup, near, near * ratio * wider)
        if outer is not None:
            assert inner is not None
            self.assertLessEqual(inner.nearest, outer.nearest * (1 + 1e-9))

    @given(setups, more)
    def test_hyperfocal_distances(self, setup: Setup, factor: float) -> None:
        here = float(depth.hyperfocal(setup))
        longer = float(depth.hyperfocal(replace(setup, focal_length=setup.focal_length * factor)))
        self.assertGreaterEqual(longer, here)
        if not setup.diffraction:
            darker = float(depth.hyperfocal(replace(setup, f_number=setup.f_number * factor)))
            self.assertLessEqual(darker, here)
        with_margin = focus_distances.infinity(setup, factor)
        self.assertGreaterEqual(with_margin, here)

    @given(setups, starts, ratios, more)
    def test_a_deeper_scene_never_needs_a_wider_aperture(
        self, setup: Setup, start: float, ratio: float, deeper: float
    ) -> None:
        near = float(nearest_focus(setup)) * start
        shallow = aperture.widest_holding(setup, near, near * ratio)
        deep = aperture.widest_holding(setup, near, near * ratio * deeper)
        if deep is not None:
            assert shallow is not None
            self.assertLessEqual(shallow, deep * (1 + 1e-6))

    @given(st.floats(18, 60), st.floats(4, 16), st.floats(600, 3000), st.integers(1, 4))
    def test_more_positions_never_do_worse(
        self, f: float, n: float, near: float, count: int
    ) -> None:
        setup = Setup(f, n, 0.025)
        few, many = (
            tiling.tile(replace(setup, coc=0.2), near, math.inf, k) for k in (count, count + 1)
        )
        if few.complete:
            self.assertTrue(many.complete)
            self.assertLess(many.coc, few.coc)
        needed = [tiling.f_number_needed(setup, near, math.inf, k) for k in (count, count + 1)]
        self.assertLessEqual(needed[1] or 0, needed[0] or math.inf)
        kept = [
            hit_rate.share(setup, tiling.zone_set(setup, near, math.inf, k), near, math.inf, 0)
            for k in (count, count + 1)
        ]
        self.assertGreaterEqual(kept[1], kept[0] - 1e-12)

    @given(st.floats(0.01, 0.99), st.floats(0.01, 0.99), st.floats(0, 1.2))
    def test_higher_in_the_picture_is_farther_over_level_ground(
        self, row: float, other: float, tilt: float
    ) -> None:
        assume(abs(row - other) > 1e-6)
        camera = frame.Camera(900, tilt, 0, 24, 24, 36)
        low, high = (frame.ground(camera, r) for r in sorted((row, other)))
        assume(math.isfinite(float(low.horizontal)))
        self.assertLess(low.horizontal, high.horizontal)

    @given(st.floats(200, 3000), st.floats(1.01, 5))
    def test_farther_is_smaller(self, height: float, farther: float) -> None:
        near = size.share_of_frame(28, 36, height, 2000)
        self.assertLess(size.share_of_frame(28, 36, height, 2000 * farther), near)
