"""Plans: kept as typed, changed, deleted and put back; and two windows on one."""

from __future__ import annotations

from urllib.parse import parse_qs

from django.db import IntegrityError, transaction
from django.http import QueryDict
from hypothesis.extra.django import TestCase

from tests.web.links import HTMX, changed
from web.demo.world import load
from web.view.forms import read_scene, sample_query
from web.view.models import Plan


class PlansTest(TestCase):
    def save(self, path: str = "/view/save/", **more: str) -> Plan:
        fields = {"name": "Pit", "state": sample_query().urlencode(), **more}
        self.assertEqual(self.client.post(path, fields).status_code, 302)
        return Plan.objects.first()  # type: ignore[return-value]

    def test_saved_text_comes_back_as_typed(self) -> None:
        query = changed(ring="8' 6\"")
        query.setlist("mark_distance", ["4ft", "4,2", "inf", "80 cm"])
        plan = self.save(state=query.urlencode())
        page = self.client.get(f"/view/plan/{plan.pk}/")
        for text in ("4ft", "4,2", "inf", "80 cm", "8&#x27; 6&quot;"):
            self.assertContains(page, f'value="{text}"')
        self.assertContains(page, "saved")

    def test_changing_and_saving_as_new(self) -> None:
        plan = self.save()
        again = self.save(f"/view/plan/{plan.pk}/save/", name="Pit, later")
        count = Plan.objects.count()
        self.assertEqual((again.pk, again.name), (plan.pk, "Pit, later"))
        self.save(f"/view/plan/{plan.pk}/save/", as_new="1")
        self.assertEqual(Plan.objects.count(), count + 1)

    def test_a_plan_is_duplicated_with_its_marks_and_its_note(self) -> None:
        plan = self.save(name="N" * 80, note="Low\r\nwater\x07")
        self.assertEqual(plan.note, "Low\nwater")
        path = f"/view/plan/{plan.pk}/duplicate/"
        self.assertEqual(self.client.get(path).status_code, 405)
        page = self.client.post(path, follow=True)
        copy = Plan.objects.exclude(pk=plan.pk).get(name__endswith=", copy")
        self.assertEqual(copy.name, "N" * 74 + ", copy")
        self.assertEqual((copy.note, copy.marks.count()), (plan.note, plan.marks.count()))
        self.assertContains(page, "Slate slab")
        copy.marks.all().delete()
        self.assertEqual(plan.marks.count(), 4, "the first keeps its own")

    def test_feet_and_back_change_no_length(self) -> None:
        query = changed(camera_height="0.9", moved="0.5", ring="2.6")
        query.setlist("mark_stands", ["", "0.7", "", ""])
        query.setlist("mark_speed", ["", "1.2", "", ""])
        before = read_scene(query)
        after = read_scene(QueryDict(before.in_units("ft").query()))
        self.assertEqual(after.scene.system, "ft")
        self.assertEqual(after.scene.marks, before.scene.marks)
        self.assertEqual(after.scene.camera, before.scene.camera)
        self.assertEqual(after.scene.ring, before.scene.ring)

    def test_the_second_of_two_windows_is_told_and_loses_nothing(self) -> None:
        plan = self.save()
        path = f"/view/plan/{plan.pk}/save/"
        opened = plan.version
        self.assertContains(self.client.get(f"/view/plan/{plan.pk}/"), f'value="{opened}"')
        self.save(path, name="First window", version=opened)
        state = changed(focal_length_mm="31").urlencode()
        late = {"name": "Second window", "state": state, "version": opened}
        told = self.client.post(path, late)
        self.assertContains(told, "saved elsewhere", status_code=409)
        for part in ("Second window", 'value="31"', "changed since saved"):
            self.assertContains(told, part, status_code=409)
        plan.refresh_from_db()
        self.assertEqual((plan.name, plan.focal_length_mm), ("First window", 24))
        self.assertContains(told, f'value="{plan.version}"', status_code=409)
        self.save(path, **late | {"version": plan.version})
        plan.refresh_from_db()
        self.assertEqual((plan.name, plan.focal_length_mm), ("Second window", 31))
        both = self.client.post(path, {**late, "as_new": "1"})
        self.assertEqual(both.status_code, 302, "as new, there is nothing to overwrite")

    def test_a_guests_first_save_of_a_sample_plan_is_not_taken_for_a_second_window(self) -> None:
        plan = load().plans.first()
        fields = {"name": "Mine", "state": changed().urlencode(), "version": plan.version}
        kept = self.client.post(f"/view/plan/{plan.pk}/save/", fields, follow=True)
        self.assertContains(kept, 'value="Mine"')

    def test_what_cannot_be_saved_says_so_and_keeps_it_all(self) -> None:
        for name, state, message in (
            ("", sample_query(), "Give it a name"),
            ("x" * 90, sample_query(), "Keep the name to 80 letters"),
            ("Pit", changed(f_number="0"), "Not saved yet"),
        ):
            with self.subTest(message):
                fields = {"name": name, "state": state.urlencode()}
                page = self.client.post("/view/save/", fields)
                self.assertContains(page, message, status_code=422)
                self.assertContains(page, "Slate slab", status_code=422)
                self.assertContains(page, f'value="{name}"', status_code=422)
        self.assertFalse(Plan.objects.filter(owner__is_sample=False).exists())

    def test_a_deleted_plan_is_gone_and_can_be_put_back(self) -> None:
        plan = self.save()
        gone = self.client.post(f"/view/plan/{plan.pk}/delete/", follow=True)
        self.assertContains(gone, "Deleted “Pit”")
        self.assertNotContains(gone, "<b>Pit</b>")
        self.assertEqual(self.client.get(f"/view/plan/{plan.pk}/").status_code, 404)
        back = self.client.post(f"/view/plan/{plan.pk}/restore/", follow=True)
        self.assertContains(back, "<b>Pit</b>")
        self.assertEqual(self.client.post("/view/plan/999/restore/").status_code, 404)

    def test_the_database_refuses_what_the_form_would(self) -> None:
        good = {
            "owner": load(), "name": "Pit", "format": "full-frame", "focal_length_mm": 24,
            "f_number": 11, "circle_mm": 0.025, "place": "between", "units": "m",
        }  # fmt: skip
        Plan.objects.create(**good)
        bad = {
            "owner": None,
            "name": "",
            "focal_length_mm": 0,
            "f_number": -8,
            "circle_mm": 0,
            "place": "x",
        }
        for name, value in bad.items():
            with self.subTest(name), self.assertRaises(IntegrityError), transaction.atomic():
                Plan.objects.create(**{**good, name: value})

    def test_the_sample_world_is_loaded_once(self) -> None:
        owner = load()
        self.assertEqual(owner.plans.count(), 3)
        owner.plans.update(name="mine")
        self.assertEqual(load(), owner)
        self.assertEqual(owner.plans.count(), 3)
        self.assertContains(self.client.get("/view/plans/"), "<b>mine</b>")

    def test_the_link_of_a_plan_carries_what_is_not_saved_yet(self) -> None:
        plan = self.save()
        query = changed(f_number="16")
        page = self.client.get(f"/view/plan/{plan.pk}/", query)
        self.assertContains(page, "changed since saved")
        link = self.client.get(f"/view/plan/{plan.pk}/", query, headers=HTMX)["HX-Replace-Url"]
        self.assertTrue(link.startswith(f"/view/plan/{plan.pk}/?"))
        self.assertEqual(parse_qs(link.partition("?")[2])["f_number"], ["16"])
