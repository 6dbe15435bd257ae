"""Nan, anywhere: a named error, and for arrays the element; never a wrong answer."""

from __future__ import annotations

import math
import unittest
from collections.abc import Callable
from typing import Any

import numpy as np

from optics import Setup
from optics.base import settable, units
from optics.base.errors import OpticsError
from optics.base.formats import BY_KEY
from optics.lens import aperture, depth, diffraction, focusing, standards, wave, zoom
from optics.lens.ring import Ring
from optics.lens.touch import Hands, between_angles, between_readings, mark_angle
from optics.light import dial, exposure, motion
from optics.scene import focus_distances, frame, moving, size, tape, trial_frame
from optics.scene.camera import Camera
from optics.scene.marks import Mark
from optics.scene.trial_frame import Frame
from optics.sky import parts, star_drift, star_field
from optics.sky.gathered import gathered
from optics.sky.rotation import Place
from optics.zones import from_list, hit_rate, people, stretches, tiling
from optics.zones.frame_sets import frame_set
from tests.optics.scenes import SAMPLE, scene_of

FRAME = BY_KEY["full-frame"]
CAMERA = Camera(900, 0.26, 0, 24, 24, 36)
RING = Ring.unit_focusing(50, 1.5, 1000)
ZONE = tiling.Zone(1300, 1000, 2000)
TAKEN = Frame(SAMPLE, 2600, (True,))
PART = parts.frame_part(36, 24, 0.3)

BROADCASTING: tuple[tuple[Callable[..., Any], tuple[Any, ...]], ...] = (
    (Setup, (24.0, 11.0, 0.025, 1.0, 0.0)),
    (lambda s, f: depth.blur_disc(SAMPLE, s, f), (1300.0, 2600.0)),
    (lambda s, f: depth.total_blur(SAMPLE, s, f), (1300.0, 2600.0)),
    (lambda s, f: depth.image_scale(SAMPLE, s, f), (1300.0, 2600.0)),
    (lambda f: depth.limits(SAMPLE, f), (2600.0,)),
    (lambda f: depth.working_f_number(SAMPLE, f), (2600.0,)),
    (lambda f: depth.sharp_distance(SAMPLE, f), (2600.0,)),
    (lambda f: depth.allowed_defocus(SAMPLE, f), (2600.0,)),
    (lambda n, f: focus_distances.between(SAMPLE, n, f), (1300.0, 180000.0)),
    (lambda m: focus_distances.infinity(SAMPLE, m), (1.5,)),
    (diffraction.disc, (8.0,)),
    (diffraction.combine, (0.01, 8.0)),
    (wave.transfer, (100.0, 0.01, 550e-6)),
    (wave.equivalent_disc, (0.001,)),
    (lambda r: frame.ground(CAMERA, r), (0.2,)),
    (lambda h, r: frame.row_of_ground(CAMERA, h, r), (1080.0, 0.0)),
    (lambda h, r: frame.depth_along_ground(CAMERA, h, r), (1080.0, 0.0)),
    (lambda d, r: frame.horizontal_of_depth(CAMERA, d, r), (1300.0, 0.0)),
    (lambda p: frame.horizontal_of_paces(CAMERA, p), (1300.0,)),
    (lambda s, r, c, h: tape.depth_of_straight(CAMERA, s, r, c, h), (1300.0, 0.1, 0.4, 0.0)),
    (lambda d, r, c: tape.straight_of_depth(CAMERA, d, r, c), (1300.0, 0.1, 0.4)),
    (lambda d, r: frame.row_of_depth(CAMERA, d, r), (1300.0, 0.0)),
    (lambda a: frame.axial_of_step(CAMERA, a), (500.0,)),
    (size.distance_from_size, (28.0, 36.0, 1700.0, 0.5)),
    (size.share_of_frame, (28.0, 36.0, 1700.0, 3000.0)),
    (lambda h, r, d, f: people.share_filled(SAMPLE, h, r, d, f), (36.0, 1700.0, 3e3, 2e3)),
    (star_drift.drift, (16.0, 13.0, 1.0, 3.0, 2.0)),
    (star_drift.declination_of, (0.8, 1.0, 0.5)),
    (RING.angle, (2000.0,)),
    (RING.distance, (0.5,)),
    (RING.past_infinity, (0.5,)),
    (RING.turn, (1000.0, 2000.0)),
    (Hands(RING).clock, (2000.0,)),
)
"""Functions of arrays, each with arguments that are all right."""

PLAIN: tuple[tuple[Callable[..., Any], tuple[Any, ...]], ...] = (
    (lambda n, f: depth.focus_window(SAMPLE, n, f), (1300.0, 180000.0)),
    (lambda d: depth.focus_with_far_limit(SAMPLE, d), (3000.0,)),
    (lambda d: depth.focus_with_near_limit(SAMPLE, d), (1300.0,)),
    (lambda n, f: aperture.widest_holding(SAMPLE, n, f), (1300.0, 180000.0)),
    (lambda n, f: aperture.sharpest(SAMPLE, n, f), (1300.0, 180000.0)),
    (lambda f: aperture.narrowest_useful(SAMPLE, f), (2600.0,)),
    (aperture.stops_between, (8.0, 11.0)),
    (lambda t, r, c: tape.depth_of_tape(CAMERA, t, r, c), (1300.0, 0.0, 0.5)),
    (lambda d, r: frame.height_seen(CAMERA, d, r), (1300.0, 0.4)),
    (lambda f, n: focusing.errors(f, n, None, RING), (24.0, 4.0)),
    (lambda n, f: focusing.travel(SAMPLE, n, f), (1300.0, 2600.0)),
    (lambda f, e: focusing.in_distance(SAMPLE, f, e), (2600.0, 0.03)),
    (focusing.swung, (2600.0, 0.3)),
    (lambda f, e: trial_frame.revise([Frame(SAMPLE, f, (True,))], e, [(1300, 65)]), (2600.0, 0.03)),
    (
        lambda d, e: trial_frame.revise([Frame(SAMPLE, 2600, (True,))], 0.03, [(d, e)]),
        (1300.0, 65.0),
    ),
    (aperture.next_settable, (8.0,)),
    (lambda d: focus_distances.subject_first(SAMPLE, d), (1300.0,)),
    (lambda r: focus_distances.third_up(CAMERA, r), (0.3,)),
    (lambda n, f, s: focus_distances.third_along(CAMERA, n, f, s), (1080.0, 5000.0, 0.3)),
    (lambda n, f, o: frame_set(SAMPLE, n, f, o, 300.0), (700.0, 5000.0, 0.2)),
    (lambda n, f, e: focus_distances.insurance_for_method(SAMPLE, n, f, e), (1300.0, 5000.0, 1e-4)),
    (lambda n, f, x: tiling.zone_set(SAMPLE, n, f, 2, (x,)), (700.0, 5000.0, 1300.0)),
    (lambda n, f: tiling.f_number_needed(SAMPLE, n, f, 2), (700.0, 5000.0)),
    (lambda s, t: people.walk_through(ZONE, s, t), (1400.0, 0.2)),
    (lambda a, b: stretches.handover(SAMPLE, a, b), (1300.0, 2600.0)),
    (lambda p, n, f: stretches.tiles(SAMPLE, (p,), n, f), (2000.0, 700.0, 5000.0)),
    (lambda p, n, f: stretches.worst_blur(SAMPLE, (p,), n, f), (2000.0, 700.0, 5000.0)),
    (lambda p, n, f: stretches.left_open(SAMPLE, (p,), n, f), (2000.0, 700.0, 5000.0)),
    (lambda n, f, s, x: from_list.choose(SAMPLE, n, f, 2, (s,), (x,)), (700.0, 5e3, 2e3, 1300.0)),
    (lambda n, f, s, x: from_list.closes(SAMPLE, n, f, 2, (s,), (x,)), (700.0, 5e3, 2e3, 1300.0)),
    (lambda n, f, s, x: from_list.closing(SAMPLE, n, f, 2, (s,), (x,)), (700.0, 5e3, 2e3, 1300.0)),
    (lambda n, f, s: from_list.count_needed(SAMPLE, n, f, (s,)), (700.0, 5000.0, 2000.0)),
    (lambda f, s, x: from_list.reach(SAMPLE, f, 2, (s,), (x,)), (5000.0, 2000.0, 1300.0)),
    (lambda f, s: stretches.around(SAMPLE, f, (s,)), (1300.0, 2000.0)),
    (people.framing, (900.0,)),
    (Hands(RING).distance_where, (3.0,)),
    (dial.named_time, (0.01,)),
    (dial.longest_named, (5.4,)),
    (dial.named_iso, (400.0,)),
    (lambda p, n, f, e: hit_rate.share(SAMPLE, (p,), n, f, e), (2000.0, 700.0, 5000.0, 0.15)),
    (Camera, (900.0, 0.26, 0.0, 24.0, 24.0, 36.0, 3000.0)),
    (star_drift.longest_exposure, (16.0, 0.008, 1.0, 5.0)),
    (star_drift.where_after, (16.0, 13.0, 1.0, 3.0, 2.0)),
    (star_drift.aimed, (0.8, 1.0, 0.5)),
    (parts.round_part, (20.0,)),
    (parts.frame_part, (36.0, 24.0, 0.3)),
    (lambda f, s, d: star_field.farthest(f, s, d, PART), (16.0, 13.0, 1.0)),
    (lambda f, s, d: star_field.calmest(f, s, d, PART), (16.0, 13.0, 1.0)),
    (lambda f, t, d: star_field.longest(f, t, d, PART), (16.0, 0.01, 1.0)),
    (lambda f, t, d, x: star_field.longest_of(f, t, d, Place(x, 1.0)), (16.0, 0.01, 1.0, 2.0)),
    (star_field.trails, (16.0, 13.0, 1.0, 3.0, 2.0)),
    (star_field.pole_at, (16.0, 1.0)),
    (star_drift.rule_number, (16.0, 13.0, 1.0)),
    (star_drift.seconds_of_rule, (500.0, 16.0, 1.0)),
    (gathered, (16.0, 2.8, 13.0)),
    (Ring.unit_focusing, (50.0, 1.5, 1000.0, 0.0, 0.0)),
    (RING.under_mark, (2000.0, 0.1)),
    (RING.halfway, (0.2, 0.4)),
    (lambda a, b, d: RING.along_barrel(a, b, d), (1000.0, 2000.0, 60.0)),
    (lambda t, f: Hands(RING, t, f), (3.0, 2000.0)),
    (lambda f: mark_angle(RING, SAMPLE, f), (2000.0,)),
    (lambda a, b: between_readings(RING, SAMPLE, a, b), (2000.0, 5000.0)),
    (lambda a, b: between_angles(RING, SAMPLE, a, b), (0.2, 0.4)),
    (standards.Print, (300.0, 200.0, 250.0)),
    (lambda p: standards.from_diagonal(FRAME, p), (1500.0,)),
    (lambda p, k: standards.from_pixels(FRAME, p, k), (6000.0, 1.0)),
    (lambda c, v: standards.widest_print(c, FRAME, v), (0.02, 250.0)),
    (standards.tighten, (0.03, 1.0)),
    (standards.stops_tighter, (0.03, 0.02)),
    (standards.engraved_mark, (11.0, 0.03, 0.02)),
    (standards.from_limits, (28.0, 8.0, 2000.0, 1440.0, 3296.0)),
    (lambda n, f: settable.inside(n, f), (1000.0, 2000.0)),
    (lambda a, b, c: settable.within(a, b, c), (2000.0, 1500.0, 2500.0)),
    (lambda f: settable.nearest(f), (2000.0,)),
    (lambda f: settable.up(f), (2000.0,)),
    (lambda f: settable.down(f), (2000.0,)),
    (lambda f: zoom.roam(SAMPLE, (f,)), (24.0,)),
    (lambda a, b: zoom.bands(SAMPLE, a, b), (20.0, 35.0)),
    (lambda n, f, k: moving.step_back(SAMPLE, n, f, k, moving.Keeping.CROP), (800.0, 5e3, 800.0)),
    (lambda n, f, k, s: moving.longer_lens(SAMPLE, n, f, k, s), (800.0, 5e3, 800.0, 100.0)),
    (Mark, (1000.0, 20.0)),
    (lambda m, o, e: scene_of(SAMPLE, margin=m, overlap=o, focus_error=e), (1.5, 0.2, 1e-4)),
    (exposure.Exposure, (8.0, 0.01, 100.0, 0.0)),
    (exposure.seconds_for, (10.0, 8.0, 100.0, 0.0)),
    (exposure.iso_for, (10.0, 8.0, 0.01, 0.0)),
    (exposure.nd_stops_of, (64.0,)),
    (exposure.light_named, (10.0,)),
    (
        lambda e, i, s, w: exposure.settle(e, exposure.Exposure(8, 0.01), i, s, w),
        (5.0, 800.0, 0.1, 4.0),
    ),
    (lambda s, v, t, f: motion.crossing(SAMPLE, s, v, t, f), (3000.0, 1400.0, 0.01, 3000.0)),
    (
        lambda s, v, t, h, f: motion.approaching(SAMPLE, s, v, t, h, f),
        (3000.0, 1400.0, 0.01, 5.0, 3000.0),
    ),
    (
        lambda s, v, h, f: motion.longest_approaching(SAMPLE, s, v, h, f),
        (3000.0, 1400.0, 5.0, 3000.0),
    ),
    (motion.longest_still, (2.0, 0.02)),
    (motion.times_to_smear, (2.0, 0.5, 3.0)),
    (motion.hand_held, (50.0, 1.0, 0.0, 1.0)),
    (motion.together, (0.01, 0.02)),
    (lambda v, t: motion.distance_where_still(SAMPLE, v, t), (1400.0, 0.01)),
    (units.Measures, (750.0, 650.0)),
    (units.write, (1300.0,)),
)
"""Functions of plain numbers, each with arguments that are all right."""


class NanTest(unittest.TestCase):
    def test_good_arguments_are_good(self) -> None:
        for at, (function, arguments) in enumerate((*BROADCASTING, *PLAIN)):
            with self.subTest(at=at, arguments=arguments):
                function(*arguments)

    def test_nan_in_any_place_is_refused(self) -> None:
        for at, (function, arguments) in enumerate((*BROADCASTING, *PLAIN)):
            for place in range(len(arguments)):
                changed = list(arguments)
                changed[place] = math.nan
                with self.subTest(at=at, arguments=changed), self.assertRaises(OpticsError):
                    function(*changed)

    def test_in_an_array_it_says_which_element(self) -> None:
        for at, (function, arguments) in enumerate(BROADCASTING):
            for place in range(len(arguments)):
                changed = list(arguments)
                changed[place] = np.array([arguments[place], arguments[place], math.nan])
                with self.subTest(at=at, place=place):
                    with self.assertRaises(OpticsError) as caught:
                        function(*changed)
                    self.assertEqual(caught.exception.index, (2,))
