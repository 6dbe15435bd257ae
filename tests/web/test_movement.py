"""Movement enters the verdict: on the row, in the answer, on the sheet and in the list."""

from __future__ import annotations

import json
import math
import re

from django.http import QueryDict
from django.test import TestCase

from optics.light import dial
from tests.web.links import HTMX
from tests.web.walk.pages import read
from web.demo.world import load
from web.view.forms import scene_query
from web.view.sample import GEAR

METERED = {"metered_f": "11", "metered_time": "1/30", "metered_iso": "100"}


def link(speed: str, role: str = "must", **more: str) -> QueryDict:
    """A heron that crosses at 4 m, metered for f/11."""
    mark = ("Heron", "4 m", role, "ring", "", "", "", "", speed)
    return scene_query({**GEAR, **METERED, **more}, [mark, ("Ridge", "60 m", "must")])


class MovementTest(TestCase):
    def setUp(self) -> None:
        load()

    def page(self, query: QueryDict) -> str:
        answer = self.client.get("/view/", query)
        self.assertEqual(answer.status_code, 200)
        return answer.content.decode()

    def times(self, text: str) -> float:
        found = re.search(r"A smears, ([\d.  ]+) times your standard", text)
        assert found is not None, text[:600]
        return float(re.sub(r"[^\d.]", "", found[1]))

    def test_what_smears_does_not_hold_anywhere(self) -> None:
        for speed in ("0.05 m/s", "0.5 m/s", "300 m/s"):
            with self.subTest(speed):
                query = link(speed)
                page = read(self.page(query))
                (says,) = page.all("div", cls="says")
                row = page.one(id="verdict-0")
                assert row is not None
                metres = float(speed.split()[0])
                # 24 mm at 4 m: the streak, as a disc, in circles of 0.025 mm.
                streak = 1.1686 * 24 / (4000 - 24) * metres * 1000 / 30 / 0.025
                if streak < 1:
                    self.assertIn("holds", row.words)
                    self.assertNotIn("smears", says.words)
                    continue
                self.assertIn("smears", row.words)
                self.assertAlmostEqual(self.times(says.words) / streak, 1, delta=0.07)
                self.assertNotRegex(says.words, r"holds A\b")
                sheet = read(self.client.get("/cards/plan/sheet/", query).content.decode())
                self.assertIn("A smears", sheet.words)
                fact = sheet.one(data_fact="word A")
                assert fact is not None
                self.assertEqual(fact.words, "smears")

    def test_longer_than_mist_still_smears(self) -> None:
        row = read(self.page(link("3 m/s", "smear", nd="10 stops"))).one(id="verdict-0")
        assert row is not None
        self.assertRegex(row.words, "smears$")

    def test_in_the_list(self) -> None:
        state = link("2 m/s").urlencode()
        self.client.post("/view/save/", {"name": "Heron", "state": state})
        self.assertContains(self.client.get("/kept/"), "smears</span>")

    def test_each_mend_mends_it(self) -> None:
        for role, speed, more in (
            ("must", "0.5 m/s", {}),
            ("must", "0.5 m/s", {"nd": "6 stops"}),
            ("must", "0.5 m/s", {"metered_f": "", "metered_time": "", "time": "1/8"}),
            ("smear", "0.5 m/s", {}),
            ("smear", "0.5 m/s", {"time": "1/500"}),
            ("smear", "0.2 m/s", {"nd": "1"}),
        ):
            query = link(speed, role, **more)
            page = read(self.page(query))
            mends = [one for one in page.all("button") if one.attrs.get("x-on:click") == "carryOut"]
            with self.subTest(role=role, speed=speed, more=more):
                self.assertTrue(mends, page.one(id="verdict-0"))
                for one in mends:
                    mended = query.copy()
                    for name, text in json.loads(one.attrs["data-sets"]).items():
                        mended[name] = text
                    row = read(self.page(mended)).one(id="verdict-0")
                    assert row is not None
                    wanted = "smears" if role == "smear" else "holds"
                    self.assertRegex(row.words, rf"(?<!not ){wanted}$", one.words)

    def test_without_a_time_nothing_is_said(self) -> None:
        page = self.page(link("300 m/s", metered_f="", metered_time=""))
        self.assertNotIn("smears", page.split('class="marks"')[0].split("says")[1])

    def test_bars_tell_five_from_five_thousand(self) -> None:
        headers = {**HTMX, "Aim-Unfolded": "fold-light"}
        wide = []
        for speed in ("0.025 m/s", "0.5 m/s", "25 m/s"):
            text = self.client.get("/view/", link(speed), headers=headers).content.decode()
            found = re.search(r'class="of-motion" y="\d+" width="([\d.]+)"', text)
            assert found is not None
            wide.append(float(found[1]))
        tenfold = 104 / 5
        for one, other, times in ((0, 1, 20), (1, 2, 50)):
            off = wide[other] - wide[one] - tenfold * math.log10(times)
            self.assertAlmostEqual(off, 0, delta=0.3)

    def test_its_time_is_one_of_a_dial(self) -> None:
        page = read(self.page(link("0.5 m/s")))
        for one in page.all("button"):
            if one.attrs.get("data-field") == "time":
                texts = [dial.written(time) for time in dial.TIMES]
                self.assertIn(one.attrs["data-text"], texts)
