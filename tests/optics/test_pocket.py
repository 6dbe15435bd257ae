"""What goes into the pocket: the short card of a zoom, and the sliding strip."""

from __future__ import annotations

import itertools
import math
import random
import unittest

from hypothesis import given
from hypothesis import strategies as st

from optics import Kit, Ring, Setup
from optics.base import settable
from optics.base.errors import OpticsError
from optics.lens.conjugates import magnification
from optics.lens.depth import hyperfocal, limits
from optics.lens.ring_strip import ring_strip
from optics.lens.short_card import Stretch, short_card
from optics.lens.sliding import sliding
from tests import some
from tests.optics import rays


def traced(setup: Setup, subject: float, focus: float) -> float:
    """The blur of a point by two marginal rays."""
    sensor = rays.sensor_behind_rear_plane(setup.focal_length, setup.hiatus, focus)
    return rays.blur(
        setup.focal_length, setup.f_number, setup.pupil_ratio, setup.hiatus, sensor, subject
    )


def zoom(coc: float = 0.03, n: float = 8.0):  # type: ignore[no-untyped-def]
    return lambda f: Setup(f, n, coc)


class ShortCardTest(unittest.TestCase):
    def test_a_walk_with_a_zoom(self) -> None:
        found = short_card(zoom(), 24.0, 75.0, 1.5)
        self.assertEqual((found[0].start, found[-1].end), (24.0, 75.0))
        self.assertLessEqual(len(found), 4)
        for one, other in itertools.pairwise(found):
            self.assertAlmostEqual(one.end, other.start, 5)
            self.assertLess(one.focus, other.focus)

    @given(st.floats(10, 60), st.floats(1.2, 6), st.floats(2.8, 16), st.floats(1.1, 3))
    def test_on_whole_steps_it_costs_no_more_either(
        self, shortest: float, ratio: float, n: float, give: float
    ) -> None:
        longest = shortest * ratio
        found = short_card(zoom(0.03, n), shortest, longest, give, step=1.0)
        self.assertEqual(found[-1].end, longest)
        for one in found:
            self.assertLessEqual(one.cost, give * (1 + 1e-9))
            far = one.end - one.start > 2.0 and one.end != longest
            self.assertTrue(not far or one.end == math.floor(one.end), one)
        self.assertGreaterEqual(len(found), len(short_card(zoom(0.03, n), shortest, longest, give)))

    @given(
        st.floats(10, 60),
        st.floats(1.2, 8),
        st.floats(2.8, 16),
        st.floats(0.01, 0.05),
        st.floats(1.1, 3),
        st.sampled_from(["m", "ft"]),
    )
    def test_nothing_it_promises_fails(
        self, shortest: float, ratio: float, n: float, coc: float, give: float, system: str
    ) -> None:
        """Dense: at every focal length infinity holds, and all from the nearest on."""
        found = short_card(zoom(coc, n), shortest, shortest * ratio, give, system)
        for one in found:
            self.assertEqual(one.focus, settable.reached(one.focus, system))
            for at in range(41):
                f = one.start + (one.end - one.start) * at / 40
                setup = Setup(f, n, coc)
                held = limits(setup, one.focus)
                self.assertTrue(math.isinf(held.far), (f, one))
                self.assertLessEqual(held.near, one.nearest * (1 + 1e-9))
                cost = held.near / limits(setup, hyperfocal(setup)).near
                self.assertLessEqual(cost, one.cost * (1 + 1e-5))
            if settable.figures_of(one.focus, system) < settable.FINE:
                self.assertLessEqual(one.cost, give * (1 + 1e-9))

    def test_no_fewer_would_do(self) -> None:
        """Against every set of positions on a list: none of fewer serves the zoom."""
        zooms = ((24, 75, 8, 1.5), (16, 35, 4, 1.3), (70, 200, 11, 1.4))
        for shortest, longest, n, give in some(zooms, 3):
            setup_of = zoom(0.03, n)
            found = short_card(setup_of, shortest, longest, give)
            span = hyperfocal(setup_of(shortest)), 3 * hyperfocal(setup_of(longest))
            offered = sorted(
                {settable.up(span[0] * (span[1] / span[0]) ** (at / 30)) for at in range(31)}
                | {one.focus for one in found}
            )
            served = [self.served(setup_of, focus, shortest, longest, give) for focus in offered]
            for fewer in itertools.combinations(served, len(found) - 1):
                reached = shortest
                for start, end in sorted(fewer):
                    if start <= reached * (1 + 1e-9):
                        reached = max(reached, end)
                self.assertLess(reached, longest, (found, fewer))

    def served(  # type: ignore[no-untyped-def]
        self, setup_of, focus: float, shortest: float, longest: float, give: float
    ) -> tuple[float, float]:
        """From which focal length to which a position serves, by looking closely."""
        focal = [shortest * (longest / shortest) ** (at / 500) for at in range(501)]
        good = [
            f for f in focal
            if hyperfocal(setup_of(f)) <= focus * (1 + 1e-9)
            and limits(setup_of(f), focus).near
            <= give * limits(setup_of(f), hyperfocal(setup_of(f))).near * (1 + 1e-9)
        ]  # fmt: skip
        return (good[0], good[-1]) if good else (longest, shortest)

    def test_one_number_where_one_does(self) -> None:
        (only,) = short_card(zoom(), 35.0, 35.0)
        self.assertIsInstance(only, Stretch)
        self.assertLessEqual(hyperfocal(Setup(35.0, 8.0, 0.03)), only.focus)

    def test_where_nothing_holds_there_is_no_card(self) -> None:
        def strict(focal_length: float) -> Setup:
            return Setup(focal_length, 22.0, 0.01, diffraction=True)

        self.assertEqual(short_card(strict, 24.0, 70.0), ())

    def test_errors(self) -> None:
        for bad in ((0.0, 35.0, 1.5), (35.0, 24.0, 1.5), (24.0, 35.0, 1.0), (24.0, 35.0, -1.0)):
            with self.assertRaises(OpticsError):
                short_card(zoom(), *bad)


class SlidingTest(unittest.TestCase):
    APERTURES = (2.8, 4.0, 5.6, 8.0, 11.0, 16.0, 22.0)

    def test_every_bracket_laid_holds_by_traced_rays(self) -> None:
        """200 pairs of ends, four lenses: aperture and focus that the strip reads hold both."""
        dice = random.Random(7)
        laid = 0
        for f, coc in ((24.0, 0.025), (35.0, 0.03), (50.0, 0.03), (90.0, 0.02)):
            kit = Kit(f, coc, closest=0.6e3 if f < 60 else 1e3)
            strip = sliding(kit, self.APERTURES, 0.0, 160.0)
            for _ in range(50):
                near = strip.scale.nearest * 10 ** dice.uniform(0, 1.3)
                far = math.inf if dice.random() < 0.3 else near * 10 ** dice.uniform(0, 1)
                found = strip.laid(near, far)
                if found is None:
                    continue
                laid += 1
                bracket, focus = found
                for end in (near, far):
                    blur = traced(kit.at(bracket.f_number), end, focus)
                    self.assertLessEqual(blur, coc * (1 + 1e-6), (f, near, far, found))
        self.assertGreater(laid, 100)

    def test_constant_to_a_factor_of_one_and_the_magnification(self) -> None:
        for f, nearest, most in ((24.0, 600.0, 0.06), (90.0, 600.0, 0.22)):
            kit = Kit(f, 0.025, closest=nearest)
            for bracket in sliding(kit, (5.6, 8.0), nearest, 160.0).brackets:
                self.assertLess(bracket.cost, most + magnification(kit.at(8.0), nearest))

    def test_distances_and_places(self) -> None:
        scale = sliding(Kit(24.0, 0.025), (8.0,), 600.0, 160.0).scale
        self.assertEqual((scale.x(scale.near), scale.x(scale.far)), (0.0, 160.0))
        self.assertEqual((scale.left, scale.right), (0.0, 160.0))
        for distance in (600.0, 1000.0, 3000.0, 50_000.0):
            self.assertAlmostEqual(scale.distance(scale.x(distance)) / distance, 1, 9)
        self.assertEqual(scale.distance(160.0), math.inf)
        self.assertTrue(scale.contains(700.0))
        self.assertFalse(scale.contains(500.0))

    def test_what_is_too_near_or_too_deep_is_not_laid(self) -> None:
        strip = sliding(Kit(50.0, 0.02), (2.8, 4.0), 600.0, 160.0)
        self.assertIsNone(strip.laid(400.0, 900.0))
        self.assertIsNone(strip.laid(700.0, math.inf))
        self.assertIsNone(strip.laid(900.0, 700.0))
        self.assertEqual(strip.laid(5000.0, 5000.0)[0].f_number, 2.8)  # type: ignore[index]

    def test_an_aperture_at_which_nothing_is_sharp_has_no_bracket(self) -> None:
        strip = sliding(Kit(50.0, 0.012, diffraction=True), (5.6, 22.0), 600.0, 160.0)
        self.assertEqual([one.f_number for one in strip.brackets], [5.6])
        with self.assertRaises(OpticsError):
            sliding(Kit(50.0, 0.02), (5.6,), 600.0, 0.0)


class RingStripTest(unittest.TestCase):
    def test_marks_stand_where_the_helicoid_turns_them(self) -> None:
        """A lens that moves as a whole: turned in proportion to f²/(u − f), u from where it is."""
        ring = Ring.unit_focusing(50.0, math.radians(120), 700.0)
        scale = ring_strip(ring, Kit(50.0, 0.03), (8.0,), 65.0, 700.0).scale
        self.assertAlmostEqual(scale.right, math.radians(120) * 32.5)
        self.assertEqual((scale.left, scale.near, scale.far), (0.0, 700.0, math.inf))
        closest = magnification(Setup(50.0, 8.0, 0.03), 700.0)
        for distance in (800.0, 1500.0, 10_000.0):
            m = magnification(Setup(50.0, 8.0, 0.03), distance)
            self.assertAlmostEqual(scale.x(distance), scale.right * (1 - m / closest), 6)
        self.assertFalse(scale.contains(600.0))

    def test_either_sense_of_turning_gives_the_same_strip(self) -> None:
        one, other = (
            ring_strip(Ring.unit_focusing(35.0, throw, 500.0), Kit(35.0, 0.03), (8.0,), 60.0, 500.0)
            for throw in (1.6, -1.6)
        )
        self.assertAlmostEqual(one.scale.x(2000.0), other.scale.x(2000.0))
        self.assertAlmostEqual(one.pairs[0].near, other.pairs[0].near)

    def test_what_is_between_a_pair_holds_wherever_the_ring_stands(self) -> None:
        dice = random.Random(3)
        for f, closest in ((24.0, 300.0), (50.0, 600.0), (90.0, 1000.0)):
            kit = Kit(f, 0.03)
            ring = Ring.unit_focusing(f, math.radians(100), closest)
            strip = ring_strip(ring, kit, (2.8, 8.0, 16.0), 65.0, closest)
            self.assertEqual([pair.f_number for pair in strip.pairs], [2.8, 8.0, 16.0])
            for pair in strip.pairs:
                for _ in range(40):
                    angle = float(ring.angle(closest)) * dice.random()
                    focus = float(ring.distance(angle))
                    here = strip.scale.x(focus)
                    for x in (here - pair.near * dice.random(), here + pair.far * dice.random()):
                        if not 0 <= x <= strip.scale.right:
                            continue
                        turned = float(ring.angle(closest)) * (1 - x / strip.scale.right)
                        subject = float(ring.distance(turned))
                        blur = traced(kit.at(pair.f_number), subject, focus)
                        self.assertLessEqual(blur, 0.03 * (1 + 1e-5), (f, pair, focus, subject))

    def test_nothing_sharp_has_no_pair_and_no_barrel_is_an_error(self) -> None:
        ring = Ring.unit_focusing(50.0, 2.0, 700.0)
        strict = Kit(50.0, 0.012, diffraction=True)
        self.assertEqual(ring_strip(ring, strict, (22.0,), 65.0, 700.0).pairs, ())
        with self.assertRaises(OpticsError):
            ring_strip(ring, strict, (8.0,), 0.0, 700.0)
