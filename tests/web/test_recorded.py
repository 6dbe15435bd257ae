"""Two hundred links to the planners say what they said when they were recorded.

``recorded/links.txt`` has the links, ``recorded/values.json.xz`` what the pages said once what was
printed had been held to what was judged (``test_printed``): every field, every word and number of
the answer with everything unfolded, and a digest of each drawing.

Where an answer is meant to change: ``AIM_RECORD=1 ./aim test tests.web.test_recorded`` prints what
of it does and writes it down anew.
"""

from __future__ import annotations

import difflib
import json
import lzma
import os
from pathlib import Path
from typing import Any

from django.db import connection
from django.test import TestCase, override_settings

from tests import some
from tests.web.recorded.journey import Journey
from tests.web.recorded.reading import read
from web.demo.world import load

RECORDED = Path(__file__).parent / "recorded"


def differences(before: dict[str, Any], now: dict[str, Any]) -> list[str]:
    """What differs, a line each."""
    found = []
    for part in ("fields", "said", "drawings"):
        lines = [list(map(str, what[part])) for what in (before, now)]
        found += [
            f"{part}: {line}"
            for line in difflib.unified_diff(*lines, lineterm="", n=0)
            if line[:3] not in ("---", "+++") and line[:2] != "@@"
        ]
    return found


TABLES = ("bag_body", "bag_lens", "bag_attachment", "bag_standard", "bag_inhand", "kept_kept")


def numbered_from_one() -> None:
    """The pages name things by their keys: count these anew, whatever was tested before."""
    with connection.cursor() as cursor:
        for table in TABLES:
            if connection.vendor == "postgresql":
                cursor.execute(f"ALTER SEQUENCE {table}_id_seq RESTART WITH 1")
            else:
                cursor.execute("DELETE FROM sqlite_sequence WHERE name = %s", [table])


@override_settings(PASSWORD_HASHERS=["django.contrib.auth.hashers.MD5PasswordHasher"])
class JourneyTest(TestCase):
    """Every page and form beside the planners, right and wrong: what it says is what it said."""

    def same(self, part: str) -> None:
        numbered_from_one()
        load()
        journey = Journey()
        getattr(journey, part)()
        steps, file = journey.steps, RECORDED / f"journey-{part}.json.xz"
        if os.environ.get("AIM_RECORD"):
            file.write_bytes(lzma.compress(json.dumps(steps).encode(), preset=9))
        recorded = json.loads(lzma.decompress(file.read_bytes()))
        self.assertEqual(len(recorded), len(steps))
        for (step, before), (now, lines) in zip(recorded, steps, strict=True):
            with self.subTest(step):
                self.assertEqual(now, step)
                if lines is not None:
                    self.assertEqual(lines, before)

    def test_looks(self) -> None:
        self.same("looks")

    def test_bag(self) -> None:
        self.same("bag")

    def test_in_hand(self) -> None:
        self.same("in_hand")

    def test_choices(self) -> None:
        self.same("choices")

    def test_kept(self) -> None:
        self.same("kept")

    def test_account(self) -> None:
        self.same("account")


class RecordedTest(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        numbered_from_one()
        load()

    def test_every_link_says_what_it_said(self) -> None:
        file = RECORDED / "values.json.xz"
        recorded = json.loads(lzma.decompress(file.read_bytes()))
        links = (RECORDED / "links.txt").read_text("utf-8").split("\n")[:-1]
        self.assertEqual(list(recorded), links)
        for at, link in some([*enumerate(links)], 10):
            with self.subTest(at=at, link=link):
                page = self.client.get(link, follow=True)  # addresses of earlier days lead on
                self.assertEqual(page.status_code, 200)
                now = read(page.content.decode())
                found = differences(recorded[link], now)
                if os.environ.get("AIM_RECORD"):
                    print(*found, sep="\n")
                    recorded[link] = now
                else:
                    self.assertEqual(found, [])
        if os.environ.get("AIM_RECORD"):
            file.write_bytes(lzma.compress(json.dumps(recorded).encode(), preset=9))
