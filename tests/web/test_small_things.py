"""Small things that random faults showed nothing would notice."""

from __future__ import annotations

import logging
from functools import partial
from io import StringIO
from unittest import mock

from django.core.management import CommandError, call_command
from django.http import HttpRequest, QueryDict
from django.test import TestCase
from django.urls import ResolverMatch

from optics.base.units import Measures
from tests.web.test_street import link
from web import serving
from web.bag.files import Refused
from web.bag.lens_form import LensForm
from web.bag.models import Body, Lens
from web.bag.readings import clock_text
from web.demo.world import load
from web.hand.asker import Asker, Own
from web.hand.fields import FIELDS, TEXT_LIMIT
from web.hand.in_use import InUse
from web.hand.sensors import body_of
from web.kept import escaped
from web.people import quota
from web.people.models import Owner, Person
from web.running import counters, doctor
from web.running.log import NoLinks
from web.street.forms import read_street
from web.view import field_views
from web.view.forms import read_scene

STRIDER = Asker(own=lambda: Own(Measures(pace=1000.0)), in_use=lambda texts: InUse())


class OwnMeasuresTest(TestCase):
    def test_own_paces_are_ones_own(self) -> None:
        street = read_street(link(near="2 paces"), who=STRIDER).street
        self.assertEqual(street.near, 2000.0)

    def test_a_link_says_own_paces_in_metres_and_all_else_as_typed(self) -> None:
        for typed, linked in (("3 paces", "3 m"), ("9 ft", "9 ft")):
            reading = read_street(link(locked=typed), who=STRIDER)
            self.assertEqual(QueryDict(reading.query())["locked"], linked)
        wrong = read_street(link(locked="3 paces and soon"), who=STRIDER)
        self.assertEqual(QueryDict(wrong.query())["locked"], "3 paces and soon")


class FrontTest(TestCase):
    def linked(self, how: str) -> QueryDict:
        owner = load()
        lens = owner.lenss.get(name="28 mm f/2.8 with tab")
        lens.front_mm = 95.0
        said = {"lens": lens.name, "mark_distance": "2 m", "mark_name": "Post", "mark_how": how}
        query = QueryDict(mutable=True)
        query.update(said)
        reading = read_scene(query, who=Asker(in_use=lambda texts: InUse(lens)))
        return QueryDict(reading.query())

    def test_the_link_says_where_the_front_is_if_it_was_measured_from(self) -> None:
        self.assertEqual(self.linked("front")["lens_front"], "95 mm")
        self.assertNotIn("lens_front", self.linked("straight"))


class LimitsTest(TestCase):
    def test_a_guest_has_less_room_than_an_account(self) -> None:
        self.assertLess(quota.OF_A_GUEST, quota.OF_AN_ACCOUNT)
        guest = Owner.objects.create()
        person = Owner.objects.create(person=Person.objects.create_user("Iven", password="x y z"))
        there = Body.objects.all()
        quota.check(person, there, "things", quota.OF_A_GUEST + 1)
        with self.assertRaisesMessage(quota.Full, "make an account"):
            quota.check(guest, there, "things", quota.OF_A_GUEST + 1)
        with self.assertRaises(quota.Full) as refused:
            quota.check(person, there, "things", quota.OF_AN_ACCOUNT + 1)
        self.assertNotIn("account", refused.exception.sentence)

    def test_a_lens_is_named_in_eighty_letters(self) -> None:
        self.assertEqual(TEXT_LIMIT, 80)
        self.assertEqual(FIELDS["lens"].clean("l" * 80), "l" * 80)
        page = self.client.get("/view/", {"lens": "l" * 81})
        self.assertContains(page, "Keep the lens&#x27;s name to 80 letters.")

    def test_an_unknown_way_is_said(self) -> None:
        page = self.client.get("/view/", {"place": "nowhere"})
        self.assertContains(page, "That way of placing focus is not known.")

    def test_the_server_takes_any_address(self) -> None:
        self.assertEqual(serving.limit_request_line, 0)

    def test_measures_are_held_to_the_same_limits_by_form_and_file(self) -> None:
        owner = load()
        for name, right, wrong in (
            ("arm_mm", 1200, 1201), ("pace_mm", 300, 299), ("eye_height_mm", 2500, 2501),
            ("judgement_error", 1, 1.01),
        ):  # fmt: skip
            for value, fits in ((right, True), (wrong, False)):
                with self.subTest(name=name, value=value):
                    self.assertEqual(self.takes(owner, name, value), fits)

    def takes(self, owner: Owner, name: str, value: float) -> bool:
        from web.bag.files import Refused, _measures

        try:
            _measures({name: value}, owner)
        except Refused:
            return False
        return True


class LogTest(TestCase):
    def said(self, match: ResolverMatch | None) -> str:
        request = HttpRequest()
        request.resolver_match = match  # type: ignore[assignment]
        record = logging.LogRecord("x", logging.ERROR, "", 1, "/view/?note=secret", (), None)
        record.request = request
        NoLinks().filter(record)
        return record.getMessage()

    def test_what_broke_is_named_by_its_view(self) -> None:
        match = ResolverMatch(lambda: None, (), {}, url_name="page", app_names=["view"],
                              namespaces=["view"])  # fmt: skip
        self.assertIn("broke: view:page", self.said(match))
        self.assertIn("no address of ours", self.said(None))
        self.assertNotIn("secret", self.said(match))


class SaidTest(TestCase):
    def test_noon_is_twelve(self) -> None:
        said = [clock_text(hours) for hours in (0.0, 12.0, 4.133, 11.999)]
        self.assertEqual(said, ["12:00", "12:00", "4:08", "12:00"])

    def test_what_is_refused_says_where(self) -> None:
        self.assertEqual(str(Refused("lenses[0]", "No name.")), "lenses[0]: No name.")
        self.assertEqual(str(Refused("", "No bag.")), "No bag.")

    def test_a_reading_of_the_marks_does_not_stop_the_ring_from_being_drawn(self) -> None:
        typed = {"shortest_mm": "35", "read_f_number": "8", "pupil_to_sensor_mm": "60"}
        page = self.client.post("/bag/lens/preview/", typed)
        self.assertContains(page, "ring-picture")
        self.assertNotContains(self.client.post("/bag/lens/preview/", {"widest": "2"}), "<svg")

    def test_a_length_is_shown_to_four_figures(self) -> None:
        owner = load()
        lens = owner.lenss.first()
        lens.closest_mm = 312.345
        self.assertEqual(LensForm(instance=lens, owner=owner).text_of("closest_mm"), "0.3123 m")

    def test_of_bodies_alike_the_one_chosen_and_else_the_first(self) -> None:
        bodies = [Body(pk=key, format="full-frame", pixels_across=6000) for key in (7, 8)]
        texts = {"format": "full-frame", "pixels_across": "6000"}
        for chosen, found in ((8, 8), (7, 7), (99, 7)):
            self.assertEqual(body_of(bodies, texts, partial(int, chosen)).pk, found)

    def test_every_answer_is_counted_in_its_class(self) -> None:
        before = list(counters._times)
        counters.counted(200, 0.3)
        after = list(counters._times)
        self.assertEqual([b - a for a, b in zip(before, after, strict=True)].index(1), 3)

    def test_a_sound_installation_is_told_to_be(self) -> None:
        fine = [doctor.Finding("All"), doctor.Finding("This", note="a note")]
        with mock.patch("web.running.management.commands.doctor.findings", return_value=fine):
            call_command("doctor", stdout=StringIO())
        broken = [*fine, doctor.Finding("That", "It is not.")]
        with (
            mock.patch("web.running.management.commands.doctor.findings", return_value=broken),
            self.assertRaises((SystemExit, CommandError)),
        ):
            call_command("doctor", stdout=StringIO(), stderr=StringIO())

    def test_what_escapes_is_in_the_log_with_where_it_was(self) -> None:
        with self.assertLogs("aim.escaped", logging.WARNING) as logged:
            escaped.sentence_of(ValueError("x"))
        found = logged.records[0].exc_info
        assert found is not None
        self.assertIs(found[0], ValueError)

    def test_the_ring_is_felt_in_the_field_only_with_a_tab_and_a_scale(self) -> None:
        for hours, scale, felt in ((6.0, True, True), (None, True, False), (6.0, False, False)):
            lens = Lens(name="L", tab_at_infinity_hours=hours, has_scale=scale)
            self.assertEqual(field_views._is_felt(mock.Mock(lens=lens)), felt)
