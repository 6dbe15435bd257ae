"""The folded panels: what would hold, light and movement, after a trial frame."""

from __future__ import annotations

import itertools
import math
from functools import partial

from django.urls import reverse
from hypothesis.extra.django import TestCase

from optics.scene.answer import Answer, answer
from optics.scene.rescue import Rescue, rescue
from tests.optics import rays
from tests.web.links import HTMX, changed
from tests.web.traced import circles, lowest
from tests.web.walk.pages import read
from web.demo.world import load
from web.hand.asker import Asker
from web.hand.in_use import in_use
from web.people.owners import sample
from web.view import light, trial
from web.view.forms import read_scene
from web.view.reading import Reading
from web.view.trial import Turn


class RescueTest(TestCase):
    def rescued(self, near: str, **changes: str) -> Rescue:
        query = changed(tilt_deg="0", **changes)
        query.setlist("mark_distance", [near, "4.2 m", "40 m", "0.8 m"])
        reading = read_scene(query)
        found = rescue(answer(reading.scene), reading.panels.asked(0.5, None))
        assert found is not None
        return found

    def test_step_back_with_and_without_a_crop_against_walking_back(self) -> None:
        def worst(back: float, crop: float) -> float:
            ends = (900 + back, 40000 + back)
            focus = lowest(
                lambda d: max(circles(24, 11, 0.025, d, end) for end in ends), ends[0], ends[1]
            )
            return crop * max(circles(24, 11, 0.025, focus, end) for end in ends)

        def size(depth: float, back: float) -> float:
            """Of the picture of a thing, the sensor where the ring puts it."""
            ends = (900 + back, 40000 + back)
            focus = lowest(
                lambda d: max(circles(24, 11, 0.025, d, end) for end in ends), ends[0], ends[1]
            )
            sensor = rays.sensor_behind_rear_plane(24, 0, focus)
            return sensor / (depth + back - sensor)

        found = self.rescued("0.9 m", keep="B")
        assert found.as_is.back is not None
        assert found.cropped.back is not None
        walked = next(s for s in range(0, 2000, 2) if worst(s, 1.0) <= 1)
        self.assertAlmostEqual(found.as_is.back, walked, delta=2.5)
        kept = size(4200, 0)
        cropped = next(s for s in range(0, 20000, 5) if worst(s, kept / size(4200, s)) <= 1)
        self.assertAlmostEqual(found.cropped.back, cropped, delta=6)
        self.assertAlmostEqual(
            found.cropped.crop, kept / size(4200, found.cropped.back), delta=0.003
        )

    def test_several_frames_cover_everything_and_take_their_time(self) -> None:
        found = self.rescued("0.6 m", bracket="3", pause="4", overlap="30 %")
        assert found.frames is not None
        assert found.frames.seconds is not None
        frames = found.frames.frames
        self.assertGreater(len(frames), 1)
        self.assertLessEqual(frames[0].near, 600 * 1.001)
        self.assertGreaterEqual(frames[-1].far, 40000 * 0.999)
        for one, other in itertools.pairwise(frames):
            shared = (1 / other.near - 1 / one.far) / (1 / one.near - 1 / one.far)
            self.assertGreater(shared, 0.25, "each holds its share of the next")
        # Half a second, bracketed by a stop: 0.25 + 0.5 + 1 s each time.
        count = len(frames)
        self.assertAlmostEqual(found.frames.seconds, count * 1.75 + (count - 1) * 4)
        self.assertEqual(found.frames.exposures, 3 * count)

    def test_the_print_for_which_it_holds(self) -> None:
        found = self.rescued("0.9 m")
        one = answer(read_scene(changed()).scene)
        self.assertAlmostEqual(found.print_width, one.widest_print / found.worst, 3)

    def test_what_the_panel_says(self) -> None:
        query = changed(bracket="many", overlap="200 %")
        query.setlist("mark_distance", ["0.9 m", "4.2 m", "180 m", "0.8 m"])
        headers = {**HTMX, "Aim-Unfolded": "fold-rescue"}
        page = self.client.get("/view/", query, headers=headers)
        for part in ("At A the blur is", "back does it", "Cropped so that A", "nearest first",
                     "a print up to", "frames a stop apart", "0 to 90 %"):  # fmt: skip
            self.assertContains(page, part)


class LightTest(TestCase):
    def lit(self, **changes: str) -> light.Light:
        query = changed(metered_f="8", metered_time="1/60", **changes)
        if "speed" in changes:
            query.setlist("mark_speed", ["", changes["speed"], "", ""])
        reading = read_scene(query)
        return light.light(answer(reading.scene), reading.panels)

    def test_what_the_aperture_costs(self) -> None:
        found = self.lit(f_number="16", nd="ND64", iso="400")
        # f/8 to f/16 is two stops, ISO 100 to 400 two back, the filter six.
        # 64/60 of a second, and what a dial has.
        self.assertAlmostEqual(found.seconds or 0, 1)
        self.assertAlmostEqual(found.without_filter or 0, 1 / 60)
        self.assertAlmostEqual(found.stops, 2)
        at_time = self.lit(f_number="16", time="1/60")
        self.assertAlmostEqual(at_time.iso_for_time or 0, 400)

    def test_the_first_limit(self) -> None:
        found = self.lit(f_number="11", held="hand", speed="1 m/s", dusk="1")
        assert found.first is not None
        # At 4.2 m a picture is 24/4176 as large, and moves so many mm in a second.
        streak = 24 / (4200 - 24) * 1000
        longest = 0.025 / 1.1686 / streak
        self.assertLessEqual(found.first.longest, longest, "a time of the dial, never too long")
        self.assertGreater(found.first.longest, longest / 2 ** (1 / 3) * 0.98)
        self.assertEqual(found.first.cause, "Winch wheel moves")
        self.assertTrue(found.first.crossed)
        by_cause = {limit.cause: limit for limit in found.limits}
        self.assertAlmostEqual(by_cause["held by hand"].longest, 1 / 25)
        # At the equator the middle drifts f·ω a second; the corner of the frame more.
        self.assertLess(by_cause["stars drift"].longest, 0.025 / 1.1686 / (24 * 7.292e-5))
        self.assertGreaterEqual(by_cause["stars drift"].longest, 6)

    def test_motion_on_the_scale_of_defocus(self) -> None:
        found = self.lit(f_number="11", speed="0.1 m/s").moving[0]
        moved = found.movement
        assert moved is not None
        self.assertAlmostEqual(moved.together, math.hypot(found.circles, moved.streak))
        self.assertAlmostEqual(
            moved.streak, 1.1686 * 24 / (4200 - 24) * 100 * (1 / 30) / 0.025, delta=0.1
        )

    def test_times_that_smear(self) -> None:
        query = changed(metered_f="8", metered_time="1/60", time="1 s")
        query.setlist("mark_role", ["must", "smear", "must", "may_go"])
        query.setlist("mark_speed", ["", "1 m/s", "", ""])
        reading = read_scene(query)
        found = light.light(answer(reading.scene), reading.panels).moving[0].movement
        assert found is not None
        assert found.smears is not None
        streak = 24 / (4200 - 24) * 1000
        self.assertGreaterEqual(found.smears.shortest * streak, 0.02 * 24)
        self.assertLess(found.smears.shortest * streak, 0.02 * 24 * 1.3)
        self.assertTrue(found.as_a_smear)
        self.assertLess(found.smears.shortest, found.smears.longest)
        headers = {**HTMX, "Aim-Unfolded": "fold-light"}
        self.assertContains(self.client.get("/view/", query, headers=headers), "smears from")

    def test_bad_input(self) -> None:
        for name, text, message in (
            ("metered_f", "0", "such as 8"),
            ("metered_time", "soon", "1/125"),
            ("nd", "ND", "ND1000"),
            ("nd", "40 stops", "ND1000"),
            ("iso", "-3", "an ISO from"),
            ("steady", "20", "0 to 10 stops"),
            ("box", "0", "0.2 to 100 %"),
            ("slope_deg", "80", "−60 to 60"),
            ("look", "odd", "look is not known"),
            ("choose", "odd", "not known"),
        ):
            with self.subTest(name=name, text=text):
                page = self.client.get("/view/", changed(**{name: text}))
                self.assertContains(page, message)
                if name not in ("look", "choose"):
                    self.assertContains(page, f'value="{text}"')


class AfterTrialTest(TestCase):
    def setUp(self) -> None:
        load()
        self.owner = sample()
        self.who = Asker(in_use=partial(in_use, self.owner))

    def trial(self, **changes: str) -> tuple[Reading, Answer]:
        reading = read_scene(changed(**changes), who=self.who)
        return reading, answer(reading.scene)

    def turn(self, **changes: str) -> Turn:
        reading, found = self.trial(**changes)
        trials, by = reading.trials, reading.panels.focus_by
        return trial.turn_from(trials[-1], found, reading.in_use, by)

    def test_a_soft_slab_turns_the_ring_nearer_and_says_which_way(self) -> None:
        reading, found = self.trial(trials="2.6 m f/11 soft A sharp C", focus_by="scale")
        self.assertLess(found.ring.focus, 2600)
        self.assertTrue(found.inside_window, "what the frame shows is the answer")
        assert reading.learnt is not None
        self.assertLess(reading.learnt.revised[0].now, 1300)
        self.assertEqual(reading.learnt.revised[0].letter, "A")
        self.assertLess(reading.learnt.ring_off, 0)
        turn = self.turn(trials="2.6 m f/11 soft A sharp C", focus_by="scale")
        self.assertEqual((turn.way, turn.direction), (1, "anticlockwise"))

    def test_a_soft_ridge_turns_it_farther(self) -> None:
        turn = self.turn(trials="2.2 m f/11 soft C sharp A", focus_by="scale")
        self.assertEqual((turn.way, turn.direction), (-1, "clockwise"))

    def test_frames_add_up(self) -> None:
        """Each rules out more: a second soft frame at the new ring turns it on."""
        once = self.trial(trials="2.6 m f/11 soft A", focus_by="scale")[1].ring.focus
        twice = self.trial(trials="2.6 m f/11 soft A; 2.1 m f/11 soft A", focus_by="scale")[1]
        settled = self.trial(trials="2.6 m f/11 soft A; 2.1 m f/11 sharp AC", focus_by="scale")[1]
        self.assertLess(twice.ring.focus, once)
        self.assertAlmostEqual(settled.ring.focus, once, delta=100)
        self.assertEqual(settled.failing, ())

    def test_the_window_is_where_the_ring_reads(self) -> None:
        """The answer's window, put through the fault found, is where the marks hold truly."""
        reading, found = self.trial(trials="2.6 m f/11 soft A sharp C", focus_by="scale")
        assert reading.learnt is not None
        assert found.window is not None
        f, off = 24.0, reading.learnt.ring_off
        for read_at in (found.window.near, found.window.far):
            behind = f * read_at / (read_at - f)  # a thin lens, close enough at these distances
            really = 1 / (1 / f - 1 / (behind + off))
            for mark in reading.scene.must:
                blur = f * f / 11 * abs(1 / (really - f) - 1 / max(mark.depth, 1)) / 1.0
                self.assertLess(blur, 0.025 * 1.1, (read_at, mark.letter))

    def test_an_older_link_said_the_letters_only(self) -> None:
        reading, _ = self.trial(trial_soft="A", focus_by="scale", ring="2.4 m")
        self.assertEqual(reading.texts["trials"], "2.4 m f/11 soft A")
        self.assertNotIn("trial_soft", reading.query())
        again, _ = self.trial(trials="2.4 m f/11 soft A", focus_by="scale")
        self.assertEqual(reading.learnt, again.learnt)

    def test_what_the_doubts_cannot_explain(self) -> None:
        wrong = {"trials": "2.6 m f/11 soft B", "focus_by": "magnified"}
        reading, found = self.trial(**wrong)
        assert reading.learnt is not None
        self.assertFalse(reading.learnt.explained)
        self.assertEqual(found.ring.focus, self.trial()[1].ring.focus)
        headers = {**HTMX, "Aim-Unfolded": "fold-trial"}
        page = self.client.get("/view/", changed(**wrong), headers=headers)
        self.assertContains(page, "Look for something else")
        self.assertContains(page, "cannot be explained")
        self.assertIsNone(self.trial()[0].learnt)

    def test_what_is_no_frame_says_how_to_write_one(self) -> None:
        for text in ("soft A", "2.6 m", "2.6 m f/11 blurred A", "2.6 m f/0.1 soft A",
                     "x f/8 soft A", "0.01 m f/8 soft A", ";".join(["2 m f/11"] * 6)):  # fmt: skip
            reading, _ = self.trial(trials=text)
            self.assertIn("trials", reading.errors, text)
            self.assertEqual(reading.texts["trials"], text)

    def test_taps_write_the_frames(self) -> None:
        """The first tap writes down the ring and aperture that the frame was taken at; the answer
        follows, the frame does not. Once more takes it back."""

        def tap(trials: str, frame: str, letter: str, came: str) -> str:
            link = changed(trials=trials, focus_by="scale")
            link |= {"at_frame": frame, "letter": letter, "came": came}
            found = self.client.get("/view/", link, headers=HTMX)
            field = read(found.content.decode()).one(id="trials")
            assert field is not None
            return field.attrs["value"]

        once = tap("", "0", "A", "soft")
        self.assertEqual(once, "2.6 m f/11 soft A")
        self.assertEqual(tap(once, "0", "C", "sharp"), "2.6 m f/11 soft A sharp C")
        self.assertEqual(tap(once, "0", "A", "sharp"), "2.6 m f/11 sharp A")
        self.assertEqual(tap(once, "0", "A", "soft"), "2.6 m f/11")
        self.assertEqual(tap(once, "1", "", ""), "2.6 m f/11 soft A; 2 m f/11")
        for frame, letter in (("x", "A"), ("-1", "A"), ("99999", "1"), ("0", "<")):
            self.assertIn("f/11", tap(once, frame, letter, "soft"))

    def test_kept_with_the_lens_it_counts_everywhere_and_can_be_taken_back(self) -> None:
        lens = {"focus_by": "scale", "trials": "2.6 m f/11 soft A sharp C"}
        headers = {**HTMX, "Aim-Unfolded": "fold-trial"}
        page = self.client.get("/view/", changed(**lens), headers=headers)
        keep = read(page.content.decode()).one(name="ring_off_mm")
        assert keep is not None
        before = self.client.get("/view/", changed())
        posted = {
            "state": changed().urlencode(),
            "next": "/view/",
            "ring_off_mm": keep.attrs["value"],
        }
        self.client.post(reverse("hand:ring_off"), posted)
        after = self.client.get("/view/", changed())
        self.assertContains(after, "beyond what its ring reads")
        self.assertNotEqual(before.context["answer"].ring.focus, after.context["answer"].ring.focus)
        self.assertIn("lens_off", after.context["reading"].query())
        for text in ("x", "1e9", "nan", ""):
            gone = self.client.post(reverse("hand:ring_off"), {**posted, "ring_off_mm": text})
            self.assertEqual(gone.status_code, 302)
        back = self.client.get("/view/", changed())
        self.assertEqual(back.context["answer"].ring.focus, before.context["answer"].ring.focus)
