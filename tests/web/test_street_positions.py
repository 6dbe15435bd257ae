"""Street's positions and all that is said of them, against counting and against the optics."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from optics.base import settable, units
from optics.lens import depth
from optics.zones import tiling
from tests import chance, examples
from tests.web.test_street import answered, link
from web.bag.models import Lens
from web.demo.world import load
from web.hand.asker import Asker
from web.hand.in_use import InUse
from web.street import expecting, exposing, judging, placing, schools, usecases
from web.street.forms import read_street
from web.street.usecases import Answer


class PositionsTest(TestCase):
    lens: Lens

    @classmethod
    def setUpTestData(cls) -> None:
        cls.lens = Lens.objects.get(owner=load(), name="28 mm f/2.8 with tab")

    def tabbed(self, **changes: str) -> Answer:
        who = Asker(in_use=lambda texts: InUse(self.lens))
        return usecases.answer(read_street(link(**changes), who=who).street)

    @settings(max_examples=examples(80))
    @given(
        st.sampled_from(("2.8", "4", "5.6", "8", "11", "16")),
        st.floats(0.75, 4),
        st.one_of(st.just(math.inf), st.floats(1.1, 6)),
        st.integers(1, 6),
        st.booleans(),
    )
    def test_tiles_leave_no_gap_or_name_it(
        self, f_number: str, near: float, ratio: float, count: int, counting: bool
    ) -> None:
        found = self.tabbed(
            f_number=f_number,
            near=f"{near:.3f} m",
            far="inf" if math.isinf(ratio) else f"{near * ratio:.3f} m",
            count=str(count),
            diffraction="1" if counting else "",
        )
        band, setup = found.band, found.street.setup
        far = min(band.far, 1e7)
        depths = [band.from_ * (far / band.from_) ** (k / 400) for k in range(401)]
        soft = [
            d
            for d in depths
            if min(float(depth.counted_blur(setup, d, f)) for f in found.focuses)
            > float(setup.coc) * (1 + 1e-6)
        ]
        named = [(gap.near, gap.far) for gap in found.gaps]
        for lost in soft:
            self.assertTrue(any(a * 0.9999 <= lost <= b * 1.0001 for a, b in named), (lost, named))
        self.assertEqual(found.complete, not named)
        used = [one.tile for one in found.positions if one.tile.used]
        if found.complete:
            for one, other in pairwise(used):
                self.assertLessEqual(abs(one.end - other.start), 1.0)

    def test_settable_first(self) -> None:
        grid = set(self.tabbed().street.on_grid(settable.COARSE).tolist())
        self.assertLessEqual(set(self.tabbed().focuses), grid)
        wide = self.tabbed(f_number="16", near="0.9 m", far="inf", like="1.5 m")
        self.assertTrue(wide.engraved)
        marks = {m or math.inf for m, _ in self.lens.marks} | dict(wide.street.touched).keys()
        touched = {d for _, d in wide.street.touched}
        self.assertLessEqual(set(wide.focuses), marks | touched)

    def test_the_others_arrange_themselves_round_a_lock(self) -> None:
        found = self.tabbed(near="0.75 m", far="inf", count="4", locked="0.7 m; inf")
        self.assertEqual((found.focuses[0], found.focuses[-1]), (700.0, math.inf))
        self.assertEqual([one.touch for one in (found.positions[0], found.positions[-1])],
                         ["near stop", "infinity stop"])  # fmt: skip
        self.assertFalse(found.complete, "home stays where it is liked")
        assert found.home_for_no_gap is not None
        like = f"{found.home_for_no_gap / 1000} m"
        again = self.tabbed(near="0.75 m", far="inf", count="4", locked="0.7 m; inf", like=like)
        self.assertTrue(again.complete, like)
        self.assertAlmostEqual(again.home.focus, found.home_for_no_gap)
        down = dict(found.street.touched)["tab straight down"]
        # On a distance that can be read: within a minute of the clock.
        self.assertAlmostEqual(float(self.lens.hands.clock(down)), 6.0, delta=1 / 60)

    def test_a_gap_is_named_with_the_aperture_that_closes_it(self) -> None:
        found = self.tabbed(near="0.8 m", far="4 m", count="2", like="1 m")
        self.assertFalse(found.complete)
        for gap in found.gaps:
            assert gap.closed_at is not None
            closing = replace(found.street.setup, f_number=gap.closed_at)
            one_wider = max(n for n in found.street.apertures if n < gap.closed_at)
            for setup, holds in ((closing, True), (replace(closing, f_number=one_wider), False)):
                worst = max(
                    min(float(depth.blur_disc(setup, d, f)) for f in found.focuses)
                    for d in (gap.near + (gap.far - gap.near) * k / 200 for k in range(201))
                )
                self.assertEqual(worst <= float(setup.coc) * 1.00001, holds)

    def test_the_widest_aperture_is_the_first_that_leaves_none(self) -> None:
        for count in (1, 2, 3, 4):
            homes = [
                self.tabbed(near="0.9 m", far="6 m", count=str(count), like=f"{like / 20} m")
                for like in range(18, 61)
            ]
            needed = tiling.f_number_needed(homes[0].street.setup, 900.0, 6000.0, count)
            assert needed is not None
            fits = [n for n in homes[0].street.apertures if n >= needed]
            # Set as finely as a hand can, with home at its best, it may take the next aperture,
            # never a wider one.
            widest = min((one.widest for one in homes if one.widest is not None), default=None)
            if widest is None:
                self.assertEqual(fits[1:], [])
            else:
                self.assertIn(widest, fits[:2])

    def test_home_is_where_it_is_liked_or_put(self) -> None:
        self.assertEqual(self.tabbed(near="0.8 m", far="3 m").home.focus, 1400.0)
        fixed = self.tabbed(near="0.8 m", far="3 m", home="0.9 m")
        self.assertEqual((fixed.home.focus, fixed.home.locked), (900.0, True))
        self.assertEqual(self.tabbed(like="2 m").home.focus, 2000.0)

    def test_which_way_the_band_follows_from_the_distance_liked(self) -> None:
        """As far as so many positions reach."""
        reached = (("1", 1100.0, 2100.0), ("2", 1100.0, math.inf), ("3", 720.0, math.inf))
        for count, near, far in reached:
            found = self.tabbed(count=count)
            self.assertEqual((found.band.near, found.band.far), (near, far))
            self.assertIn(1400.0, found.focuses)
        self.assertEqual(self.tabbed(far="1 m", like="5 m").band.far, 1000.0)
        self.assertEqual(self.tabbed(near="9 m", like="1 m", f_number="2.8").band.far, math.inf)

    def test_shares_against_people_counted(self) -> None:
        """Each judged with an error and caught with the position they seem nearest to, by 20 000
        people: within three standard errors of what such a count scatters by."""
        draw = chance(7)
        found = self.tabbed(count="2", near="0.8 m", far="6 m", judge="20 %")
        focuses, setup = found.focuses, found.street.setup
        people, kept = 20_000, 0
        for _ in range(people):
            true = 0.0
            while not 800 < true < 6000:  # round what is liked
                true = 1400.0 * 1.6 ** draw.gauss(0, 1)
            judged = true * math.exp(0.2 * draw.gauss(0, 1))
            used = min(focuses, key=lambda f: abs(1 / f - 1 / judged))
            kept += float(depth.blur_disc(setup, true, used)) <= float(setup.coc)
        share = kept / people
        scatter = math.sqrt(share * (1 - share) / people)
        self.assertAlmostEqual(found.share, share, delta=3 * scatter)
        expected = expecting.expecting(found)
        self.assertEqual([one.count for one in expected.by_count if one.now], [2])
        gains = [one.gain for one in expected.helps]
        self.assertEqual(gains, sorted(gains, reverse=True))
        self.assertEqual({one.kind for one in expected.helps}, {"position", "aperture", "practice"})

    def test_what_helps_does_what_it_says(self) -> None:
        found = self.tabbed(count="2", near="0.8 m", far="6 m", judge="20 %")
        helps = {one.kind: one for one in expecting.expecting(found).helps}
        third = self.tabbed(count="3", near="0.8 m", far="6 m", judge="20 %")
        self.assertAlmostEqual(third.share - found.share, helps["position"].gain, places=9)
        closed = self.tabbed(
            count="2", near="0.8 m", far="6 m", judge="20 %", set_for="8",
            f_number=f"{helps['aperture'].value}",
        )  # fmt: skip
        self.assertAlmostEqual(closed.share - found.share, helps["aperture"].gain, places=9)


class PartsTest(TestCase):
    def test_a_walker_through_the_zones(self) -> None:
        found = answered(angle_deg="0", speed="2 m/s", lag="0.3 s")
        home = found.home
        assert home.walk is not None
        self.assertAlmostEqual(home.walk.inside, (home.tile.far - home.tile.near) / 2000)
        middle = (home.tile.far + home.tile.near) / 2
        self.assertAlmostEqual(home.walk.press_for_middle, middle + 600)
        slanted = answered(angle_deg="60", speed="2 m/s", lag="0.3 s").home.walk
        assert slanted is not None
        self.assertAlmostEqual(slanted.inside, 2 * home.walk.inside)

    def test_the_time_that_stops_a_walker_at_the_near_edge(self) -> None:
        found = answered(speed="1.4 m/s")
        setup, edge = found.street.setup, found.band.from_
        self.assertLessEqual(found.positions[0].tile.near, edge)
        scale = float(depth.image_scale(setup, edge, found.focuses[0]))
        streak = scale * 1400 * found.still_across
        self.assertAlmostEqual(streak * 1.1686, float(setup.coc), places=6)

    def test_judging_by_the_frame(self) -> None:
        """An adult of 1.7 m at 2.7 m fills half of a frame 36 mm high through 28 mm: core.md."""
        found = answered(upright="1", near="2.7 m", far="inf", f_number="11", count="1")
        edge = judging.sighted(found, units.USUAL).edges[0]
        self.assertEqual(edge.depth, 2700)
        # The lens is focused farther off than the person, which makes them a little smaller.
        self.assertAlmostEqual(edge.adult, 0.5, delta=0.004)
        self.assertAlmostEqual(edge.head / edge.adult, 1 / 8, places=9)
        self.assertAlmostEqual(edge.paces, 2700 / units.USUAL.pace, places=9)

    def test_every_edge_is_said_once(self) -> None:
        found = answered(near="0.75 m", far="6 m", count="3")
        told = judging.sighted(found, units.USUAL)
        depths = [edge.depth for edge in told.edges]
        self.assertEqual(len(depths), 5)
        self.assertEqual(depths, sorted(depths))
        self.assertEqual([edge.depth for edge in told.edges if edge.home], [found.home.focus])
        self.assertFalse(told.own_arm or told.own_pace)
        own = judging.sighted(found, units.Measures(arm=700.0))
        self.assertEqual((own.own_arm, own.own_pace), (True, False))

    def test_from_sun_to_lamps(self) -> None:
        found = exposing.exposing(answered(light="6", slowest="1/250", iso_most="6400"))
        self.assertEqual([lit.ev for lit in found.lights], [15, 13, 12, 10, 8, 6, 4, 2])
        sun = found.lights[0]
        # f/8 at ISO 100 in full sun, EV 15: 8² ÷ 2¹⁵ s is 1/512.
        self.assertEqual((sun.seconds, sun.iso, sun.short), (1 / 500, 100, 0.0))
        shade = found.lights[2]
        self.assertEqual((shade.seconds, shade.iso), (1 / 250, 400))
        dusk = found.here
        # EV 6 at ISO 6400 and f/8 wants 1/64 s: two stops more than 1/250.
        self.assertAlmostEqual(dusk.short, math.log2(250 / 64), places=6)
        self.assertEqual(dusk.slower, 1 / 60)
        assert dusk.opened is not None
        self.assertEqual(dusk.opened.f_number, 4)
        self.assertTrue(dusk.opened.gaps)
        self.assertEqual(found.first, dusk)

    def test_autofocus_numbers(self) -> None:
        found = answered(near="0.83 m", far="4.2 m")
        numbers = judging.limiter(found)
        self.assertEqual((numbers.near, numbers.far), (830.0, 4200.0))
        # Locked anywhere in the room it has, the others as they are, each leaves no gap.
        for one in (found, answered(f_number="11", near="0.83 m", far="4.2 m")):
            rooms = judging.limiter(one).stand_ins
            for at, stand_in in enumerate(rooms):
                if stand_in.window is None:
                    continue
                for focus in (stand_in.window.near, stand_in.window.far):
                    moved = [*one.focuses[:at], focus, *one.focuses[at + 1 :]]
                    self.assertEqual(placing.left_open(one.street, tuple(moved), one.band), ())
        self.assertTrue(any(one.window for one in rooms))

    def test_schools_beside_each_other(self) -> None:
        found = answered(near="0.8 m", far="inf")
        one, two, three = schools.schools(found)
        self.assertEqual([len(s.tiles) for s in (one, two, three)], [1, 2, 3])
        self.assertEqual(two.tiles[-1].focus, 4000.0)
        self.assertLessEqual(two.tiles[-1].start, two.tiles[0].far)
        self.assertLess(one.share, two.share)
        taken = answered(near="0.8 m", count=str(two.count), home=two.home, locked=two.locked)
        self.assertEqual(taken.focuses, tuple(tile.focus for tile in two.tiles))

    def test_apertures_against_positions(self) -> None:
        found = answered(near="0.8 m", far="inf")
        traded = schools.trade(found)
        for row in traded.rows:
            nears = [reach.near for reach in row.reaches]
            self.assertEqual(nears, sorted(nears, reverse=True), "one more reaches nearer")
            for reach in row.reaches:
                at = found.street.at(row.f_number)
                closes = placing.closes_with(at, found.band, reach.count, found.fixed)
                self.assertEqual(reach.closes, closes)
                if row.needed:
                    self.assertEqual(reach.closes, reach.count >= row.needed)

    def test_one_that_stays_home_may_end_short_of_the_far_end(self) -> None:
        said = {"near": "1.2 m", "far": "6 m", "home": "2 m", "f_number": "4"}
        first = schools.trade(answered(**said)).rows[0]
        self.assertTrue(first.reaches[0].short)
        self.assertFalse(any(reach.short for reach in first.reaches[1:]))
        page = self.client.get("/street/", {**link(**said).dict(), "unfold": "trade"})
        self.assertContains(page, "short of the far end")
        self.assertNotContains(page, "down to 6 m")
