"""The made-up camera: its blur is the formula's, its faults are where they were put."""

from __future__ import annotations

import json
import math
import subprocess
import sys
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np

from imaging import stars
from imaging.finding import clearest_edge
from imaging.movement import movement
from imaging.patches import mapped
from imaging.reading import read
from optics.base.search import crossing
from optics.lens import depth
from optics.lens.kit import Fault
from simulator.body import Body
from simulator.camera import Camera, Shake
from simulator.command import main
from simulator.discs import blurred, laid
from simulator.errors import SceneError
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Faults, Lens
from simulator.scene_file import read as read_scene
from simulator.stars import Stars
from simulator.things import Board, Edge, Sheet
from tests import some
from tests.ran import ran

LENS = Lens(50.0, 1.4)
BODY = Body(width=1100, height=760, frame_width=24.0)


def depths_of(disc: float) -> list[float]:
    """Where, focused at 1.5 m, things are that soft, pixels: before the focus and, if anything is,
    behind it; mm."""

    def sharper(z: float) -> float:
        return disc * BODY.pitch - depth.total_blur(LENS.kit.at(2.8), z, 1500.0)

    ends = [end for end in (400.0, 1e6) if sharper(end) < 0]
    return [crossing(sharper, 1500.0, end) for end in ends]


class MovingTest(unittest.TestCase):
    def test_what_moves_is_drawn_out_by_its_speed_and_the_time_and_nothing_else_is(self) -> None:
        """A board at 3 m that goes by at 60 mm/s for 1/10 s: 6 mm, so many pixels at that scale;
        the wall behind it stands still."""
        board = Board(3000.0, 700.0, 700.0, 60.0, speed=60.0, heading=0.5)
        camera = Camera(LENS, BODY, 5.6, LENS.stands_for(3000.0), time=0.1)
        scene = Scene((board, Board(3100.0, grain=30.0)), seed=2)
        light = read(file_of(take(scene, camera), camera)).luminance
        found = movement(light[250:510, 430:670])
        scale = 50.0 / (3000.0 - 100.0) / BODY.pitch
        self.assertAlmostEqual(found.length / (6.0 * scale), 1.0, delta=0.2)
        self.assertAlmostEqual(found.direction, 0.5, delta=0.1)
        self.assertFalse(movement(light[:, :230]).moved)


class DiscTest(unittest.TestCase):
    def test_an_edge_at_a_depth_is_as_soft_as_the_formula_says(self) -> None:
        """Behind and before the focus, at noise of ISO 100 to 6400; measured by imaging."""
        discs = ((1.5, 100), (3.0, 6400), (5.0, 400), (8.0, 1600), (14.0, 100), (24.0, 400))
        for disc, iso in some(discs, 3, first=1):
            with self.subTest(disc=disc):
                for z in depths_of(disc):
                    camera = Camera(LENS, BODY, 2.8, LENS.stands_for(1500.0), iso=iso)
                    scene = Scene((Edge(z, math.radians(7)),), seed=int(disc * 10))
                    raw = file_of(take(scene, camera), camera)
                    found = clearest_edge(read(raw).luminance)
                    self.assertAlmostEqual(found.blur.disc / disc, 1.0, delta=0.03)

    def test_stars_are_as_wide_as_the_lens_makes_infinity(self) -> None:
        setup = LENS.kit.at(2.0)
        for focus in (40_000.0, 12_000.0):
            camera = Camera(LENS, BODY, 2.0, LENS.stands_for(focus, 2.0))
            true = depth.total_blur(setup, math.inf, focus) / BODY.pitch
            raw = file_of(take(Scene((), Stars(40, 0.6 * max(true, 1) ** 2)), camera), camera)
            found = stars.measured(read(raw).luminance)
            self.assertAlmostEqual(found.fwhm / true, 1.0, delta=0.03)

    def test_what_leans_is_blurred_at_each_place_by_the_disc_of_that_place(self) -> None:
        """Against laying each place's own disc there, one by one."""
        luck = np.random.default_rng(3)
        light = luck.random((96, 96)).astype(np.float32)
        rows = np.arange(0, 96 + 8, 8)
        signed = np.repeat(((rows - 48.0) / 6)[:, None], len(rows), axis=1)
        signed = np.where(np.abs(signed) < 1.2, np.copysign(1.2, signed), signed)
        soft = blurred(light, signed, 8)
        for row in (8, 24, 40, 64, 88):
            alone = laid(light, abs(float(signed[row // 8, 0])))
            near = slice(20, 76)
            off = float(np.abs(soft[row, near] - alone[row, near]).mean())
            self.assertLess(off, 0.02 * float(light.std()) + 0.004)

    def test_light_is_neither_made_nor_lost(self) -> None:
        light = np.zeros((80, 80), np.float32)
        light[40, 40] = 1.0
        for disc in (0.4, 1.0, 3.3, 9.0, 20.0):
            self.assertAlmostEqual(float(laid(light, disc).sum()), 1.0, delta=0.02)


class FaultsTest(unittest.TestCase):
    def test_the_sharp_place_moves_as_the_shift_says(self) -> None:
        lens = Lens(50.0, 1.4, faults=Faults((Fault(1.4), Fault(5.6, 0.0, 0.05))))
        ring = lens.stands_for(1000.0)
        setup = lens.kit.at(5.6)
        sharp = depth.sharp_distance(setup, 1000.0)
        self.assertGreater(sharp, 1015.0)
        found = []
        for z in (1000.0, sharp):
            camera = Camera(lens, replace(BODY, frame_width=8.0), 5.6, ring)
            raw = file_of(take(Scene((Edge(z),)), camera), camera)
            found.append(clearest_edge(read(raw).luminance).blur.disc)
        self.assertGreater(found[0], 1.25 * found[1])

    def test_the_ring_reads_what_its_scale_says(self) -> None:
        lens = Lens(50.0, 1.8, faults=Faults(scale=0.04, infinity=-0.03))
        self.assertAlmostEqual(lens.reads(lens.stands_at(1500.0)), 1500.0, 3)
        self.assertEqual(lens.reads(lens.stands_at(math.inf)), math.inf)
        self.assertLess(lens.reads(lens.stands_for(1e9)), 1e6, "before its mark")
        good = Lens(50.0)
        self.assertAlmostEqual(good.reads(good.stands_for(1500.0)), 1500.0, 3)

    def test_corners_are_softer_and_a_tipped_lens_is_soft_on_one_side(self) -> None:
        for faults, softer in (
            (Faults(corner=0.08), True),
            (Faults(decentring=0.16), True),
            (Faults(), False),
        ):
            lens = Lens(50.0, 1.4, faults=faults)
            camera = Camera(lens, BODY, 2.0, lens.stands_for(1000.0))
            light = read(
                file_of(take(Scene((Board(1000.0, grain=30.0),)), camera), camera)
            ).luminance
            discs = mapped(light, 150).disc
            middle, corner = float(discs[2, 3]), float(np.nanmean(discs[-1, -2:]))
            self.assertEqual(corner > 1.4 * middle, softer, faults)

    def test_shake_draws_out_along_its_direction(self) -> None:
        camera = Camera(LENS, BODY, 5.6, LENS.stands_for(1000.0), shake=Shake(12.0, 0.0))
        upright = take(Scene((Edge(1000.0, math.radians(6)),)), camera)
        level = take(Scene((Edge(1000.0, math.radians(84)),)), camera)
        discs = [
            clearest_edge(read(file_of(p, camera)).luminance).blur.disc for p in (upright, level)
        ]
        self.assertGreater(discs[0], 2.5 * discs[1])


class FilesTest(unittest.TestCase):
    def test_the_same_seed_gives_the_same_file_and_another_another(self) -> None:
        camera = Camera(LENS, replace(BODY, width=300, height=200), 2.0, LENS.stands_for(700.0))
        scene = Scene((Sheet(700.0), Board(math.inf)), seed=5)
        first = file_of(take(scene, camera), camera)
        self.assertEqual(first, file_of(take(scene, camera), camera))
        self.assertNotEqual(first, file_of(take(replace(scene, seed=6), camera), camera))

    def test_it_says_what_a_camera_says(self) -> None:
        camera = Camera(LENS, BODY, 2.0, LENS.stands_for(700.0), iso=800, time=0.02)
        exif = read(file_of(take(Scene(), camera), camera)).exif
        self.assertEqual((exif.f_number, exif.focal_length, exif.iso), (2.0, 50.0, 800))
        self.assertAlmostEqual(exif.pitch or 0, BODY.pitch, 5)
        self.assertAlmostEqual((exif.focus_distance or 0) / 700.0, 1.0, delta=0.06)
        self.assertEqual(exif.doubts, ())

    def test_a_scene_is_read_with_care(self) -> None:
        cases = {
            '{"things": 3}': "things",
            '{"lens": {"focal_length_mm": "long"}}': "lens.focal_length_mm",
            '{"camera": {"f_number": 0.1}}': "camera.f_number",
            '{"things": [{"kind": "ghost"}]}': "things[0].kind",
            '{"things": [{"kind": "edge"}]}': "things[0].depth_mm",
            '{"things": [{"kind": "edge", "depth_mm": 60}]}': "things[0].depth_mm",
            '{"body": {"width_px": 10.5}}': "body.width_px",
            '{"sky": {}}': "sky",
            '{"camera": {"ring_at_mm": 900, "focused_on_mm": 900}}': "camera.ring_at_mm",
            "[]": "",
        }
        for text, place in cases.items():
            with self.subTest(text), self.assertRaises(SceneError) as raised:
                read_scene(json.loads(text))
            self.assertEqual(raised.exception.place, place)

    def test_the_command_takes_a_frame_or_says_one_sentence(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / "frame.jpg"
            small = '"body": {"width_px": 300, "height_px": 200}'
            scene = f'{{{small}, "things": [{{"kind": "edge", "depth_mm": 900}}]}}'
            words = ("frame", "-", str(out))
            done = subprocess.run(
                [sys.executable, "-m", "simulator", *words],
                input=scene, capture_output=True, text=True, check=False,
            )  # fmt: skip
            self.assertEqual((done.returncode, done.stderr), (0, ""))
            self.assertEqual(json.loads(done.stdout)["width_px"], 300)
            self.assertEqual(read(out).size, (300, 200))
            for text in ('{"things": 3}', "no json", '{"camera": {"f_number": true}}'):
                bad = ran(main, *words, given=text)
                self.assertEqual((bad.code, bad.out), (2, ""))
                self.assertEqual(bad.err.count("\n"), 1)
