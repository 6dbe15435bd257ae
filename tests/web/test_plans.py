"""Plans: what was typed comes back as it was typed; a link carries what is not saved yet."""

from __future__ import annotations

from urllib.parse import parse_qs

from django.http import QueryDict
from django.test import TestCase

from tests.web.links import HTMX, changed
from web.kept.models import Kept
from web.view.forms import read_scene, sample_query


class PlansTest(TestCase):
    def save(self, path: str = "/view/save/", **more: str) -> Kept:
        fields = {"name": "Pit", "state": sample_query().urlencode(), **more}
        self.assertEqual(self.client.post(path, fields).status_code, 302)
        return Kept.objects.get(name="Pit")

    def test_saved_text_comes_back_as_typed(self) -> None:
        query = changed(ring="8' 6\"")
        query.setlist("mark_distance", ["4ft", "4,2", "inf", "80 cm"])
        plan = self.save(state=query.urlencode())
        page = self.client.get(f"/view/plan/{plan.pk}/")
        for text in ("4ft", "4,2", "inf", "80 cm", "8&#x27; 6&quot;"):
            self.assertContains(page, f'value="{text}"')
        self.assertContains(page, "saved")

    def test_a_level_camera_stays_level(self) -> None:
        plan = self.save(state=changed(tilt_deg="").urlencode())
        self.assertContains(self.client.get(f"/view/plan/{plan.pk}/"), 'name="tilt_deg" value=""')

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

    def test_the_link_of_a_plan_carries_what_is_not_saved_yet(self) -> None:
        plan = self.save()
        query = changed(f_number="16")
        page = self.client.get(f"/view/plan/{plan.pk}/", query)
        self.assertContains(page, "changed since saved")
        link = self.client.get(f"/view/plan/{plan.pk}/", query, headers=HTMX)["HX-Replace-Url"]
        self.assertTrue(link.startswith(f"/view/plan/{plan.pk}/?"))
        self.assertEqual(parse_qs(link.partition("?")[2])["f_number"], ["16"])
