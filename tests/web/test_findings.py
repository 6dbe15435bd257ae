"""What tests found of a lens corrects every plan with it, and is switched off with one tap."""

from __future__ import annotations

import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.http import QueryDict

from optics.lens.kit import Fault
from tests.web.test_bag import LENS, BagTest
from web.bag import counted, findings
from web.bag.files import written
from web.bag.models import Closing, Lens
from web.demo.world import load
from web.hand.asker import ANYBODY, Asker
from web.hand.in_use import in_use
from web.people.models import Owner
from web.sky.forms import read_sky
from web.street.forms import read_street
from web.view.forms import read_scene

NAME = "A lens of mine"


def finding(rows: list[list[float]], **more: Any) -> dict[str, Any]:
    """A finding as it is kept."""
    usual = {
        "key": "0a1b2c3d", "kind": "shift", "on": "2026-11-20", "focal_length_mm": 35.0,
        "distance_mm": 500.0, "body": "", "used": True, "rows": rows,
    }  # fmt: skip
    return {**usual, **more}


ROWS = [[1.4, 0.0, 0.0005], [2.8, 0.018, 0.001], [5.6, 0.024, 0.0012]]


class FindingsTest(BagTest):
    owner: Owner
    lens: Lens

    def setUp(self) -> None:
        super().setUp()
        self.owner = load()
        self.lens = Lens.objects.create(
            owner=self.owner, name=NAME, shortest_mm=35, longest_mm=35, widest=1.4, smallest=16,
            findings=[finding(ROWS)],
        )  # fmt: skip

    def who(self) -> Asker:
        return Asker(in_use=lambda texts: in_use(self.owner, texts))

    def link(self, **changes: str) -> QueryDict:
        query = QueryDict(mutable=True)
        texts = {"lens": NAME, "focal_length_mm": "35", "f_number": "2.8", "circle_mm": "0.02"}
        query.update({**texts, "camera_height": "", "tilt_deg": "", **changes})
        for distance in ("2 m", "4 m"):
            query.appendlist("mark_distance", distance)
        return query

    def test_every_planner_computes_with_them_by_the_kit_alone(self) -> None:
        for setup in (
            read_scene(self.link(), who=self.who()).setup,
            read_street(self.link(like="3 m"), who=self.who()).setup,
            read_sky(self.link(star_px="3"), who=self.who()).sky.setup,
        ):
            self.assertEqual(setup.focus_shift, 0.018)
        kit = read_scene(self.link(), who=self.who()).hand.kit
        self.assertAlmostEqual(kit.at(4.0).focus_shift, 0.021, delta=0.0005)
        self.assertEqual(kit.at(16.0).focus_shift, 0.024)

    def test_the_answer_says_so_and_what_it_would_be_without(self) -> None:
        ring = {}
        for ideal in ("", "1"):
            page = self.client.get(f"/view/?{self.link(lens_ideal=ideal).urlencode()}")
            ring[ideal] = page.context["answer"].ring.focus
            tested = page.context["tested"]
            self.assertEqual(tested.counts, not ideal)
            self.assertContains(page, "shift of")
            self.assertContains(page, "0.018 mm")
            self.assertContains(page, "Count them" if ideal else "Leave its tests out")
            ring[f"other{ideal}"] = tested.other.focus
        self.assertNotEqual(ring[""], ring["1"], "the answer is another")
        self.assertEqual(ring["other"], ring["1"])
        self.assertEqual(ring["other1"], ring[""])
        self.assertLess(ring[""], ring["1"], "sharpness falls farther: the ring goes nearer")

    def test_the_way_out_leads_there_and_the_way_back_leads_back(self) -> None:
        page = self.client.get(f"/view/?{self.link().urlencode()}")
        without = self.client.get(f"/view/?{page.context['tested'].link}")
        again = self.client.get(f"/view/?{without.context['tested'].link}")
        self.assertEqual(page.context["reading"].query(), again.context["reading"].query())
        for planner in ("street", "sky"):
            page = self.client.get(f"/{planner}/?{self.link().urlencode()}")
            self.assertContains(page, "Leave its tests out")

    def test_cards_count_them_and_say_so_a_zooms_where_it_was_tested(self) -> None:
        card = self.client.get(f"/cards/lens/{self.lens.pk}/?sheet=over&f_number=2.8")
        self.assertContains(card, "its tests counted")
        asked = card.context["asked"]
        self.assertEqual(asked.setup_of(35.0).focus_shift, 0.018)
        self.assertEqual(asked.setup_of(24.0).focus_shift, 0.0)
        plan = self.client.get(f"/cards/plan/sheet/?{self.link().urlencode()}")
        self.assertContains(plan, "its tests counted")
        without = self.client.get(f"/cards/plan/sheet/?{self.link(lens_ideal='1').urlencode()}")
        self.assertNotContains(without, "its tests counted")

    def test_a_link_says_it_to_those_who_have_not_the_lens(self) -> None:
        mine = read_scene(self.link(), who=self.who())
        sent = QueryDict(mine.query())
        self.assertEqual(sent["lens_faults"], "1.4 0 0,2.8 0.018 0,5.6 0.024 0")
        theirs = read_scene(sent, who=ANYBODY)
        self.assertEqual(theirs.setup, mine.setup)
        for text in ("x", "1 2", "2.8 9 0", "2.8 0 0,2.8 0 0", "2.8 nan 0"):
            bad = read_scene(self.link(lens="Another", lens_faults=text), who=ANYBODY)
            self.assertEqual(bad.setup.focus_shift, 0.0, text)

    def test_what_is_not_used_or_is_no_more_than_chance_does_nothing(self) -> None:
        for kept in (
            [finding(ROWS, used=False)],
            [finding([[1.4, 0.0, 0.001], [2.8, 0.002, 0.001]])],
            [finding(ROWS, focal_length_mm=24.0)],
            [],
        ):
            self.lens.findings = kept
            self.lens.save()
            self.assertEqual(read_scene(self.link(), who=self.who()).setup.focus_shift, 0.0)
        page = self.client.get(f"/view/?{self.link().urlencode()}")
        self.assertNotContains(page, "its tests")

    def test_what_its_focus_does_follows_from_its_tests(self) -> None:
        self.assertEqual(self.lens.closes, Closing.SHIFTS)
        self.lens.findings = [finding([[1.4, 0.0, 0.001], [2.8, 0.001, 0.001]])]
        self.assertEqual(self.lens.closes, Closing.KEEPS)
        self.lens.findings, self.lens.as_it_closes = [], "shifts"
        self.assertEqual(self.lens.closes, Closing.SHIFTS)

    def test_several_are_one_by_their_errors_and_the_odd_one_is_shown(self) -> None:
        alike = [finding([[2.8, value, 0.001]], key=f"{k:08x}")
                 for k, value in enumerate((0.018, 0.019, 0.0185))]  # fmt: skip
        read = findings.read([*alike, finding([[2.8, 0.040, 0.001]], key="ffffffff")])
        odd = counted.odd(read)
        self.assertEqual(odd and odd.key, "ffffffff")
        self.assertIsNone(counted.odd(read[:3]))
        (row,) = counted.combined(read[:3])
        self.assertAlmostEqual(row.found.value, 0.0185, 5)
        self.assertLess(row.found.error, 0.001)
        blur = finding([[2.8, 0.006, 0.001]], kind="blur", key="00000009")
        both = counted.faults(findings.read([finding(ROWS), blur]), 35.0)
        self.assertEqual(both[1], Fault(2.8, 0.006, 0.018))
        self.assertEqual(both[2], Fault(5.6, 0.006, 0.024))

    def test_they_go_along_in_the_bags_file_and_nonsense_is_refused(self) -> None:
        self.put("lens", LENS, findings=json.dumps([finding(ROWS)]))
        owner = self.own(Lens, "35 mm").owner
        data = written(owner)
        lens = next(one for one in data["lenses"] if one["name"] == "35 mm")
        self.assertEqual(lens["findings"], [finding(ROWS)])
        file = SimpleUploadedFile("bag.json", json.dumps(data).encode())
        self.assertNotContains(self.client.post("/bag/import/", {"file": file}), "Refused")
        for wrong in (
            [finding(ROWS, kind="luck")], [finding(ROWS, key="no")], [finding([[2.8, 9.0, 0.1]])],
            [finding([])], [finding(ROWS, on="someday")], [finding(ROWS), finding(ROWS)],
            [{"key": "0a1b2c3d"}], ["text"], [finding(ROWS, used="yes")],
        ):  # fmt: skip
            lens["findings"] = wrong
            file = SimpleUploadedFile("bag.json", json.dumps(data).encode())
            answer = self.client.post("/bag/import/", {"file": file})
            self.assertContains(answer, "findings", status_code=422)

    def test_editing_a_lens_keeps_them(self) -> None:
        self.put("lens", LENS, findings=json.dumps([finding(ROWS)]))
        lens = self.own(Lens, "35 mm")
        page = self.client.get(f"/bag/lens/{lens.pk}/")
        sent = page.context["form"].text_of("findings")
        self.client.post(f"/bag/lens/{lens.pk}/", {**LENS, "name": "Renamed", "findings": sent})
        self.assertEqual(self.own(Lens, "Renamed").findings, [finding(ROWS)])
