"""The bag as a file: there and back to the letter, and what is refused, with its place."""

from __future__ import annotations

import copy
import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from tests import examples
from web.bag import files
from web.bag.models import Lens, Standard
from web.demo.world import load
from web.people.models import Owner
from web.people.owners import new_owner
from web.ui.text import cleaned

names = st.text(st.characters(blacklist_categories=("Cs", "Cc")), min_size=1, max_size=20).map(
    lambda text: " ".join(cleaned(text).split()) or "x"
)
positive = st.floats(1, 500)
lenses = st.builds(
    lambda shortest, zoom, widest, close, throw, marks: {
        "shortest_mm": shortest,
        "longest_mm": shortest * zoom,
        "widest": widest,
        "closest_mm": None if close is None else shortest * 4 * close,
        "throw_deg": throw,
        "marks": [[1000.0 * (at + 1), 90.0 - step * at] for at, step in enumerate(marks, 1)]
        if len(marks) > 1 and len(set(marks)) == 1
        else [],
    },
    positive,
    st.sampled_from([1, 1, 1.75]),
    st.floats(0.7, 8),
    st.one_of(st.none(), st.floats(1.01, 20)),
    st.one_of(st.none(), st.floats(1, 720)),
    st.lists(st.just(7.5), max_size=5),
)
standards = st.one_of(
    st.builds(
        lambda w, k: {"way": "print", "print_width_mm": w, "keen": k},
        st.floats(10, 5000),
        st.booleans(),
    ),
    st.builds(lambda c: {"way": "given", "circle_mm": c}, st.floats(0.001, 0.5)),
    st.builds(lambda n: {"way": "screen", "screen_pixels": n}, st.integers(100, 10**5)),
)


class RoundTripTest(TestCase):
    @settings(max_examples=examples(25))
    @given(
        st.dictionaries(names, lenses, max_size=4),
        st.dictionaries(names, standards, min_size=1, max_size=4),
        st.floats(300, 1500),
    )
    def test_written_read_and_written_again_is_the_same(
        self, some: dict[str, Any], ideas: dict[str, Any], pace: float
    ) -> None:
        first, second = Owner.objects.create(pace_mm=pace), Owner.objects.create()
        for name, fields in some.items():
            Lens.objects.create(owner=first, name=name, **fields)
        for name, fields in ideas.items():
            Standard.objects.create(owner=first, name=name, **fields)
        last = Standard.objects.filter(owner=first).last()
        Standard.objects.create(
            owner=first, name="a longer name than all", way="tighter", than=last, stops=1
        )
        text = files.text_of(first)
        found = files.read(text.encode(), second)
        self.assertEqual(Lens.objects.filter(owner=second).count(), 0, "reading takes nothing")
        files.take(found.data, second)
        self.assertEqual(files.text_of(Owner.objects.get(pk=second.pk)), text)
        again = files.read(text.encode(), second)
        self.assertEqual((again.changes, again.same), ((), len(some) + len(ideas) + 1))

    def test_the_sample_bag(self) -> None:
        text = files.text_of(load())
        empty = Owner.objects.create()
        files.take(json.loads(text), empty)
        self.assertEqual(files.text_of(empty), text)


class RefusedTest(TestCase):
    def refused(self, data: Any) -> files.Refused:
        raw = data if isinstance(data, bytes) else json.dumps(data).encode()
        owner = new_owner()
        before = files.text_of(owner)
        with self.assertRaises(files.Refused) as caught:
            files.read(raw, owner)
        self.assertEqual(files.text_of(owner), before)
        return caught.exception

    def test_whole_files(self) -> None:
        text = files.text_of(load()).encode()
        for raw, part in (
            (text[: len(text) // 2], "cut short"),
            (b"\xff\xfe\x00", "cut short"),
            (b"[" * 100_000, "cut short"),
            (b" " * (files.LARGEST + 1), "larger than 1 MB"),
            (b'{"format": NaN}', "cut short"),
        ):
            self.assertIn(part, self.refused(raw).sentence)

    def test_with_their_place(self) -> None:
        good = files.written(load())

        def changed(*path: Any, value: Any) -> Any:
            data = copy.deepcopy(good)
            at = data
            for step in path[:-1]:
                at = at[step]
            at[path[-1]] = value
            return data

        many = [{"name": str(n), "factor": 1} for n in range(600)]
        cases = (
            (["a"], "format", "not a bag"),
            (changed("version", value=2), "version", "Only version 1"),
            (changed("tripods", value=[]), "tripods", "not known"),
            (changed("lenses", value={}), "lenses", "should be a list"),
            (changed("lenses", 0, value=3), "lenses[0]", "an object"),
            (changed("lenses", 0, "weight", value=3), "lenses[0].weight", "not known"),
            (changed("lenses", 1, "name", value=""), "lenses[1].name", "missing"),
            (changed("lenses", 1, "name", value="50 mm f/1.8"), "lenses[3].name", "stands twice"),
            (changed("lenses", 1, "widest", value="2"), "lenses[1].widest", "wrong kind"),
            (changed("lenses", 1, "widest", value=True), "lenses[1].widest", "wrong kind"),
            (changed("lenses", 1, "longest_mm", value=5), "lenses[1].longest_mm", "shorter"),
            (changed("lenses", 1, "marks", value=[[1, 2], [2]]), "lenses[1].marks", "wrong kind"),
            (changed("lenses", 1, "marks", value=[[7, 9], [8, 10], [None, 0]]), "lenses", "grow"),
            (changed("lenses", 1, "depth_marks", value=["8"]), "lenses[1].depth", "wrong kind"),
            (changed("bodies", 0, "format", value="stamp"), "bodies[0].format", "Choose one"),
            (changed("bodies", 0, "pixels_across", value=10**30), "bodies[0]", ""),
            (changed("standards", 0, "than", value="Nobody"), "standards[0].than", "no standard"),
            (changed("measures", "pace_mm", value=5), "measures.pace_mm", "from 300 to 1500"),
            (changed("measures", "shoe", value=5), "measures.shoe", "not known"),
            (changed("measures", value=5), "measures", "an object"),
            (changed("adapters", value=many), "", "500 are the most"),
        )  # fmt: skip
        for data, place, part in cases:
            with self.subTest(place=place, part=part):
                refused = self.refused(data)
                self.assertTrue(refused.place.startswith(place), refused.place)
                self.assertIn(part, str(refused))


class PageTest(TestCase):
    def test_taken_along_and_brought_in_by_another(self) -> None:
        answer = self.client.get("/bag/file/")
        self.assertIn("attachment", answer["Content-Disposition"])
        data = json.loads(answer.content)
        data["lenses"][0]["widest"] = 2.8
        data["lenses"].append({"name": "Own", "shortest_mm": 40, "longest_mm": 40, "widest": 2})
        other = Client()
        upload = SimpleUploadedFile("bag.json", json.dumps(data).encode(), "application/json")
        shown = other.post("/bag/import/", {"file": upload})
        self.assertContains(shown, "a new lens")
        self.assertContains(shown, "<small>widest</small>", html=False)
        self.assertNotContains(other.get("/bag/"), ">Own<")
        taken = other.post("/bag/import/", {"text": json.dumps(data), "take": "1"}, follow=True)
        self.assertContains(taken, ">Own<")
        self.assertNotContains(Client().get("/bag/"), ">Own<")
        again = other.post("/bag/import/", {"text": json.dumps(data)})
        self.assertContains(again, "in the bag already")

    def test_what_is_refused_is_said_and_stays(self) -> None:
        page = self.client.post("/bag/import/", {"text": "{half"})
        self.assertContains(page, "cut short", status_code=422)
        self.assertContains(page, "{half", status_code=422)
        self.assertContains(self.client.post("/bag/import/", {}), "Choose a file", status_code=422)
        huge = SimpleUploadedFile("bag.json", b"0" * 3_000_000)
        answer = self.client.post("/bag/import/", {"file": huge})
        self.assertContains(answer, "larger than 1 MB", status_code=422)
