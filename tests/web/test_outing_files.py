"""What came home: files good and bad, of which plan they are, the clock, and what is found."""

from __future__ import annotations

import io
import json
import struct
import zipfile
import zlib
from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from drawing.fell import fell_line
from drawing.softness_map import softness_map
from imaging.reading import read
from imaging.whole import plain, whole
from tests.imaging import drawn
from tests.web.test_outings import Case, entry
from tools.demo_frames import file, shots
from web.demo.came_home import frames
from web.demo.world import load
from web.outings import sidecars
from web.outings.learning import judged_by, learnt
from web.outings.matching import Wanted, match
from web.outings.models import Frame, Outing, State

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
        self.assertContains(self.client.get(f"{self.at}after/"), "pit.jpg")
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
        self.gather(self.plan)
        for at in range(100):
            taken = f"2026:03:07 16:{at // 60:02d}:{at % 60:02d}"
            raw = b"broken" if at % 25 == 3 else picture(taken, disc=1.5 + 0.02 * at)
            self.bring(f"home-{at:03d}.jpg", raw)
        states = dict(self.outing.frames.values_list("name", "state"))
        self.assertEqual(sum(1 for one in states.values() if one == State.BROKEN), 4)
        self.assertEqual(self.outing.frames.filter(item=self.outing.items.get()).count(), 96)
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
        self.assertContains(self.client.get(f"{at}?print=2+m"), "in the print")
        self.assertContains(self.client.get(f"{at}?print=1+mm"), "A print is 5 cm to 20 m wide.")
        self.assertContains(self.client.get(f"{at}?print=large"), "message wrong")

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


class MatchingTest(TestCase):
    PLANS = (Wanted(1, "Pit", 24.0, (11.0,)), Wanted(2, "Wheel", 24.0, (22.0,)),
             Wanted(3, "Night", 16.0, (2.0,)))  # fmt: skip

    def matched(self, **said: Any) -> tuple[int | None, bool]:
        frame = Frame(outing=Outing(name="A"), name="a.jpg", **said)
        begun = datetime(2026, 3, 7, 16, 0, tzinfo=UTC)
        times = [(begun, 1, "taken"), (begun + timedelta(minutes=30), 2, "checked")]
        found = match(frame, self.PLANS, times)
        return found.item, found.sure

    def at(self, minute: int) -> datetime:
        return datetime(2026, 3, 7, 16, minute, tzinfo=UTC)

    def test_by_aperture_time_and_focal_length(self) -> None:
        for said, wanted in (
            ({"focal_length_mm": 24.0, "f_number": 11.0}, (1, True)),
            ({"focal_length_mm": 24.0, "f_number": 22.0}, (2, True)),
            ({"focal_length_mm": 16.0, "f_number": 2.0}, (3, True)),
            ({"focal_length_mm": 16.0}, (3, False)),
            ({"focal_length_mm": 24.0, "f_number": 11.0, "at": self.at(1)}, (1, True)),
            ({"focal_length_mm": 24.0, "at": self.at(0)}, (1, True)),
            ({"focal_length_mm": 24.0, "at": self.at(35)}, (2, True)),
            ({"focal_length_mm": 24.0, "f_number": 16.0}, (1, False)),
            ({"focal_length_mm": 90.0, "f_number": 11.0, "at": self.at(0)}, (None, False)),
            ({}, (None, False)),
        ):  # fmt: skip
            with self.subTest(said):
                self.assertEqual(self.matched(**said), wanted)


class DemoTest(TestCase):
    """What the application finds in the frames of the sample world is right."""

    WRONG = {
        "pit-03.jpg": ("C", "NEAR"), "pit-04.jpg": ("B", "MOVING"),
        "pit-05.jpg": ("A", "DIFFRACTION"), "row-02.jpg": ("A", "SHAKE"),
        "top-03.jpg": ("S", "DRIFT"),
    }  # fmt: skip

    def test_what_went_wrong_is_named_and_what_held_holds(self) -> None:
        load()
        every = list(Frame.objects.all())
        self.assertEqual(len(every), 11)
        for frame in every:
            assert frame.found is not None
            with self.subTest(frame.name):
                marks = {one["letter"]: one for one in frame.found["marks"]}
                if frame.name not in self.WRONG:
                    self.assertEqual(frame.state, State.HELD)
                    self.assertNotIn("soft", {one["word"] for one in marks.values()})
                    continue
                letter, cause = self.WRONG[frame.name]
                self.assertEqual(marks[letter]["word"], "soft")
                self.assertEqual(marks[letter]["parts"][0][0], cause)

    def test_they_are_what_the_made_up_camera_takes_and_what_is_measured_now(self) -> None:
        wanted = next(shot for shot in shots() if shot.name == "row-02.jpg")
        said = next(one for one in frames() if one["name"] == "row-02.jpg")
        seen = plain(whole(read(file(wanted)).luminance))
        self.assertEqual(seen["size"], said["whole"]["size"])
        now, then = (np.array(one["disc"], float) for one in (seen, said["whole"]))
        self.assertLess(float(np.nanmedian(np.abs(now - then))), 0.11)

    def test_pages_say_it(self) -> None:
        load()
        for name, words in (
            ("pit-03.jpg", ("Focused too near", "Set the ring to 2.6 m", "It would have shown")),
            ("pit-04.jpg", ("Winch wheel: it moved", "Wait for the lull")),
            ("pit-05.jpg", ("Diffraction", "Open to about f/")),
            ("row-02.jpg", ("The camera moved", "so are")),
            ("top-03.jpg", ("The stars moved on", "Expose no longer than")),
            ("pit-01.jpg", ("It holds", "Hatched the closer the softer")),
        ):
            page = self.client.get(f"/outings/frames/{Frame.objects.get(name=name).pk}/")
            for said in words:
                self.assertContains(page, said)

    def test_what_frames_teach(self) -> None:
        owner = load()
        found = learnt(owner)
        self.assertEqual((found.count, found.held), (11, 6))
        by_lens = next(table for table in found.tables if table.title == "by lens")
        self.assertEqual({row.name: (row.held, row.count) for row in by_lens.rows},
                         {"20–35 mm f/4 zoom": (3, 6), "28 mm f/2.8 with tab": (2, 3),
                          "16 mm f/2 for the night": (1, 2)})  # fmt: skip
        self.assertContains(self.client.get("/outings/learnt/"), "6 of 11 held")
        self.assertFalse(judged_by(owner).enough)


class LearningTest(Case):
    def miss(self, off: float, missed: str) -> None:
        found = {
            "held": missed == "", "planned_mm": 1200.0, "f_number": 4.0, "lens": "A", "place": "",
            "way": "scale", "marks": [],
            "fell": {"off_um": off, "sure": True, "missed": missed},
        }  # fmt: skip
        count = self.outing.frames.count()
        Frame.objects.create(outing=self.outing, name=f"{count}.jpg", found=found, order=count,
                             state=State.SOFT if missed else State.HELD)  # fmt: skip

    def test_misses_to_one_side_are_told_and_chance_is_not(self) -> None:
        self.owner.outings.exclude(pk=self.outing.pk).delete()
        for off in (12.0, 20.0, 16.0, 9.0, 14.0):
            self.miss(off, "near")
        page = self.client.get("/outings/learnt/")
        self.assertContains(page, "Your misses are on the near side at close range.")
        self.assertContains(page, "a finger’s width farther")
        for off in (-15.0, -18.0, -12.0, -14.0, -16.0):
            self.miss(off, "far")
        self.assertContains(self.client.get("/outings/learnt/"), "that is chance, no habit")

    def test_how_far_off_one_judges_is_taken_over_when_accepted_and_never_before(self) -> None:
        pairs = (("3 m", "2.5 m"), ("2 m", "1.7 m"), ("6 m", "5 m"), ("1.2 m", "1 m"))
        says = [{"judged": one, "was": other} for one, other in (*pairs, ("no", "1 m"))]
        self.send(*(entry("judged", says=one) for one in says))
        before = self.owner.judgement_error
        page = self.client.get("/outings/learnt/")
        self.assertContains(page, "on the whole 19 % too far")
        self.owner.refresh_from_db()
        self.assertEqual(self.owner.judgement_error, before)
        self.assertContains(
            self.client.post("/outings/learnt/accept/", follow=True), "count with that"
        )
        self.owner.refresh_from_db()
        self.assertAlmostEqual(self.owner.judgement_error, 0.18, delta=0.005)


class DrawnTest(TestCase):
    def test_the_map_hatches_what_is_soft_and_names_the_sharpest_place(self) -> None:
        discs = [[9.0] * 9 for _ in range(9)]
        for row in range(6, 9):
            discs[row] = [1.5] * 5 + [5.0] * 4
        made = softness_map(discs, 64, 2.0)
        self.assertEqual({box.says for box in made.boxes}, {"softest", "softer"})
        self.assertEqual(made.sharpest, "lower left")
        self.assertAlmostEqual(made.sharp, 15 / 81)
        nothing = softness_map([[None, None]], 64, 2.0)
        self.assertEqual((nothing.sharpest, nothing.told), ("", 0.0))

    def test_the_line_of_where_focus_fell(self) -> None:
        marks = [("A", "holds", 1300.0), ("B", "soft", float("inf"))]
        line = fell_line(marks, 2600.0, (1300.0, 1400.0, 1500.0), "m", 24, 576)
        self.assertTrue(line.knows)
        self.assertLess(line.bar, line.fell)
        self.assertLess(line.fell, line.meant)
        self.assertLess(line.marks[0].x, line.marks[1].x)
        self.assertFalse(fell_line(marks, 2600.0, None, "m", 24, 576).knows)
