"""What came home: files good and bad, the clock, sidecars, and what is said of a frame."""

from __future__ import annotations

import io
import json
import struct
import zipfile
import zlib
from datetime import UTC, datetime, timedelta
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from tests import WHOLE
from tests.imaging import drawn
from tests.web.test_outings import Case, entry
from web.outings import sidecars
from web.outings.models import Outing, State

_IFD = 0x8769


def picture(
    at: str = "", focal_length: float = 24.0, f_number: float = 11.0, disc: float = 2.0
) -> bytes:
    """A small file that says when and how it was taken; without ``at``, nothing."""
    image = Image.open(io.BytesIO(drawn.file(drawn.edge(disc))))
    held, exif = io.BytesIO(), Image.Exif()
    if at:
        exif[_IFD] = {
            0x9003: at,
            0x829D: _rational(f_number),
            0x920A: _rational(focal_length),
        }
    image.save(held, "JPEG", quality=95, exif=exif)
    return held.getvalue()


def _rational(value: float) -> IFDRational:
    return IFDRational(round(10 * value), 10)


class FilesTest(Case):
    def bring(self, name: str, raw: bytes) -> dict[str, Any]:
        upload = SimpleUploadedFile(name, raw)
        answer = self.client.post(f"{self.at}take/", {"file": upload})
        self.assertIn(answer.status_code, (200, 422, 409), answer.content)
        found: dict[str, Any] = answer.json()
        return found

    def test_a_file_is_read_measured_and_let_go(self) -> None:
        self.gather(self.plan)
        raw = picture("2026:03:07 16:31:10")
        self.assertEqual(self.bring("pit.jpg", raw)["state"], "new")
        frame = self.outing.frames.get()
        self.assertEqual((frame.focal_length_mm, frame.f_number), (24.0, 11.0))
        self.assertEqual(frame.at, datetime(2026, 3, 7, 16, 31, 10, tzinfo=UTC))
        self.assertEqual(frame.item, self.outing.items.get())
        assert frame.look is not None
        assert frame.look.small is not None
        self.assertLess(len(frame.look.small), len(raw) + 20_000)
        self.assertIn("disc", frame.look.whole)
        self.outing.refresh_from_db()
        self.assertIsNotNone(self.outing.begun)
        page = self.client.get(f"{self.at}after/")
        self.assertContains(page, "pit.jpg")
        self.assertContains(page, "point at its marks")
        page = self.client.get(f"/outings/frames/{frame.pk}/")
        self.assertContains(page, "Point at it in the picture.")
        self.assertEqual(self.client.get(f"/outings/frames/{frame.pk}.jpg").status_code, 200)

    def test_the_same_file_twice_whatever_it_is_called(self) -> None:
        raw = picture("2026:03:07 16:31:10")
        self.bring("one.jpg", raw)
        self.assertIn("read already", self.bring("one.jpg", raw)["says"])
        self.assertIn("same picture as one.jpg", self.bring("two.jpg", raw)["says"])
        self.assertEqual(self.outing.frames.count(), 1)
        self.assertEqual(self.client.get(f"{self.at}known/").json()["files"],
                         [f"one.jpg|{len(raw)}"])  # fmt: skip

    def test_what_cannot_be_read_says_so_and_the_rest_is_read(self) -> None:
        good = picture("2026:03:07 16:31:10")
        tiny = io.BytesIO()
        Image.new("L", (8, 8)).save(tiny, "PNG")
        for name, raw, words in (
            ("empty.jpg", b"", "empty"), ("text.jpg", b"a letter", "no picture"),
            ("cut.jpg", good[: len(good) // 2], "cut short"), ("bomb.png", bomb(), "more pixels"),
            ("tiny.png", tiny.getvalue(), "small"),
        ):  # fmt: skip
            with self.subTest(name):
                said = self.bring(name, raw)
                self.assertEqual(said["state"], "broken")
                self.assertIn(words, said["says"])
        self.assertEqual(self.bring("good.jpg", good)["state"], "new")
        page = self.client.get(f"{self.at}frames/?only=broken")
        self.assertContains(page, "cut.jpg")
        self.assertNotContains(page, "good.jpg")
        self.assertEqual(self.client.post(f"{self.at}take/", {}).status_code, 422)

    def test_a_hundred_files_four_of_them_broken(self) -> None:
        """Every day half as many."""
        self.gather(self.plan)
        count = 100 if WHOLE else 50
        for at in range(count):
            taken = f"2026:03:07 16:{at // 60:02d}:{at % 60:02d}"
            raw = b"broken" if at % 25 == 3 else picture(taken, disc=1.5 + 0.02 * at)
            self.bring(f"home-{at:03d}.jpg", raw)
        states = dict(self.outing.frames.values_list("name", "state"))
        self.assertEqual(sum(1 for one in states.values() if one == State.BROKEN), count // 25)
        mine = self.outing.frames.filter(item=self.outing.items.get())
        self.assertEqual(mine.count(), count - count // 25)
        page = self.client.get(f"{self.at}after/")
        self.assertContains(page, "home-000.jpg")
        last = self.outing.frames.order_by("order")[39]
        more = self.client.get(f"{self.at}frames/?after={last.pk}")
        self.assertNotContains(more, f">{last.name}<")
        self.assertContains(more, "home-04")

    def test_a_file_that_says_nothing_is_asked_for(self) -> None:
        self.gather(self.plan)
        self.assertIn("does not say when", self.bring("scan.jpg", picture())["says"])
        page = self.client.get(f"{self.at}after/")
        self.assertContains(page, "Of what is it?")
        frame, item = self.outing.frames.get(), self.outing.items.get()
        said = {"frame": frame.pk, "item": item.pk}
        self.client.post(f"{self.at}belongs/", said)
        frame.refresh_from_db()
        self.assertEqual((frame.item, frame.told, frame.why), (item, True, "As you said."))
        self.client.post(f"{self.at}belongs/", {"frame": frame.pk, "item": ""})
        frame.refresh_from_db()
        self.assertEqual((frame.item, frame.state), (None, State.OTHER))

    def test_the_clock_is_set_by_a_picture_of_the_page(self) -> None:
        self.gather(self.plan)
        logged = datetime(2026, 3, 7, 15, 30, tzinfo=UTC)
        self.send(entry("clock", logged))  # of a device an hour ahead of UTC
        self.bring("clock.jpg", picture("2026:03:07 16:29:18"))
        page = self.client.get(f"{self.at}after/")
        self.assertContains(page, "Which frame shows it")
        self.assertContains(page, 'value="16:30:00"')
        frame = self.outing.frames.get()
        wrong = self.client.post(f"{self.at}clock/", {"frame": frame.pk, "shown": "noon"})
        self.assertContains(wrong, "Write the time as the picture shows it", status_code=422)
        self.client.post(f"{self.at}clock/", {"frame": frame.pk, "shown": "16:30:00"})
        self.outing.refresh_from_db()
        self.assertEqual(self.outing.clock_off_s, 42.0)
        frame.refresh_from_db()
        self.assertEqual(frame.when, logged)
        for off in ("--5", "1e9", "soon", "99999999", ""):
            self.client.post(f"{self.at}clock/", {"off": off})
        self.outing.refresh_from_db()
        self.assertEqual(self.outing.clock_off_s, 42.0)
        self.client.post(f"{self.at}clock/", {"forget": "1"})
        self.outing.refresh_from_db()
        self.assertIsNone(self.outing.clock_off_s)

    def test_a_clock_set_just_before_midnight(self) -> None:
        self.bring("late.jpg", picture("2026:03:07 23:59:50"))
        frame = self.outing.frames.get()
        self.client.post(f"{self.at}clock/", {"frame": frame.pk, "shown": "00:00:20"})
        self.outing.refresh_from_db()
        self.assertEqual(self.outing.clock_off_s, 30.0)

    def test_a_camera_of_another_zone_is_found_out(self) -> None:
        self.gather(self.plan)
        begun = datetime(2026, 3, 7, 15, 0, tzinfo=UTC)
        times = [begun + timedelta(minutes=m) for m in (0, 7, 19)]
        self.send(*(entry("taken", at) for at in times))  # the device is an hour ahead of UTC
        for n, at in enumerate(times):
            shown = at + timedelta(hours=3, seconds=12)
            self.bring(f"z-{n}.jpg", picture(f"{shown:%Y:%m:%d %H:%M:%S}", disc=2.0 + n))
        page = self.client.get(f"{self.at}after/")
        self.assertContains(page, "clock seems to be 2 h ahead")
        self.client.post(f"{self.at}clock/", {"off": "-7200"})
        self.assertNotContains(self.client.get(f"{self.at}after/"), "clock seems to be")
        self.outing.refresh_from_db()
        first = self.outing.frames.order_by("order")[0]
        assert first.when is not None
        self.assertLess(abs((first.when - begun).total_seconds()), 15)

    def test_ratings_and_keywords_come_and_go_as_sidecars(self) -> None:
        self.gather(self.plan)
        self.bring("pit.jpg", picture("2026:03:07 16:31:10"))
        frame = self.outing.frames.get()
        frame.rating, frame.keywords = 4, ["slate & <wet>", "Ostrel"]
        frame.save()
        archive = zipfile.ZipFile(io.BytesIO(self.client.get(f"{self.at}out.zip").content))
        raw = archive.read("pit.xmp")
        read_back = sidecars.read(raw)
        self.assertEqual(read_back.rating, 4)
        self.assertEqual(read_back.keywords[:2], ("slate & <wet>", "Ostrel"))
        self.assertIn("Sallow Pit", read_back.keywords)
        frame.rating, frame.keywords = None, []
        frame.save()
        self.assertIn("for 1 frame", self.bring("PIT.XMP", raw)["says"])
        frame.refresh_from_db()
        self.assertEqual((frame.rating, frame.keywords[1]), (4, "Ostrel"))
        bomb_of_words = b'<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>'
        for bad in (b"", b"not xml", bomb_of_words, b"<a/>" * 9, b"x" * 1_000_001):
            self.assertEqual(self.bring("bad.xmp", bad)["state"], "broken")

    def test_what_a_sidecar_may_say(self) -> None:
        head = (
            '<x xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" '
            'xmlns:xmp="http://ns.adobe.com/xap/1.0/"><rdf:Description>'
        )
        for text, rating in (("3", 3), ("-1", -1), ("9", None), ("best", None), ("", None)):
            raw = f"{head}<xmp:Rating>{text}</xmp:Rating></rdf:Description></x>".encode()
            self.assertEqual(sidecars.read(raw).rating, rating)
        self.assertEqual(sidecars.stem("A.CR2.xmp"), sidecars.stem("a.cr2"))

    def test_everything_out_as_csv_and_json(self) -> None:
        self.bring("=sum.jpg", picture("2026:03:07 16:31:10"))
        table = self.client.get(f"{self.at}out.csv").content.decode()
        self.assertIn("name,at,of,sure,focal_length_mm", table)
        self.assertIn("'=sum.jpg,2026-03-07T16:31:10+00:00", table)
        said = json.loads(self.client.get(f"{self.at}out.json").content)
        self.assertEqual(said["frames"][0]["f_number"], 11.0)
        self.assertEqual(self.client.get(f"{self.at}out.exe").status_code, 404)

    def test_marks_ratings_and_prints_of_a_frame(self) -> None:
        outing = Outing.objects.get(owner=self.owner, name="Sallow Pit, low sun")
        frame = outing.frames.get(name="pit-03.jpg")
        at = f"/outings/frames/{frame.pk}/"
        self.client.post(f"{at}say/", {"rating": "5", "words": "wheel, dusk, wheel,"})
        frame.refresh_from_db()
        self.assertEqual((frame.rating, frame.keywords), (5, ["wheel", "dusk"]))
        self.client.post(f"{at}say/", {"letter": "C", "x": "0.36", "y": "0.72"})
        frame.refresh_from_db()
        ridge = next(one for one in frame.found["marks"] if one["letter"] == "C")
        self.assertNotEqual(ridge["word"], "soft")  # that is where the slab is sharp
        wrong = self.client.post(f"{at}say/", {"letter": "C", "x": "-1", "y": "up"})
        self.assertContains(wrong, "Point into the picture", status_code=422)
        self.client.post(f"{at}say/", {"again": "1"})
        self.assertContains(self.client.get(f"{at}?print=2+m"), "on paper")
        self.assertContains(self.client.get(f"{at}?print=1+mm"), "A print is 5 cm to 20 m wide.")
        self.assertContains(self.client.get(f"{at}?print=large"), "message wrong")

    def test_what_was_not_looked_at_is_not_said_to_hold(self) -> None:
        outing = Outing.objects.get(owner=self.owner, name="Sallow Pit, low sun")
        frame = outing.frames.get(name="pit-01.jpg")
        del frame.marks["C"]
        frame.save()
        self.client.post(f"/outings/frames/{frame.pk}/say/", {"again": "1"})
        frame.refresh_from_db()
        self.assertEqual(frame.state, State.UNSURE)
        page = self.client.get(f"/outings/frames/{frame.pk}/")
        self.assertContains(page, "Not all of it was looked at")
        self.assertContains(self.client.get(f"/outings/{outing.pk}/after/"), "C not looked at")

    def test_two_frames_of_one_thing_are_compared_mark_by_mark(self) -> None:
        outing = Outing.objects.get(owner=self.owner, name="Sallow Pit, low sun")
        sharp, near, again = (outing.frames.get(name=f"pit-0{n}.jpg") for n in (1, 3, 2))
        page = self.client.get(f"/outings/frames/{near.pk}/?beside={sharp.pk}")
        self.assertContains(page, "pit-01.jpg is sharper")
        self.assertContains(page, "C Tip ridge")
        same = self.client.get(f"/outings/frames/{sharp.pk}/?beside={again.pk}")
        self.assertContains(same, "Equally sharp, but for chance")
        self.assertIsNone(
            self.client.get(f"/outings/frames/{near.pk}/?beside=x").context["compared"]
        )

    def test_marks_go_on_to_the_next_frame_of_the_same_view_and_to_no_other(self) -> None:
        self.gather(self.plan)
        for name, turned in (("a.jpg", 5.3), ("b.jpg", 5.5), ("c.jpg", 97.0)):
            light = drawn.edge(2.0, turned, (600, 400))
            raw = io.BytesIO()
            exif = Image.Exif()
            exif[_IFD] = {0x9003: f"2026:03:07 16:3{ord(name[0]) % 10}:00",
                          0x829D: _rational(11.0), 0x920A: _rational(24.0)}  # fmt: skip
            Image.fromarray(drawn.coded(light)).save(raw, "JPEG", quality=95, exif=exif)
            self.bring(name, raw.getvalue())
            frame = self.outing.frames.get(name=name)
            if name == "a.jpg":
                said = {"letter": "A", "x": "0.5", "y": "0.5"}
                self.client.post(f"/outings/frames/{frame.pk}/say/", said)
            elif name == "b.jpg":
                self.assertEqual(frame.marks, {"A": [0.5, 0.5]})
            else:
                self.assertEqual(frame.marks, {})  # the picture of something else

    def test_what_is_left_to_find_out_goes_on_by_itself(self) -> None:
        outing = Outing.objects.get(owner=self.owner, name="Sallow Pit, low sun")
        outing.frames.update(found=None, state=State.UNTOLD)
        at = f"/outings/{outing.pk}/"
        self.assertContains(self.client.get(f"{at}after/"), "Finding out about 5 frames")
        answer = self.client.post(f"{at}tell/", headers={"HX-Request": "true"})
        self.assertNotContains(answer, "Finding out")
        self.assertEqual(outing.frames.filter(state=State.UNTOLD).count(), 0)


def bomb() -> bytes:
    """A picture that claims to be of many more pixels than it has bytes for."""
    raw = bytearray(drawn.file(drawn.edge(2.0), "PNG"))
    raw[16:24] = struct.pack(">II", 25_000, 25_000)
    raw[29:33] = struct.pack(">I", zlib.crc32(raw[12:29]))
    return bytes(raw)
