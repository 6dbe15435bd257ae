"""Guests: one owner, made once, by what is kept alone, who lasts while they come back."""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import date, timedelta
from unittest import mock

from django.conf import settings
from django.db import connection
from django.test import Client, TestCase, TransactionTestCase
from django.utils import timezone

from tests.web.test_people import PASSWORD
from web.bag.views import KINDS
from web.demo.world import load
from web.kept.models import Kept
from web.people import guests
from web.people.models import Owner
from web.view.forms import sample_query

STATE = sample_query().urlencode()


def at_once(*deeds: Callable[[], object]) -> None:
    """Do all of these at the same moment."""
    ready = threading.Barrier(len(deeds))

    def run(deed: Callable[[], object]) -> None:
        ready.wait()
        try:
            deed()
        finally:
            connection.close()

    threads = [threading.Thread(target=run, args=(deed,)) for deed in deeds]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()


class AtOnceTest(TransactionTestCase):
    def same(self, client: Client, count: int) -> list[Client]:
        """Windows of one browser."""
        windows = [Client() for _ in range(count)]
        for window in windows:
            window.cookies.update(client.cookies)
        return windows

    def test_two_windows_that_save_first_at_the_same_moment(self) -> None:
        load()
        for turn in range(5):
            browser = Client()
            browser.get("/view/")
            windows = self.same(browser, 3)
            codes: list[int] = []

            def save(window: Client, name: str, said: list[int] = codes) -> None:
                fields = {"name": name, "state": STATE}
                said.append(window.post("/view/save/", fields).status_code)

            at_once(*(lambda w=w, n=n, t=turn: save(w, f"Plan {t} {n}")  # type: ignore[misc]
                      for n, w in enumerate(windows)))  # fmt: skip
            self.assertEqual(codes, [302] * 3)
            listed = windows[0].get("/kept/").content.decode()
            for number in range(3):
                self.assertIn(f"<b>Plan {turn} {number}</b>", listed)
        self.assertEqual(Owner.objects.filter(is_sample=False).count(), 5)

    def test_the_first_pages_after_joining_at_once(self) -> None:
        load()
        browser = Client()
        fields = {"username": "Marlo", "password1": PASSWORD, "password2": PASSWORD}
        browser.post("/you/join/", fields)
        codes: list[int] = []
        paths = ("/view/", "/street/", "/sky/", "/bag/", "/kept/", "/you/")
        at_once(*(lambda w=w, p=p: codes.append(w.get(p).status_code)  # type: ignore[misc]
                  for w, p in zip(self.same(browser, 6), paths, strict=True)))  # fmt: skip
        self.assertEqual(codes, [200] * 6)
        self.assertEqual(Owner.objects.filter(person__username="Marlo").count(), 1)


class LastingTest(TestCase):
    def on(self, client: Client, days: int, path: str = "/kept/") -> str:
        """A page, so many days from now."""
        now = timezone.now() + timedelta(days=days)
        with mock.patch("django.utils.timezone.now", return_value=now):
            answer = client.get(path)
        self.assertEqual(answer.status_code, 200)
        for name in (guests.COOKIE, settings.SESSION_COOKIE_NAME):
            if name in answer.cookies:
                self.told[name] = answer.cookies[name]["max-age"]
        return str(answer.content.decode())

    def setUp(self) -> None:
        load()
        self.told: dict[str, int] = {}

    def test_a_guest_who_comes_back_is_told_a_cookie_again(self) -> None:
        self.client.post("/view/save/", {"name": "Mine", "state": STATE})
        owner = Owner.objects.get(is_sample=False)
        for days in (1, 300, 700, 1000):
            self.told.clear()
            self.assertIn("<b>Mine</b>", self.on(self.client, days))
            self.assertEqual(self.told, {guests.COOKIE: guests.AGE})
            owner.refresh_from_db()
            self.assertEqual(owner.used_on, timezone.localdate() + timedelta(days=days))
            self.told.clear()
            self.on(self.client, days)
            self.assertEqual(self.told, {}, "once a day")

    def test_a_clock_that_goes_back_loses_nobody(self) -> None:
        self.client.post("/view/save/", {"name": "Mine", "state": STATE})
        self.assertIn("<b>Mine</b>", self.on(self.client, -2))
        self.assertIn("<b>Mine</b>", self.on(self.client, 0))

    def test_an_account_is_told_its_session_again(self) -> None:
        fields = {"username": "Marlo", "password1": PASSWORD, "password2": PASSWORD}
        self.client.post("/you/join/", fields)
        for days in (1, 300, 600):
            self.told.clear()
            self.assertIn("Marlo", self.on(self.client, days, "/you/"))
            self.assertEqual(self.told[settings.SESSION_COOKIE_NAME], settings.SESSION_COOKIE_AGE)

    def test_one_known_by_a_session_is_known_by_their_browser_from_then_on(self) -> None:
        owner = Owner.objects.create()
        Kept.objects.create(owner=owner, kind="plan", name="From before", link=STATE)
        session = self.client.session
        session["owner"] = owner.pk
        session.save()
        self.assertContains(self.client.get("/kept/"), "<b>From before</b>")
        del self.client.cookies[settings.SESSION_COOKIE_NAME]
        self.assertContains(self.client.get("/kept/"), "<b>From before</b>")

    def test_the_cookie_is_no_key_to_anything_by_itself(self) -> None:
        for text in ("", "x", "a" * 43 + ".o.20260101", "a" * 43, "'; drop", "1"):
            self.client.cookies[guests.COOKIE] = text
            self.assertContains(self.client.get("/kept/"), "Sallow Pit")
        self.assertEqual(Owner.objects.count(), 1)

    def test_signing_in_takes_the_cookie_away(self) -> None:
        self.client.post("/view/save/", {"name": "Mine", "state": STATE})
        stolen = self.client.cookies[guests.COOKIE].value
        fields = {"username": "Marlo", "password1": PASSWORD, "password2": PASSWORD}
        answer = self.client.post("/you/join/", fields)
        self.assertEqual(answer.cookies[guests.COOKIE].value, "")
        other = Client()
        other.cookies[guests.COOKIE] = stolen
        self.assertNotContains(other.get("/kept/"), "<b>Mine</b>")


class NobodyTest(TestCase):
    """Looking, and forms that are refused, make nobody an owner."""

    def test_refused_forms(self) -> None:
        load()
        keys = {slug: kind.model.objects.all()[0].pk for slug, kind in KINDS.items()}
        refused = [
            ("/you/", {"units": "eye"}),
            ("/view/save/", {"name": "", "state": STATE}),
            ("/view/plan/99999/save/", {"name": "A", "state": STATE}),
            ("/street/save/", {"name": "A", "state": "f_number=x"}),
            ("/bag/import/", {"text": "{}", "take": "1"}),
            ("/kept/99999/delete/", {}),
            ("/kept/99999/duplicate/", {}),
            ("/you/join/", {"username": "."}),
            ("/you/sign-in/", {"username": "nobody", "password": "x"}),
            ("/light/", {"next": "softens"}),
            *((f"/bag/{slug}/new/", {"name": ""}) for slug in KINDS),
            *((f"/bag/{slug}/{key}/", {"name": ""}) for slug, key in keys.items()),
            *((f"/bag/{slug}/99999/take-out/", {}) for slug in KINDS),
        ]
        for path, fields in refused:
            answer = Client().post(path, fields)
            self.assertIn(answer.status_code, (302, 404, 422, 200), path)
            self.assertEqual(Owner.objects.filter(is_sample=False).count(), 0, path)

    def test_the_day_is_the_days(self) -> None:
        with mock.patch("django.utils.timezone.localdate", return_value=date(2026, 2, 3)):
            self.assertEqual(guests.today(), "20260203")
