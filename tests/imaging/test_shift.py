"""Shift of focus from frames of the printed target, by the made-up camera's files alone."""

from __future__ import annotations

import io
import math
import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from functools import cache
from unittest import mock

import numpy as np
from PIL import Image

from imaging import looked as looks
from imaging import sheet, shift
from imaging.errors import BadLight, Mixed, NoTarget, NotKnown, PictureError, Shaken, WrongWay
from imaging.pose import pose_of
from imaging.reading import Picture, read
from optics.lens.kit import Fault
from simulator import frame as drawn
from simulator.body import Body
from simulator.camera import Camera, Shake
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Faults, Lens
from simulator.things import Board, Sheet
from tests import WHOLE, some
from tests.imaging.half import half_of_the_edges
from tests.imaging.lenses import tried

LENS = Lens(50.0, 1.8, faults=Faults((Fault(1.8, 0.006), Fault(5.6, 0.004, 0.02))))
BODY = Body(width=1500, height=1000)
SMALL = Body(width=1050, height=700)
"""For frames of which little is measured."""
SHEET = Sheet(600.0)
STOPS = (1, 2, 4) if WHOLE else (1, 4)
"""Apertures of a lens by chance, in its widest: every day those between which most shifts."""


def frame(
    f_number: float = 1.8, thing: Sheet = SHEET, scene: Scene | None = None, **how: object
) -> bytes:
    """A file of one frame, focused wide open on the sheet's middle."""
    camera = Camera(LENS, BODY, f_number, LENS.stands_for(600.0))
    camera = replace(camera, **how)  # type: ignore[arg-type]
    scene = scene or Scene((thing, Board(math.inf)))
    return file_of(take(scene, camera), camera)


def small(f_number: float = 1.8, thing: Sheet = SHEET, **how: object) -> bytes:
    """The same on a smaller sensor."""
    return frame(f_number, thing, body=SMALL, **how)


@cache
def usual(f_number: float) -> Picture:
    """A good frame, taken once for all tests."""
    return read(frame(f_number))


@contextmanager
def each_looked_at_once() -> Iterator[None]:
    """The same picture in several places is looked at once."""
    seen: dict[int, looks.Looked] = {}
    look = looks.Looked.at

    def once(taken: looks.Taken, picture: Picture) -> looks.Looked:
        if id(picture) not in seen:
            seen[id(picture)] = look(taken, picture)
        return replace(seen[id(picture)], taken=taken)

    with mock.patch.object(looks.Looked, "at", once):
        yield


def looked(raw: bytes, name: str = "one.jpg") -> looks.Looked:
    picture = read(raw)
    return looks.Looked.at(looks.taken_as(name, picture), picture)


def setUpModule() -> None:
    """Frames are drawn as large ones are: as true, in half the time."""
    unittest.enterModuleContext(mock.patch.object(drawn, "_FINE_PIXELS", 0))


class FoundTest(unittest.TestCase):
    def test_the_shift_that_was_put_in_is_found_within_its_error(self) -> None:
        for seed in some((1, 4), 2, first=1):
            for one in tried(seed, STOPS):
                with self.subTest(seed=seed, f_number=one.f_number):
                    self.assertLess(abs(one.found - one.true), 3.0 * one.error)
                    self.assertLess(one.error, 0.003, "and the error is of use")
                    self.assertEqual(one.keeps, one.ideal)

    def test_in_any_order_and_two_at_one_aperture(self) -> None:
        stopped, open_ = read(small(5.6)), read(small(1.8))
        pictures = [stopped, open_, open_]
        frames = [(looks.taken_as(f"{k}.jpg", p), p) for k, p in enumerate(pictures)]
        with each_looked_at_once(), half_of_the_edges():
            found = shift.series(frames)
        self.assertEqual([one.f_number for one in found.shifts], [1.8, 5.6])
        self.assertEqual(found.shifts[0].frames, ("1.jpg", "2.jpg"))
        self.assertEqual(found.shifts[0].shift, 0.0)
        self.assertAlmostEqual(found.shifts[1].shift, 0.02, delta=2 * found.shifts[1].error)
        self.assertAlmostEqual(math.degrees(found.lean), 45.0, delta=0.5)
        self.assertFalse(found.moved)
        self.assertFalse(found.keeps)

    def test_where_the_sheet_stands_is_found_however_it_leans(self) -> None:
        things = (
            replace(SHEET, lean=math.radians(35), roll=math.radians(6)),
            replace(SHEET, turn=math.radians(10), x=15.0),
            replace(SHEET, roll=math.pi),
        )
        for thing in some(things, 2):
            with self.subTest(thing):
                picture = read(frame(8.0, thing))
                focal = 50.0 * (1 + 50 / 550) / BODY.pitch
                pose = pose_of(sheet.found(picture.luminance).places, picture.size, focal)
                self.assertLess(pose.off, 0.3)
                lean = math.copysign(thing.lean, math.cos(thing.roll))
                self.assertAlmostEqual(math.degrees(pose.lean), math.degrees(lean), delta=1.5)


class RefusedTest(unittest.TestCase):
    def setUp(self) -> None:
        self.enterContext(half_of_the_edges())

    def refused(self, raw: bytes, error: type[PictureError], words: str) -> None:
        with self.assertRaises(error) as raised:
            shift.compared([looked(raw)] * 2)
        self.assertIn(words, raised.exception.sentence)
        self.assertEqual(raised.exception.place, "one.jpg")

    def test_frames_that_tell_nothing_are_refused_with_a_cure(self) -> None:
        boards = Scene((Board(900.0), Board(math.inf)))
        self.refused(small(scene=boards), NoTarget, "not found in this picture")
        self.refused(small(thing=replace(SHEET, x=190.0)), NoTarget, "six round marks")
        dark = Scene((SHEET, Board(math.inf)), light=0.01)
        self.refused(small(scene=dark), BadLight, "expose longer")
        white = Scene((SHEET, Board(math.inf)), light=30.0)
        self.refused(small(5.6, scene=white), BadLight, "blown out")
        for direction, words in some(((0.2, "sideways"), (1.5, "up and down")), 2):
            self.refused(frame(5.6, shake=Shake(9.0, direction)), Shaken, words)

    def test_a_sheet_that_does_not_lean_away_is_refused(self) -> None:
        self.refused(small(5.6, replace(SHEET, lean=math.radians(5))), WrongWay, "some 45°")
        aside = replace(SHEET, depth=900.0, lean=0.0, turn=math.radians(45))
        self.refused(frame(5.6, aside, ring=LENS.stands_for(900.0)), WrongWay, "sideways")

    def test_a_frame_focused_beside_the_sheet_is_refused(self) -> None:
        beside = small(2.8, ring=LENS.stands_for(1200.0))
        with self.assertRaises(NoTarget):
            shift.compared([looked(beside)] * 2)

    def test_frames_that_do_not_belong_together(self) -> None:
        picture = usual(1.8)
        first = looks.taken_as("a.jpg", picture)
        cases = [
            (replace(first, name="b.jpg", focal_length=35.0), picture.size, "", "one focal length"),
            (replace(first, name="b.jpg"), (300, 200), "", "another size"),
            (replace(first, name="b.jpg"), picture.size, "other lens", "another lens"),
            (replace(first, name="b.jpg"), picture.size, "made-up lens", "one aperture"),
        ]
        for taken, size, lens, words in cases:
            with self.subTest(words), self.assertRaises(Mixed) as raised:
                looks.same_kind([(first, picture.size, "made-up lens"), (taken, size, lens)])
            self.assertIn(words, raised.exception.sentence)
        with self.assertRaises(Mixed):
            shift.series([(first, picture)])

    def test_what_the_file_does_not_say_is_asked_for(self) -> None:
        held = io.BytesIO()
        Image.fromarray(np.zeros((64, 64, 3), np.uint8)).save(held, "JPEG")
        bare = read(held.getvalue())
        known: dict[str, float | None] = {}
        for name, value, words in (
            ("f_number", 2.8, "aperture"), ("focal_length", 50.0, "focal length"),
            ("pitch", 0.006, "sensor"),
        ):  # fmt: skip
            with self.assertRaises(NotKnown) as raised:
                looks.taken_as("bare.jpg", bare, **known)
            self.assertIn(words, raised.exception.sentence)
            known[name] = value
        taken = looks.taken_as("bare.jpg", bare, **known)
        self.assertEqual(taken, looks.Taken("bare.jpg", 2.8, 50.0, 0.006))
