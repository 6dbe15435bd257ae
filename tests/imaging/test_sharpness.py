"""How sharp a lens is at its apertures, and where it was focused: from files of the made-up camera,
whose faults the analysis does not know."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from functools import cache

import cv2
import numpy as np

from imaging import sharpness, shift
from imaging.errors import BadLight, PictureError, WrongWay
from imaging.looked import Looked, taken_as
from imaging.reading import read
from optics.lens.diffraction import disc
from optics.lens.found import Found
from optics.lens.kit import Fault
from simulator.body import Body
from simulator.camera import Camera
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Faults, Lens
from simulator.things import Board, Sheet
from tests import some
from tests.imaging.half import half_of_the_edges

BODY = Body(width=1500, height=1000, frame_width=14.4)
FAULTS = Faults((Fault(1.8, 0.012), Fault(4.0, 0.006), Fault(16.0, 0.005)), corner=0.02)
LENS = Lens(50.0, 1.8, faults=FAULTS)
AWAY = 1050.0
_OF_SIDES = 0.93
"""The made-up lens counts how far out by the frame's sides; along the long side of 3:2 that is as
much of the way to a corner."""
FLAT = Sheet(AWAY, lean=0.0, roll=math.pi / 2)


@cache
def flat(f_number: float, missed: float = 0.0, sheet: Sheet = FLAT) -> Looked:
    ring = LENS.stands_for(AWAY, f_number) + missed / LENS.focal_length
    camera = Camera(LENS, BODY, f_number, ring, iso=200)
    name = f"f{f_number:g} {missed:g}.jpg"
    picture = read(file_of(take(Scene((sheet, Board(math.inf)), seed=3), camera), camera))
    return Looked.at(taken_as(name, picture), picture)


class SharpnessTest(unittest.TestCase):
    def test_the_lenss_own_blur_in_the_middle_and_towards_the_corners(self) -> None:
        found = sharpness.sharpness([flat(1.8), flat(11.0)])
        self.assertAlmostEqual(found.distance, AWAY - 54.0, delta=6.0)
        for one in found.at:
            with self.subTest(one.f_number):
                self.assertAlmostEqual(one.ideal, disc(one.f_number * 1.05), delta=0.02 * one.ideal)
                own = LENS.kit.at(one.f_number).lens_disc
                centre = one.centre.own
                self.assertLess(abs(centre.value - own), 2.0 * centre.error + 0.02 * own)
                assert one.corner is not None
                self.assertGreater(one.corner.out, 0.58)
                more = math.hypot(own, FAULTS.corner * (_OF_SIDES * one.corner.out) ** 2)
                corner = one.corner.own
                self.assertLess(abs(corner.value - more), 2.0 * corner.error + 0.03 * more)

    def test_of_several_at_one_aperture_the_sharpest_counts(self) -> None:
        with half_of_the_edges():
            missed = flat(1.8, 0.02)
        found = sharpness.sharpness([missed, flat(1.8)])
        self.assertEqual(found.at[0].frame, flat(1.8).taken.name)
        self.assertEqual(found.best.f_number, 1.8)

    def test_files_that_a_camera_sharpened_are_told_by_diffraction(self) -> None:
        """At f/16 nothing is sharper than 16 µm; sharpened edges look as if they were."""
        camera = Camera(LENS, BODY, 16.0, LENS.stands_for(AWAY, 16.0), iso=100)
        raw = file_of(take(Scene((FLAT, Board(math.inf)), seed=3), camera), camera)
        picture = read(raw)
        light = picture.luminance
        soft = cv2.GaussianBlur(light, (0, 0), 2.0)
        sharpened = replace(picture, luminance=np.clip(light + 1.2 * (light - soft), 0, 1))
        with half_of_the_edges(), self.assertRaises(BadLight) as raised:
            sharpness.sharpness([Looked.at(taken_as("s.jpg", picture), sharpened)])
        self.assertIn("the camera sharpens", raised.exception.sentence)

    def test_a_sheet_that_leans_is_refused_with_its_cure(self) -> None:
        with half_of_the_edges(), self.assertRaises(WrongWay) as raised:
            sharpness.sharpness([flat(11.0, sheet=replace(FLAT, lean=math.radians(14.0)))])
        self.assertIn("faces the camera", raised.exception.sentence)

    def test_less_than_diffraction_makes_nothing_of_the_lens(self) -> None:
        own = sharpness.own_blur(Found(0.0100, 0.0004), 0.0102)
        self.assertLess(own.value, 2.0 * own.error)
        clear = sharpness.own_blur(Found(0.013, 0.0001), 0.005)
        self.assertAlmostEqual(clear.value, 0.012)
        self.assertAlmostEqual(clear.error, 0.013 * 0.0001 / 0.012)


class FocusedTest(unittest.TestCase):
    def test_how_far_a_frame_was_focused_beside_the_middle_of_the_sheet(self) -> None:
        """Within three of its stated errors, both ways, without knowing what was put in."""
        body, away = Body(width=1800, height=1200), 650.0
        for missed in some((-0.08, 0.0, 0.03, 0.15), 4):
            camera = Camera(LENS, body, 1.8, LENS.stands_for(away) + missed / 50.0, iso=400)
            scene = Scene((Sheet(away), Board(math.inf)), seed=5)
            picture = read(file_of(take(scene, camera), camera))
            try:
                looked = Looked.at(taken_as("one.jpg", picture), picture)
                (best,) = shift.compared([looked]).best
            except PictureError as error:
                self.fail(error.sentence)
            with self.subTest(missed):
                self.assertLess(abs(best.off - missed), 3.0 * best.error)
                self.assertLess(best.error, 0.002)
