"""What a lens's focus does as its aperture closes: said in the bag, kept, and acted upon."""

from __future__ import annotations

import json

from django.core.files.uploadedfile import SimpleUploadedFile
from django.http import QueryDict

from tests.web.links import changed
from tests.web.test_bag import LENS, BagTest
from tests.web.test_sky import link
from web.bag.files import written
from web.bag.models import Lens
from web.demo.world import load

ZOOM = "20–35 mm f/4 zoom"


class ClosingTest(BagTest):
    def test_said_in_the_form_shown_again_and_not_known_until_then(self) -> None:
        self.put("lens", LENS)
        lens = self.own(Lens, "35 mm")
        self.assertEqual(lens.as_it_closes, "unknown")
        self.client.post(f"/bag/lens/{lens.pk}/", {**LENS, "as_it_closes": "shifts"})
        lens.refresh_from_db()
        self.assertEqual(lens.as_it_closes, "shifts")
        page = self.client.get(f"/bag/lens/{lens.pk}/")
        self.assertContains(page, '<option value="shifts" selected>shifts</option>', html=True)
        self.put("lens", LENS, 422, name="Other", as_it_closes="wobbles")

    def test_it_goes_along_in_a_file_and_nonsense_is_refused(self) -> None:
        self.put("lens", LENS, as_it_closes="keeps")
        data = written(self.own(Lens, "35 mm").owner)
        lens = next(one for one in data["lenses"] if one["name"] == "35 mm")
        self.assertEqual(lens["as_it_closes"], "keeps")
        for value in ("shifts", "wobbles"):
            lens["as_it_closes"] = value
            file = SimpleUploadedFile("bag.json", json.dumps(data).encode())
            answer = self.client.post("/bag/import/", {"file": file})
            with self.subTest(value):
                if value == "wobbles":
                    self.assertContains(answer, "as_it_closes", status_code=422)
                else:
                    self.assertContains(answer, "Take it")

    def test_a_file_without_it_leaves_it_as_it_was(self) -> None:
        self.put("lens", LENS, as_it_closes="shifts")
        owner = self.own(Lens, "35 mm").owner
        data = written(owner)
        for one in data["lenses"]:
            del one["as_it_closes"]
        file = SimpleUploadedFile("bag.json", json.dumps(data).encode())
        self.client.post("/bag/import/", {"file": file, "take": "1"})
        self.assertEqual(Lens.objects.get(owner=owner, name="35 mm").as_it_closes, "shifts")

    def test_view_says_at_which_aperture_to_judge(self) -> None:
        load()
        sentence = "This lens shifts focus as it closes: judge it at the taking aperture."
        query: QueryDict = changed(lens=ZOOM)
        self.assertNotContains(self.client.get("/cards/plan/sheet/", query), sentence)
        Lens.objects.filter(name=ZOOM).update(as_it_closes="shifts")
        self.assertContains(self.client.get("/cards/plan/sheet/", query), sentence)

    def test_wide_open_there_is_nothing_to_shift(self) -> None:
        load()
        page = self.client.get("/sky/", link(f_number="2").dict())
        self.assertContains(page, "Stay at f/2.")
        self.assertNotContains(page, "shifts its focus as it closes")
