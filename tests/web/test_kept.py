"""What planners keep: one contract over every kind there is, and the list of all of it."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta
from typing import Any

from django.db import IntegrityError, connection, transaction
from django.http import QueryDict
from django.test import Client, TestCase
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone

from optics.base import settable
from web.demo.world import load
from web.hand.asker import ANYBODY
from web.kept import keeper
from web.kept.kinds import Kind, kinds, known, register
from web.kept.models import Kept
from web.kept.printed import address, printed
from web.people.models import Owner


class Base(TestCase):
    owner: Owner

    @classmethod
    def setUpTestData(cls) -> None:
        cls.owner = load()

    def each(self) -> Iterator[tuple[Kind, str]]:
        """Every kind, and a link of the sample's of it."""
        for kind in kinds():
            sample = Kept.objects.filter(owner=self.owner, kind=kind.key).first()
            assert sample is not None
            with self.subTest(kind.key):
                yield kind, sample.link

    def save(self, kind: Kind, link: str, key: int | None = None, **more: str) -> Kept:
        fields = {"name": "Pit", "state": link, **more}
        where = "save" if key is None else "save_kept"
        path = reverse(f"{kind.app}:{where}", args=[] if key is None else [key])
        answer = self.client.post(path, fields)
        self.assertEqual(answer.status_code, 302)
        kept = Kept.objects.get(pk=int(answer["Location"].rstrip("/").rpartition("/")[2]))
        self.assertEqual((answer["Location"], kept.kind), (kept.get_absolute_url(), kind.key))
        return kept


class ContractTest(Base):
    def test_there_are_three_and_each_key_is_one(self) -> None:
        self.assertEqual([kind.key for kind in kinds()], ["plan", "set", "night"])
        with self.assertRaises(ValueError):
            register(kinds()[0])
        self.assertIsNone(known("nothing"))

    def test_a_link_is_the_state(self) -> None:
        for kind, link in self.each():
            reading = kind.read(QueryDict(link), ANYBODY)
            self.assertTrue(reading.valid)
            again = kind.read(QueryDict(reading.query()), ANYBODY)
            self.assertEqual(again.query(), reading.query())
            self.assertEqual(kind.shots(kind.answer(again)), kind.shots(kind.answer(reading)))

    def test_an_answer_gives_shots_that_can_be_set(self) -> None:
        for kind, link in self.each():
            request = Client().get(reverse(f"{kind.app}:page")).wsgi_request
            request.owner = self.owner  # type: ignore[attr-defined]
            shots = kind.shots(kind.answer(kind.read(QueryDict(link), kind.asks(request))))
            self.assertTrue(shots)
            for shot in shots:
                self.assertGreater(shot.focus, 0)
                self.assertGreater(shot.f_number, 0)
                self.assertLessEqual(settable.figures_of(shot.focus), settable.FINE)
                self.assertLessEqual(shot.near, shot.focus)
                self.assertGreaterEqual(shot.far, shot.focus)
                self.assertTrue(shot.touch, "the lens in hand has a ring that is known")

    def test_it_opens_where_it_says_and_prints_and_is_drawn_small(self) -> None:
        for kind, link in self.each():
            kept = self.save(kind, link)
            page = self.client.get(kind.opens(kept.pk))
            self.assertContains(page, 'value="Pit"')
            self.assertContains(page, "saved in this browser")
            reading = kind.read(QueryDict(link), ANYBODY)
            self.assertIn("<b>", kind.small(reading))
            how = printed(kind.key)
            for face in () if how is None else how.faces:
                there = address(kind.key, face.key, kept.pk)
                self.assertContains(self.client.get(there), "Pit")

    def test_changed_and_saved_as_new(self) -> None:
        for kind, link in self.each():
            kept = self.save(kind, link, note="Low\r\nwater\x07")
            self.assertEqual(kept.note, "Low\nwater")
            again = self.save(kind, link, kept.pk, name="Pit, later")
            self.assertEqual((again.pk, again.name), (kept.pk, "Pit, later"))
            self.assertEqual(again.note, "Low\nwater", "a form without a note leaves it")
            new = self.save(kind, link, kept.pk, as_new="1")
            self.assertNotEqual(new.pk, kept.pk)

    def test_a_copy_goes_to_the_top_with_its_link_and_its_note(self) -> None:
        for kind, link in self.each():
            kept = self.save(kind, link, name="N" * 80, note="Low")
            path = reverse("kept:duplicate", args=[kept.pk])
            self.assertEqual(self.client.get(path).status_code, 405)
            page = self.client.post(path, follow=True)
            copy = Kept.objects.order_by("-pk").first()
            assert copy is not None
            self.assertContains(page, "N" * 74 + ", copy")
            self.assertEqual((copy.link, copy.note, copy.lens), (kept.link, "Low", kept.lens))
            self.assertEqual(keeper.listed(kept.owner, keeper.Wanted()).first(), copy)

    def test_deleted_it_is_gone_and_can_be_put_back(self) -> None:
        for kind, link in self.each():
            kept = self.save(kind, link)
            gone = self.client.post(reverse("kept:delete", args=[kept.pk]), follow=True)
            self.assertContains(gone, "Deleted “Pit”")
            self.assertNotContains(gone, "<b>Pit</b>")
            self.assertEqual(self.client.get(kind.opens(kept.pk)).status_code, 404)
            back = self.client.post(reverse("kept:restore", args=[kept.pk]), follow=True)
            self.assertContains(back, "<b>Pit</b>")
            self.client.post(reverse("kept:delete", args=[kept.pk]))

    def test_deleted_long_ago_it_goes_for_good(self) -> None:
        kind = kinds()[0]
        old, new = (self.save(kind, "") for _ in range(2))
        keeper.delete(old)
        Kept.with_deleted.filter(pk=old.pk).update(deleted=timezone.now() - timedelta(days=31))
        keeper.delete(new)
        found = set(Kept.with_deleted.values_list("pk", flat=True))
        self.assertNotIn(old.pk, found)
        self.assertIn(new.pk, found)

    def test_the_second_of_two_windows_is_told_and_loses_nothing(self) -> None:
        for kind, link in self.each():
            kept = self.save(kind, link)
            seen = kept.version
            self.assertContains(self.client.get(kind.opens(kept.pk)), f'value="{seen}"')
            self.save(kind, link, kept.pk, name="First window", version=seen)
            other = QueryDict(link, mutable=True)
            other["focal_length_mm"] = "31"
            late = {"name": "Second window", "state": other.urlencode(), "version": seen}
            path = reverse(f"{kind.app}:save_kept", args=[kept.pk])
            told = self.client.post(path, late)
            for said in (f"this {kind.noun} was saved elsewhere", "Second window", 'value="31"',
                         "changed since saved"):  # fmt: skip
                self.assertContains(told, said, status_code=409)
            kept.refresh_from_db()
            self.assertEqual((kept.name, kept.link), ("First window", kept.link))
            self.assertContains(told, f'value="{kept.version}"', status_code=409)
            both = self.client.post(path, {**late, "as_new": "1"})
            self.assertEqual(both.status_code, 302, "as new, there is nothing to overwrite")
            self.save(kind, other.urlencode(), kept.pk, version=kept.version)

    def test_what_cannot_be_saved_says_so_and_keeps_it_all(self) -> None:
        for kind, link in self.each():
            bad = QueryDict(link, mutable=True)
            bad["f_number"] = "0"
            for name, state, message in (
                ("", link, "Give it a name"),
                ("x" * 90, link, "Keep the name to 80 letters"),
                ("Pit", bad.urlencode(), "Not saved yet"),
            ):
                fields = {"name": name, "state": state, "note": "Low"}
                page = self.client.post(reverse(f"{kind.app}:save"), fields)
                self.assertContains(page, message, status_code=422)
                self.assertContains(page, f'value="{name}"', status_code=422)
                self.assertContains(page, kind.read(QueryDict(link), ANYBODY).texts["lens"],
                                    status_code=422)  # fmt: skip
        self.assertFalse(Kept.objects.exclude(owner=self.owner).exists())

    def test_the_samples_is_read_by_guests_and_copied_on_the_first_change(self) -> None:
        for kind, _ in self.each():
            guest = Client()
            sample = Kept.objects.filter(owner=self.owner, kind=kind.key).first()
            assert sample is not None
            before = Kept.objects.filter(owner=self.owner).count()
            self.assertContains(guest.get(kind.opens(sample.pk)), sample.name)
            guest.post(reverse("kept:delete", args=[sample.pk]))
            self.assertEqual(guest.get(kind.opens(sample.pk)).status_code, 404)
            self.assertEqual(Kept.objects.filter(owner=self.owner).count(), before)
            self.assertEqual(Client().get(kind.opens(sample.pk)).status_code, 200)
            mine = {"name": "Mine", "state": sample.link, "version": sample.version}
            path = reverse(f"{kind.app}:save_kept", args=[sample.pk])
            self.assertContains(Client().post(path, mine, follow=True), 'value="Mine"')

    def test_what_is_of_another_kind_or_not_there_is_a_plain_404(self) -> None:
        keys = {}
        for kind, link in self.each():
            keys[kind.key] = self.save(kind, link).pk
        for kind in kinds():
            for other, key in keys.items():
                status = 200 if other == kind.key else 404
                self.assertEqual(self.client.get(kind.opens(key)).status_code, status)
            for key in (10**15, 10**25):
                path = kind.opens(keys[kind.key]).replace(str(keys[kind.key]), str(key))
                self.assertEqual(self.client.get(path).status_code, 404)
        for deed in ("delete", "duplicate", "restore"):
            path = reverse(f"kept:{deed}", args=[10**15])
            self.assertEqual(self.client.post(path).status_code, 404)

    def test_the_list_of_a_kind_of_old_leads_to_the_list(self) -> None:
        for kind, old in zip(
            kinds(), ("/view/plans/", "/street/sets/", "/sky/nights/"), strict=True
        ):
            page = self.client.get(old, follow=True)
            self.assertEqual(page.redirect_chain[0][0], f"/kept/?kind={kind.key}")
            self.assertContains(page, f"<h1>{kind.plural.capitalize()}</h1>")


class ListTest(Base):
    def many(self, count: int, **more: Any) -> None:
        """So many plans of a new guest's."""
        self.save(kinds()[0], "", name="Pit")
        one = Kept.objects.get(name="Pit")
        made = [
            Kept(owner=one.owner, kind="plan", name=f"Plan {at}", link=one.link, **more)
            for at in range(count)
        ]
        for at, kept in enumerate(made):
            kept.changed = one.changed + timedelta(seconds=at + 1)
        Kept.objects.bulk_create(made)

    def test_all_kinds_newest_first_by_kind_by_lens_and_by_name(self) -> None:
        page = self.client.get("/kept/")
        names = [item["kept"].name for item in page.context["items"]]
        self.assertEqual(names[:2], ["Hallin Top", "Sallow Pit, the slab under stars"])
        self.assertEqual(len(names), 8)
        self.assertEqual(len(self.client.get("/kept/?kind=night").context["items"]), 2)
        with_tab = self.client.get("/kept/", {"lens": "28 mm f/2.8 with tab"})
        self.assertEqual(len(with_tab.context["items"]), 4)
        found = self.client.get("/kept/", {"q": "ROW stalls"}).context["items"]
        self.assertEqual([item["kept"].name for item in found], ["Tinder Row, at the stalls"])
        self.assertContains(self.client.get("/kept/?q=nowhere"), "Nothing kept is like that.")
        self.assertContains(self.client.get("/kept/?kind=lens"), "Hallin Top")

    def test_deleting_and_undoing_keep_the_list_as_it_was_narrowed(self) -> None:
        kept = self.save(kinds()[0], "", name="Low water")
        page = self.client.get("/kept/?q=low&kind=plan")
        self.assertContains(page, 'name="back" value="q=low&amp;kind=plan"')
        path = reverse("kept:delete", args=[kept.pk])
        gone = self.client.post(path, {"back": "q=low&kind=plan"})
        self.assertEqual(gone["Location"], f"/kept/?q=low&kind=plan&deleted={kept.pk}")
        self.assertContains(self.client.get(gone["Location"]), 'value="q=low&amp;kind=plan"')
        path = reverse("kept:restore", args=[kept.pk])
        back = self.client.post(path, {"back": "q=low&kind=plan"})
        self.assertEqual(back["Location"], "/kept/?q=low&kind=plan")

    def test_page_by_page(self) -> None:
        self.many(70, lens="A")
        first = self.client.get("/kept/", {"lens": "A"})
        self.assertEqual(first.context["items"][0]["kept"].name, "Plan 69")
        self.assertContains(first, "1 to 30 of 70")
        second = self.client.get("/kept/", {"lens": "A", "page": "2"})
        self.assertEqual(second.context["items"][0]["kept"].name, "Plan 39")
        self.assertContains(second, "lens=A&amp;page=1")
        for page in ("99", "x"):
            self.assertEqual(self.client.get("/kept/", {"page": page}).status_code, 200)

    def test_the_queries_do_not_grow_with_what_is_kept(self) -> None:
        counts = []
        for count in (40, 400):
            self.many(count)
            with CaptureQueriesContext(connection) as asked:
                self.client.get("/kept/")
            counts.append(len(asked))
            Kept.objects.exclude(owner=self.owner).delete()
        self.assertEqual(counts[0], counts[1])

    def test_nothing_deleted_is_offered_back_by_nonsense(self) -> None:
        for text in ("x", "-1", "9" * 30, "1"):
            self.assertNotContains(self.client.get("/kept/", {"deleted": text}), "Put it back")

    def test_with_nothing_kept_it_says_how_to(self) -> None:
        self.save(kinds()[0], "")
        Kept.objects.exclude(owner=self.owner).delete()
        page = self.client.get("/kept/")
        self.assertContains(page, "Nothing kept yet.")
        for kind in kinds():
            self.assertContains(page, f'href="/{kind.app}/"')


class ModelTest(Base):
    def test_the_database_refuses_what_the_form_would(self) -> None:
        good = {"owner": self.owner, "kind": "plan", "name": "Pit"}
        Kept.objects.create(**good)
        for bad in ({"owner": None}, {"name": ""}, {"kind": ""}):
            with self.subTest(bad), self.assertRaises(IntegrityError), transaction.atomic():
                Kept.objects.create(**{**good, **bad})

    def test_the_sample_world_is_loaded_once(self) -> None:
        count = Kept.objects.filter(owner=self.owner).count()
        Kept.objects.filter(owner=self.owner).update(name="mine")
        self.assertEqual(load(), self.owner)
        self.assertEqual(Kept.objects.filter(owner=self.owner).count(), count)
        self.assertContains(self.client.get("/kept/"), "<b>mine</b>")
