"""Cards and sheets of what planners keep: one head, one look, by their kinds alone."""

from __future__ import annotations

import csv
import io
import re

import pypdf
from django.test import TestCase

from tests.web.test_printed import facts
from tests.web.walk.pages import read
from web.demo.world import load
from web.kept.models import Kept


class OfKeptTest(TestCase):
    """Plans, sets and nights in one hand: the same head on each, each by its kind alone."""

    def setUp(self) -> None:
        load()

    def test_one_head_on_all_of_them(self) -> None:
        for kept in Kept.objects.all():
            with self.subTest(kept.name):
                page = self.client.get(f"/cards/kept/{kept.pk}/card/").content.decode()
                head = page.split('<p class="card-gear">')[1].split("</p>")[0]
                self.assertIn(kept.lens, head)
                self.assertRegex(
                    head, r" · (stars to|.*circle) \S+ .* · (metres|feet) from the sensor mark"
                )
                self.assertIn(f"<h1>{kept.name}</h1>", page)

    def test_a_plan_has_a_card_and_a_sheet(self) -> None:
        plan = Kept.objects.filter(kind="plan").first()
        assert plan is not None
        sheet = self.client.get(f"/cards/kept/{plan.pk}/sheet/").content.decode()
        self.assertIn(f"/cards/kept/{plan.pk}/card/", sheet)
        card = self.client.get(f"/cards/kept/{plan.pk}/card/").content.decode()
        self.assertEqual(facts(read(sheet))["ring"], facts(read(card))["ring"])
        answer = self.client.get(f"/cards/kept/{plan.pk}/card.pdf")
        found = pypdf.PdfReader(io.BytesIO(answer.content))
        self.assertEqual(len(found.pages), 2)
        self.assertIn("Checks to make", found.pages[1].extract_text())

    def test_addresses_of_earlier_days_lead_on(self) -> None:
        for was, now in (
            ("/sky/card/?star_px=2", "/cards/night/card/?star_px=2"),
            ("/street/card.pdf", "/cards/set/card.pdf"),
            ("/view/sheet/?name=A%20b", "/cards/plan/sheet/?name=A%20b"),
        ):
            with self.subTest(was):
                self.assertRedirects(self.client.get(was), now, 301, fetch_redirect_response=False)
        plan = Kept.objects.filter(kind="plan").first()
        assert plan is not None
        self.assertRedirects(
            self.client.get(f"/view/plan/{plan.pk}/sheet/"), f"/cards/kept/{plan.pk}/sheet/", 301
        )

    def test_what_is_not_there(self) -> None:
        set_ = Kept.objects.filter(kind="set").first()
        assert set_ is not None
        for path in (
            "/cards/kept/99999/card/", f"/cards/kept/{set_.pk}/sheet/", "/cards/night/sheet/",
            "/cards/napkin/card/", "/cards/kept/99999999999999999999/card.pdf",
        ):  # fmt: skip
            with self.subTest(path):
                self.assertEqual(self.client.get(path).status_code, 404)

    def test_its_frames_as_csv_and_json_are_what_is_printed(self) -> None:
        for kept in Kept.objects.all():
            with self.subTest(kept.name):
                found = self.client.get(f"/cards/kept/{kept.pk}/card.json").json()
                self.assertEqual(found["name"], kept.name)
                self.assertEqual(self.client.get(found["link"]).status_code, 200)
                answer = self.client.get(f"/cards/kept/{kept.pk}/card.csv")
                rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
                self.assertEqual(len(rows), len(found["frames"]))
                card = self.client.get(f"/cards/kept/{kept.pk}/card/").content.decode()
                said = facts(read(card))
                rings = {ring for name, held in said.items() if name.startswith("ring")
                         for ring in held}  # fmt: skip
                for row, frame in zip(rows, found["frames"], strict=True):
                    self.assertEqual(row["ring_m"], str(frame["ring_m"]))
                    if found["units"] == "m" and frame["ring_m"] != "inf" and kept.kind != "night":
                        self.assertIn(frame["ring_m"], [_metres(ring) for ring in rings])
                    if "inf" not in (frame["sharp_from_m"], frame["ring_m"]):
                        self.assertLessEqual(frame["sharp_from_m"], frame["ring_m"])


def _metres(ring: str) -> float:
    """What a ring setting says, in metres."""
    value, unit = re.fullmatch(r"([\d.]+)(mm|cm|m|km)", ring).groups()  # type: ignore[union-attr]
    return round(float(value) * {"mm": 0.001, "cm": 0.01, "m": 1.0, "km": 1000.0}[unit], 6)
