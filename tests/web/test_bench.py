"""The bench: a test of focus shift from its files to the plans that it corrects."""

from __future__ import annotations

import io
import re
from functools import cache
from typing import Any

import pypdfium2
from django.core.files.uploadedfile import SimpleUploadedFile

from drawing import target
from imaging.reading import read
from imaging.sheet import SPOTS, found
from optics import Setup
from optics.lens import depth
from tests.web.looking import small_frames_once
from tests.web.test_bag import BagTest
from tests.web.test_findings import ROWS, finding
from web.bag.models import Lens
from web.bench.kinds import KINDS, made_up
from web.bench.models import MOST_FRAMES, Frame, Test
from web.demo.world import load

SEED = 4


@cache
def file(f_number: float) -> tuple[str, bytes]:
    """A made-up camera's file of the 50 mm lens, taken once for all tests."""
    lens = Lens(name="50 mm f/1.8", shortest_mm=50, longest_mm=50, widest=1.8)
    return made_up.shift_frame(lens, SEED, f_number)


def without_exif(raw: bytes) -> bytes:
    """The same picture, saying nothing of how it was taken: without its APP1 segment."""
    at = raw.index(b"\xff\xe1")
    return raw[:at] + raw[at + 2 + int.from_bytes(raw[at + 2 : at + 4], "big") :]


class BenchTest(BagTest):
    def setUp(self) -> None:
        super().setUp()
        small_frames_once(self)
        load()
        sample = Lens.objects.get(owner__is_sample=True, name="50 mm f/1.8")
        self.client.post("/bench/begin/", {"lens": sample.pk})
        self.test = Test.objects.get()
        self.lens = self.test.lens
        self.at = f"/bench/tests/{self.test.pk}/"

    def bring(self, *files: tuple[str, bytes]) -> Any:
        uploads = [SimpleUploadedFile(name, raw, "image/jpeg") for name, raw in files]
        return self.client.post(f"{self.at}frames/", {"file": uploads})

    def true_shift(self, f_number: float) -> float:
        return made_up.lens_with_faults(self.lens, SEED).kit.at(f_number).focus_shift

    def test_from_files_to_a_finding_that_corrects_view_and_back(self) -> None:
        self.assertContains(self.client.get(self.at), "Bring a frame of the target wide open")
        self.bring(file(5.6), file(1.8))
        page = self.client.get(self.at)
        lines = page.context["result"].lines
        self.assertEqual([line.f_number for line in lines], [1.8, 5.6])
        self.assertLess(abs(lines[1].shift - self.true_shift(5.6)), 3 * lines[1].error)
        self.assertNotEqual(self.true_shift(5.6), 0.0)
        turned = Setup(50.0, 5.6, 0.025, focus_shift=lines[1].shift)
        sharp = depth.sharp_distance(turned, lines[1].turn_to)
        self.assertAlmostEqual(sharp / 2000.0, 1.0, delta=0.006, msg="as far as a hand can set it")
        self.assertAlmostEqual(lines[1].circles, abs(lines[1].shift) / 5.6 / 0.025, delta=0.01)
        self.assertContains(page, "It shifts its focus")
        self.assertContains(page, "Three cures")
        before = len(self.lens.findings)
        self.client.post(f"{self.at}keep/")
        self.lens.refresh_from_db()
        self.assertEqual(len(self.lens.findings), before + 1)
        kept = self.lens.found[-1]
        self.assertEqual(kept.rows[1].found.value, lines[1].shift)
        self.assertFalse(Test.objects.exists())
        page = self.client.get(f"/bench/lens/{self.lens.pk}/")
        pictures = re.findall(r"/bench/frames/\d+\.jpg", page.content.decode())
        self.assertEqual(len(pictures), 2)
        self.assertEqual(self.client.get(pictures[0])["Content-Type"], "image/jpeg")
        link = "/view/?lens=50+mm+f/1.8&focal_length_mm=50&f_number=5.6&camera_height=&tilt_deg="
        link += "&mark_distance=2+m&mark_distance=2.4+m"
        view = self.client.get(link)
        self.assertContains(view, "shift of")
        self.assertEqual(view.context["reading"].setup.focus_shift, lines[1].shift)
        self.client.post(f"/bench/lens/{self.lens.pk}/found/", {"finding": kept.key, "used": "0"})
        self.assertEqual(self.client.get(link).context["reading"].setup.focus_shift, 0.0)

    def test_the_made_up_camera_takes_one_frame_after_the_other(self) -> None:
        Test.objects.update(made_up=SEED)
        answer = self.client.post(f"{self.at}made-up/", headers={"accept": "application/json"})
        self.assertEqual(answer.json(), {"taken": True, "more": True, "next": "f/2.8"})
        frame = Frame.objects.get()
        self.assertEqual((frame.f_number, frame.wrong), (1.8, ""))
        self.assertEqual(KINDS["shift"].next(self.test), "f/2.8")
        small = self.client.get(f"{self.at}{frame.pk}.jpg")
        self.assertEqual(small["Content-Type"], "image/jpeg")
        self.assertLess(len(small.content), 12_000)

    def test_what_cannot_be_used_is_said_and_nothing_is_kept_of_it(self) -> None:
        self.bring(("letter.jpg", b"Not a picture."), ("cut.jpg", file(1.8)[1][:9000]))
        page = self.client.get(self.at)
        self.assertContains(page, "This is no picture that can be read")
        self.assertContains(page, "cut short or damaged")
        self.assertEqual(Frame.objects.filter(seen__isnull=True).count(), 2)
        self.assertFalse(page.context["result"].ready)
        self.assertEqual(self.client.post(f"{self.at}keep/").status_code, 404)
        self.assertEqual(self.bring().status_code, 422)

    def test_a_file_brought_twice_is_there_once_and_may_be_taken_out(self) -> None:
        self.bring(file(1.8))
        self.bring(file(1.8))
        frame = Frame.objects.get()
        self.client.post(f"{self.at}say/", {"frame": frame.pk, "out": "1"})
        self.assertFalse(Frame.objects.exists())

    def test_what_a_file_does_not_say_is_asked_and_said(self) -> None:
        Test.objects.update(focal_length_mm=None, pitch_mm=None)
        for f_number in (1.8, 5.6):
            name, raw = file(f_number)
            self.bring((name, without_exif(raw)))
        page = self.client.get(self.at)
        self.assertTrue(page.context["result"].lacks)
        first, second = Frame.objects.order_by("pk")
        bad = self.client.post(f"{self.at}say/", {"frame": first.pk, "f_number": "wide"})
        self.assertContains(bad, "Give an aperture", status_code=422)
        self.assertContains(bad, 'value="wide"', status_code=422)
        more = {"focal_length_mm": "50", "sensor_mm": "36"}
        self.client.post(f"{self.at}say/", {"frame": first.pk, "f_number": "1.8", **more})
        self.client.post(f"{self.at}say/", {"frame": second.pk, "f_number": "5.6"})
        lines = self.client.get(self.at).context["result"].lines
        self.assertLess(abs(lines[1].shift - self.true_shift(5.6)), 3 * lines[1].error)

    def test_there_is_an_end_to_frames_and_tests(self) -> None:
        Frame.objects.bulk_create(
            Frame(test=self.test, name=f"{k}.jpg", bytes=k) for k in range(MOST_FRAMES)
        )
        answer = self.client.post(
            f"{self.at}frames/", {"file": SimpleUploadedFile("more.jpg", b"x")},
            headers={"accept": "application/json"},
        )  # fmt: skip
        self.assertIn(f"room for {MOST_FRAMES} frames", answer.json()["wrong"][0])
        self.client.post(f"{self.at}keep/", {"discard": "1"})
        self.assertFalse(Test.objects.exists())

    def test_strangers_see_nothing_of_it(self) -> None:
        self.client.cookies.clear()
        for address in (self.at, f"{self.at}steps/", f"{self.at}1.jpg", "/bench/lens/99999/"):
            self.assertEqual(self.client.get(address).status_code, 404, address)

    def test_findings_are_shown_taken_out_and_put_back(self) -> None:
        self.lens.findings = [finding(ROWS), *(
            finding([[5.6, value, 0.001]], key=f"{k:08x}") for k, value in enumerate((0.024, 0.06))
        )]  # fmt: skip
        self.lens.save()
        at = f"/bench/lens/{self.lens.pk}/"
        page = self.client.get(at)
        self.assertContains(page, "does not agree with the others", count=1)
        self.client.post(f"{at}found/", {"finding": "00000001", "out": "1"})
        self.assertContains(self.client.get(at), "Put it back")
        self.client.post(f"{at}found/", {"back": "1"})
        self.lens.refresh_from_db()
        self.assertEqual({one.key for one in self.lens.found}, {"0a1b2c3d", "00000000", "00000001"})
        self.assertContains(self.client.get("/bench/"), "3 findings")

    def test_several_are_laid_together_and_near_and_far_are_told_apart(self) -> None:
        near = finding([[1.8, 0.0, 0.001], [5.6, 0.020, 0.001]], key="00000001")
        again = {**near, "key": "00000002", "rows": [[1.8, 0.0, 0.001], [5.6, 0.022, 0.001]]}
        self.lens.findings = [near, again]
        self.lens.save()
        page = self.client.get(f"/bench/lens/{self.lens.pk}/")
        self.assertContains(page, "Two tests together: focus shift")
        self.assertContains(page, "+21 µm")
        self.assertNotContains(page, "Near and far disagree")
        far = {**again, "distance_mm": 3000.0, "rows": [[5.6, 0.008, 0.001]]}
        self.lens.findings = [near, far]
        self.lens.save()
        page = self.client.get(f"/bench/lens/{self.lens.pk}/")
        self.assertContains(page, "Near and far disagree")

    def test_how_it_is_done_is_told_step_by_step(self) -> None:
        page = self.client.get(f"{self.at}steps/?step=4")
        self.assertContains(page, "Open the aperture all the way")
        self.assertContains(page, "The test</a>")


class TargetTest(BagTest):
    def test_the_pdf_is_of_true_size_and_its_marks_are_found(self) -> None:
        """Measured from its own drawing: rasterised, its spots are where the drawing has them."""
        for paper, (width, height) in target.PAPERS.items():
            with self.subTest(paper):
                answer = self.client.get(f"/bench/target/{paper}.pdf")
                self.assertEqual(answer["Content-Type"], "application/pdf")
                document = pypdfium2.PdfDocument(answer.content)
                self.assertEqual(len(document), 1)
                page = document[0]
                mm = 72 / 25.4
                self.assertAlmostEqual(page.get_width() / mm, width, delta=0.02)
                self.assertAlmostEqual(page.get_height() / mm, height, delta=0.02)
                picture = page.render(scale=200 / 72).to_pil()
                held = io.BytesIO()
                picture.save(held, "PNG")
                seen = found(read(held.getvalue()).luminance)
                pixel = 25.4 / 200
                for (x, y), (column, row) in zip(SPOTS, seen.places, strict=True):
                    self.assertAlmostEqual((column + 0.5) * pixel - width / 2, x, delta=0.1)
                    self.assertAlmostEqual(height / 2 - (row + 0.5) * pixel, y, delta=0.1)

    def test_its_page_prints_from_the_browser_and_others_are_not_there(self) -> None:
        page = self.client.get("/bench/target/")
        self.assertEqual(len(re.findall("<polygon", page.content.decode())), 51)
        self.assertNotContains(page, "<style")
        self.assertEqual(self.client.get("/bench/target/a5.pdf").status_code, 404)
