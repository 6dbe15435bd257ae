"""Small answers that random faults showed nothing would notice."""

from __future__ import annotations

import itertools
import math
import threading
from functools import partial
from io import StringIO
from pathlib import Path
from unittest import mock

from django.core.exceptions import ValidationError
from django.core.management import call_command
from django.http import QueryDict
from django.test import TestCase, override_settings

from optics.base import units
from optics.base.systems import METRES
from optics.lens.focus_window import Window
from tests.web.test_street import answered, link
from web.bag import touch, usecases
from web.bag.files import LARGEST, Refused
from web.bag.files import read as read_bag
from web.bag.handing import move
from web.bag.lens_form import LensForm
from web.bag.models import Attachment, Lens, RingKind, Standard
from web.demo.world import load
from web.hand import panel
from web.hand.fields import FIELDS
from web.hand.in_use import InUse
from web.people import mailing
from web.people.guests import COOKIE
from web.people.models import Owner
from web.running import doctor, store
from web.sky.forms import read_sky
from web.street.card import _line
from web.street.forms import read_street
from web.street.marks import bar_circle
from web.view.forms import read_scene, scene_query
from web.view.kind import KIND as PLAN
from web.view.kind import _answer
from web.view.sample import GEAR
from web.view.sheet import _columns


class BagTest(TestCase):
    def test_a_name_that_somebody_else_has_is_free(self) -> None:
        guest, other, owner = (Owner.objects.create() for _ in range(3))
        for each in (guest, other):
            Attachment.objects.create(owner=each, name="Half again", factor=1.5)
        move(guest, owner)
        self.assertEqual([one.name for one in owner.attachments.all()], ["Half again"])
        again = Owner.objects.create()
        Attachment.objects.create(owner=again, name="Half again", factor=1.5)
        move(again, owner)
        self.assertEqual(
            sorted(one.name for one in owner.attachments.all()), ["Half again", "Half again (2)"]
        )

    def test_a_long_name_that_is_taken_keeps_to_sixty_letters(self) -> None:
        owner, name = Owner.objects.create(), "n" * 60
        for _ in range(2):
            guest = Owner.objects.create()
            Attachment.objects.create(owner=guest, name=name, factor=1.5)
            move(guest, owner)
        names = {one.name for one in owner.attachments.all()}
        self.assertEqual(names, {name, "n" * 54 + " (2)"})

    def test_how_far_a_pupil_stands_from_the_sensor_is_a_hiatus(self) -> None:
        typed = {"name": "L", "shortest_mm": "50", "widest": "2", "to_infinity": "1",
                 "ring_kind": "stops"}  # fmt: skip
        for ratio, stands, hiatus in (("", "60", 10.0), ("1.25", "65", 5.0), ("0.5", "-", None)):
            said = {**typed, "pupil_ratio": ratio, "pupil_to_sensor_mm": stands}
            form = LensForm(said, owner=load(), apart=True)
            self.assertEqual(form.is_valid(), hiatus is not None, form.errors)
            if hiatus is not None:
                self.assertEqual(form.cleaned_data["hiatus_mm"], hiatus)

    def test_a_zoom_is_worked_out_at_what_is_said_of_it(self) -> None:
        field = FIELDS["focal_length_mm"]
        for typed, at in (("20-35", 20.0), ("20-35 at 28", 28.0), ("20-35 at 35", 35.0)):
            self.assertEqual(field.clean(typed), at)
        for typed in ("20-35 at 36", "35-20", "20-35 at 19"):
            with self.assertRaises(ValidationError):
                field.clean(typed)

    def test_what_has_its_name_now_keeps_the_samples_out(self) -> None:
        sample = load()
        original = sample.lenss.first()
        owner = Owner.objects.create()
        said = {"shortest_mm": 35, "longest_mm": 35, "widest": 2, "owner": owner}
        Lens.objects.create(name="A", copied_from=original.pk, **said)
        Lens.objects.create(name="B", copied_from=original.pk, **said)
        usecases.start_empty(owner)
        self.assertFalse(Lens.objects.filter(owner=owner).exists())
        mine = Lens.objects.create(name="A", **said)
        usecases.fill_again(owner)
        self.assertEqual({one.name for one in Lens.objects.filter(owner=owner)}, {"A", "B"})
        self.assertEqual(Lens.objects.get(owner=owner, name="A").pk, mine.pk)

    def test_a_ring_without_a_tab_is_felt_at_infinity(self) -> None:
        lens = Lens(name="L", shortest_mm=35, longest_mm=35, widest=2, closest_mm=350,
                    throw_deg=90, ring_kind=RingKind.ENDLESS)  # fmt: skip
        everywhere = Window(1.0, float("inf"))
        said = touch.labels(lens, [touch.Wanted(float("inf"), everywhere)], "m")
        self.assertEqual(said, ("at infinity",))

    def test_the_largest_bag_is_read_and_no_larger(self) -> None:
        owner = load()
        with self.assertRaises(Refused) as fits:
            read_bag(b" " * LARGEST, owner)
        self.assertNotIn("larger", fits.exception.sentence)
        with self.assertRaises(Refused) as beyond:
            read_bag(b" " * (LARGEST + 1), owner)
        self.assertIn("larger", beyond.exception.sentence)

    def test_a_new_standard_is_for_an_ordinary_eye(self) -> None:
        self.assertFalse(Standard().keen)

    def test_how_far_a_ring_is_off_is_said_of_a_lens_alone(self) -> None:
        lens = Lens(name="L", shortest_mm=35, longest_mm=35, widest=2, ring_off_mm=0.2)
        hand = mock.Mock(spec=panel.Hand, in_use=InUse(lens))
        self.assertEqual(panel.Hand.ring_off.fget(hand), 0.2)  # type: ignore[attr-defined]
        hand.in_use = InUse()
        self.assertEqual(panel.Hand.ring_off.fget(hand), 0.0)  # type: ignore[attr-defined]

    def test_under_a_zoom_as_typed_no_lens_is_in_hand(self) -> None:
        query = link(focal_length_mm="20-35", lens="28 mm f/2.8 with tab")
        self.assertEqual(read_street(query).texts["lens"], "")


class RunningTest(TestCase):
    def test_mail_beside_the_answer_is_sent(self) -> None:
        sent = threading.Event()
        with override_settings(MAIL_BESIDE=True):
            mailing.sent(sent.set)
        self.assertTrue(sent.wait(5))

    def test_a_backup_says_what_it_wrote(self) -> None:
        said = StringIO()
        with mock.patch("web.running.copies.back_up", return_value=123):
            call_command("backup", "there.tar", stdout=said)
        self.assertIn("Wrote there.tar, 123 bytes.", said.getvalue())

    def test_the_doctor_knows_no_room_where_there_is_no_file(self) -> None:
        for file in (None, Path("/nowhere/at/all/aim.sqlite3")):
            with mock.patch.object(store, "path", return_value=file):
                self.assertEqual(doctor._room(), doctor.Finding("Room on the disk"))

    def test_a_guest_who_only_looks_owns_nothing(self) -> None:
        self.client.get("/view/")
        self.assertEqual(self.client.cookies[COOKIE].value.split(".")[1], "l")


class PlannersTest(TestCase):
    def plan(self, name: str) -> int:
        query = scene_query(GEAR, [("Post", "2 m", "must")])
        there = self.client.post("/view/save/", {"name": name, "state": query.urlencode()})
        return int(there["Location"].rstrip("/").rpartition("/")[2])

    def test_from_plan_to_plan_in_the_field(self) -> None:
        load()
        keys = [self.plan(name) for name in ("First", "Second", "Third")]
        listed = [(self.client.get(f"/view/plan/{key}/field/").context, key) for key in keys]
        at = {context["place"]: (context, key) for context, key in listed}
        for (here, (context, key)), (there, (after, next_key)) in itertools.pairwise(
            sorted(at.items(), key=lambda one: one[0])
        ):
            self.assertEqual(there, here + 1)
            self.assertIn(f"/{next_key}/", context["after"])
            self.assertIn(f"/{key}/", after["before"])
        first = min(at)
        self.assertEqual(bool(at[first][0]["before"]), first > 1)

    def test_a_frame_among_several_has_a_number(self) -> None:
        one = scene_query(GEAR, [("Post", "2 m", "must")])
        several = scene_query(
            {**GEAR, "place": "frames", "f_number": "4"},
            [("Post", "0.6 m", "must"), ("Ridge", "inf", "must")],
        )
        names = [
            [shot.name for shot in PLAN.shots(_answer(read_scene(query)))]
            for query in (one, several)
        ]
        self.assertEqual(names[0], [""])
        self.assertGreater(len(names[1]), 1)
        self.assertEqual(names[1][:2], ["Frame 1", "Frame 2"])

    def test_many_marks_stand_in_two_columns(self) -> None:
        marks = [{"letter": str(at)} for at in range(11)]
        self.assertEqual([len(one) for one in _columns(marks[:10])], [10])
        self.assertEqual([len(one) for one in _columns(marks)], [6, 5])

    def test_positions_between_marks_are_not_said_to_stand_on_them(self) -> None:
        found = set()
        for number in ("2.8", "4", "5.6", "8"):
            for near in ("1.1 m", "1.3 m", "0.93 m", "1.7 m"):
                answer = answered(near=near, far="9 m", f_number=number, count="3")
                on_marks = all(d in METRES.ring or math.isinf(d) for d in answer.focuses)
                self.assertEqual(answer.engraved, on_marks, (near, number))
                found.add(answer.engraved)
        self.assertEqual(found, {True, False})

    def test_the_card_draws_what_each_position_holds(self) -> None:
        answer = answered()
        drawn = _line(answer)
        assert drawn is not None
        self.assertEqual(len(drawn.rows), len(answer.positions))

    def test_what_is_said_rightly_is_no_longer_wrong(self) -> None:
        reading = read_street(link(near="soon", far="later"))
        self.assertEqual(set(reading.errors), {"near", "far"})
        self.assertEqual(set(reading.saying({"near": "1 m"}).errors), {"far"})

    def test_one_reading_of_a_bar_in_either_order_of_units(self) -> None:
        length = partial(units.parse, system="ft")
        wanted = bar_circle("f/8 at 6 ft: 4 ft to 12 ft", 35.0, length)
        self.assertAlmostEqual(bar_circle("f/8 at 6 ft: 4 to 12 ft", 35.0, length), wanted)
        for far in ("inf", "infinity"):
            circle = bar_circle(f"f/8 at 3 m: 1.5 to {far}", 35.0, units.parse)
            self.assertAlmostEqual(
                circle, bar_circle("f/8 at 3 m: 1.5 m to inf", 35.0, units.parse)
            )
        metric = bar_circle("f/8 at 2 m: 130 to 400 cm", 35.0, units.parse)
        self.assertAlmostEqual(metric, bar_circle("f/8 at 2 m: 1.3 m to 4 m", 35.0, units.parse))

    def test_a_night_with_its_ring_by_hand(self) -> None:
        night = read_sky(QueryDict("lens=&focal_length_mm=16&f_number=2"))
        set_by_hand = night.with_ring(9000.0)
        self.assertEqual((set_by_hand.sky.ring, set_by_hand.texts["ring"]), (9000.0, "9 m"))

    def test_the_ways_of_a_routine_are_numbered_from_one(self) -> None:
        load()
        page = self.client.get("/sky/walk/?lens=&focal_length_mm=16&f_number=2")
        numbers = [number for number, _, _ in page.context["ways"]]
        total = len(numbers) + 1
        self.assertLessEqual(set(numbers), set(range(1, total + 1)))
        self.assertEqual(numbers, list(range(2, total + 1)), "the first is the one in hand")

    def test_what_is_in_hand_is_kept_within_what_lenses_are(self) -> None:
        load()
        for typed, kept in (("2999", 2999.0), ("9000", 3000.0), ("0.1", 1.0)):
            state = f"lens=&focal_length_mm={typed}&f_number=8"
            self.client.post("/bag/in-hand/", {"state": state})
            in_hand = Owner.objects.exclude(is_sample=True).get().in_hand
            self.assertEqual(in_hand.focal_length_mm, kept)
