"""Tests of sharpness and of ways of focusing, by files; and two files under one loupe."""

from __future__ import annotations

import io
from dataclasses import replace
from functools import cache
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from imaging.reading import read
from optics.lens.focusing import Way
from tests.web.looking import small_frames_once
from tests.web.test_bench import without_exif
from tests.web.test_bench_readings import ReadingsTest
from web.bag.models import Lens
from web.bench import loupe
from web.bench.kinds import made_up
from web.bench.models import Frame, Test

SEED = 11


def prime() -> Lens:
    return Lens(name="50 mm f/1.8", shortest_mm=50, longest_mm=50, widest=1.8)


@cache
def flat(f_number: float) -> tuple[str, bytes]:
    return made_up.sharpness_frame(prime(), SEED, f_number)


@cache
def focused(way: str, count: int) -> tuple[str, bytes]:
    return made_up.way_frame(prime(), SEED, way, count)


@cache
def pair(which: str) -> bytes:
    return loupe.made_up(SEED, which)


class FramesTest(ReadingsTest):
    def setUp(self) -> None:
        super().setUp()
        small_frames_once(self)

    def bring(self, *files: tuple[str, bytes], **more: str) -> Any:
        uploads = [SimpleUploadedFile(name, raw, "image/jpeg") for name, raw in files]
        return self.client.post(f"{self.at}frames/", {"file": uploads, **more})

    def test_sharpness_goes_into_the_lens_in_the_middle_and_in_the_corners(self) -> None:
        self.begin("sharpness")
        self.bring(flat(1.8), flat(8))
        page = self.client.get(self.at)
        result = page.context["result"]
        self.assertContains(page, "Sharpest at f/1.8")
        true = made_up.lens_with_faults(prime(), SEED).kit.at(1.8).lens_disc
        first = result.lines[0]
        self.assertLess(abs(first.own - true), 3.0 * first.own_error)
        self.assertLess(first.ideal, first.centre)
        self.keep()
        self.assertEqual([one.kind for one in self.lens.found], ["blur", "corner"])
        self.assertContains(self.client.get(f"/bench/lens/{self.lens.pk}/"), "towards the corners")
        link = "/view/?lens=50+mm+f/1.8&focal_length_mm=50&f_number=1.8&diffraction=1"
        link += "&mark_distance=2+m&mark_distance=2.4+m"
        setup = self.client.get(link).context["reading"].setup
        self.assertEqual(setup.lens_disc, first.own)

    def test_a_leaning_sheet_is_refused_where_it_should_be_flat(self) -> None:
        self.begin("sharpness")
        self.bring(focused(Way.SPOT, 0))
        page = self.client.get(self.at)
        self.assertContains(page, "faces the camera")
        self.assertFalse(page.context["result"].ready)

    def test_ways_of_focusing_go_into_views_tolerance(self) -> None:
        self.begin("ways")
        self.assertEqual(self.bring(focused(Way.SPOT, 0)).status_code, 404, "which way?")
        for count in range(3):
            self.bring(focused(Way.SPOT, count), way=Way.SPOT)
        self.bring(focused(Way.LIGHT, 0), way=Way.LIGHT)
        page = self.client.get(self.at)
        (line,) = page.context["result"].lines
        self.assertEqual((line.way, line.count), (Way.SPOT, 3))
        self.assertEqual(page.context["result"].waits, ((Way.LIGHT, 2),))
        self.assertContains(page, "Surest by spot autofocus")
        self.keep()
        (kept,) = self.lens.found
        self.assertEqual((kept.kind, kept.way, kept.scatter), ("way", Way.SPOT, line.scatter))
        link = "/view/?lens=50+mm+f/1.8&focal_length_mm=50&f_number=5.6&open=lens"
        link += "&mark_distance=2+m&mark_distance=2.4+m"
        view = self.client.get(link)
        self.assertContains(view, "as you tested it", count=1)
        self.assertContains(view, "count as you tested them")
        ideal = self.client.get(f"{link}&lens_ideal=1")
        self.assertNotContains(ideal, "as you tested it")
        self.assertContains(ideal, "Count them")
        self.client.post(f"/bench/lens/{self.lens.pk}/found/", {"finding": kept.key, "used": "0"})
        self.assertNotContains(self.client.get(link), "as you tested it")

    def test_ways_at_two_apertures_are_refused_with_a_cure(self) -> None:
        self.begin("ways")
        self.bring(focused(Way.SPOT, 0), made_up.shift_frame(prime(), SEED, 4), way=Way.SPOT)
        page = self.client.get(self.at)
        self.assertContains(page, "compared at one aperture")
        self.assertFalse(page.context["result"].ready)

    def test_the_made_up_camera_takes_each_way_in_turn(self) -> None:
        self.begin("ways")
        Test.objects.update(made_up=SEED)
        self.assertContains(self.client.get(self.at), "by a confirmation light")
        self.client.post(f"{self.at}made-up/")
        frame = Frame.objects.get()
        self.assertEqual((frame.way, frame.wrong), (Way.LIGHT, ""))

    def test_files_that_say_nothing_are_asked_for_it_here_too(self) -> None:
        self.begin("ways")
        Test.objects.update(pitch_mm=None)
        name, raw = focused(Way.SPOT, 0)
        self.bring((name, without_exif(raw)), way=Way.SPOT)
        self.assertContains(self.client.get(self.at), "Some files do not say")


class LoupeTest(ReadingsTest):
    def compare(self, one: bytes, other: bytes) -> Any:
        files = {
            "first": SimpleUploadedFile("a.jpg", one),
            "second": SimpleUploadedFile("b", other),
        }
        return self.client.post("/bench/loupe/compare/", files)

    def test_the_sharper_is_named_and_what_moved_is_not_called_soft(self) -> None:
        page = self.compare(pair("first"), pair("second"))
        found = page.context["compared"]
        self.assertContains(page, "The second is sharper")
        self.assertGreater(found.first_softer, 5 * found.second_softer)
        self.assertGreater(found.moved, 0.1)
        back = self.compare(pair("second"), pair("first"))
        self.assertContains(back, "The first is sharper")
        same = self.compare(pair("second"), pair("second"))
        self.assertContains(same, "Equally sharp")
        self.assertEqual(same.context["compared"].moved, 0.0)

    def test_contrast_is_told_from_sharpness(self) -> None:
        """Through a veil of light the same is as sharp, and said to have half the contrast."""
        light = read(pair("second")).luminance
        veiled = replace(read(pair("second")), luminance=0.5 * light + 0.09)
        found = self.compare(pair("second"), loupe.developed(veiled)).context["compared"]
        self.assertEqual(found.sharper, "")
        ratios = sorted(v for row in found.data["contrast"] for v in row if v is not None)
        self.assertLess(ratios[len(ratios) // 2], 0.7)

    def test_what_is_no_pair_is_said_at_its_file(self) -> None:
        none = self.client.post("/bench/loupe/compare/", {})
        self.assertContains(none, "Choose a file.", count=2, status_code=422)
        letter = self.compare(pair("first"), b"Not a picture.")
        self.assertContains(letter, "no picture that can be read", status_code=422)
        self.assertContains(letter, "Second file", status_code=422)
        small = io.BytesIO()
        Image.new("L", (300, 200), 90).save(small, "PNG")
        sizes = self.compare(pair("first"), small.getvalue())
        self.assertContains(sizes, "not of one size", status_code=422)
        plain = io.BytesIO()
        Image.new("L", (900, 600), 90).save(plain, "PNG")
        self.assertContains(self.compare(plain.getvalue(), plain.getvalue()), "Nothing to tell by")

    def test_what_a_browser_cannot_read_is_developed_and_nothing_kept(self) -> None:
        held = io.BytesIO()
        Image.new("L", (320, 200), 90).save(held, "TIFF")
        answer = self.client.post(
            "/bench/loupe/developed/", {"file": SimpleUploadedFile("a.tif", held.getvalue())}
        )
        self.assertEqual(answer["Content-Type"], "image/jpeg")
        self.assertEqual(Image.open(io.BytesIO(answer.content)).size, (320, 200))
        wrong = self.client.post(
            "/bench/loupe/developed/", {"file": SimpleUploadedFile("a.tif", b"no")}
        )
        self.assertEqual((wrong.status_code, wrong["Content-Type"]), (422, "text/plain"))
        self.assertEqual(self.client.post("/bench/loupe/developed/").status_code, 422)

    def test_the_made_up_pair_can_be_had_and_no_other(self) -> None:
        answer = self.client.get(f"/bench/loupe/{SEED}/first.jpg")
        self.assertEqual(answer.content, pair("first"))
        for address in ("x/first.jpg", f"{2**31}/first.jpg", "1/third.jpg"):
            self.assertEqual(self.client.get(f"/bench/loupe/{address}").status_code, 404, address)
