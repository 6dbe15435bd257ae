"""The doors: locks, throttles, quotas, passwords, headers, and leaving for good."""

from __future__ import annotations

import json
import logging
import threading
from datetime import timedelta
from unittest import mock

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core import mail
from django.core.cache import cache
from django.core.exceptions import ValidationError
from django.test import Client, SimpleTestCase, TestCase, override_settings
from django.utils import timezone

from tests.web.test_people import PASSWORD, Base
from web.bag.models import Lens
from web.demo.world import load
from web.kept.models import Kept
from web.people import mailing, quota
from web.people.models import Owner, Person
from web.ui import throttle
from web.ui.back import path_in
from web.view.forms import sample_query

STATE = sample_query().urlencode()


class LockTest(Base):
    WRONG = {"username": "Marlo", "password": "wrong"}
    RIGHT = {"username": "Marlo", "password": PASSWORD}

    def lock(self) -> None:
        for _ in range(10):
            last = self.client.post("/you/sign-in/", self.WRONG)
        self.assertEqual(last.status_code, 429)

    def test_more_tries_do_not_make_a_lock_last_longer(self) -> None:
        self.join()
        self.lock()
        now = timezone.now()
        for minutes in (5, 10, 14):
            with mock.patch(
                "axes.handlers.proxy.now", return_value=now + timedelta(minutes=minutes)
            ):
                self.assertEqual(self.client.post("/you/sign-in/", self.WRONG).status_code, 429)
        with mock.patch("axes.handlers.proxy.now", return_value=now + timedelta(minutes=16)):
            self.assertEqual(self.client.post("/you/sign-in/", self.RIGHT).status_code, 302)

    def test_a_reset_ends_a_lock(self) -> None:
        self.join(email="marlo@mail.example")
        self.lock()
        self.client.post("/you/reset/", {"email": "marlo@mail.example"})
        link = next(word for word in mail.outbox[0].body.split() if "/you/reset/" in word)
        form = self.client.get(link, follow=True)
        fields = {"new_password1": PASSWORD + "b", "new_password2": PASSWORD + "b"}
        self.client.post(form.redirect_chain[-1][0], fields)
        again = self.client.post("/you/sign-in/", self.RIGHT | {"password": PASSWORD + "b"})
        self.assertEqual(again.status_code, 302)

    def test_a_lock_is_in_the_log_with_what_a_blocker_needs(self) -> None:
        self.join()
        with self.assertLogs("aim.locked", logging.WARNING) as logged:
            self.lock()
        record = logged.records[0]
        self.assertEqual((record.who, record.where), ("Marlo", "127.0.0.1"))  # type: ignore[attr-defined]
        self.assertNotIn("wrong", record.getMessage())


@override_settings(RATELIMIT_ENABLE=True)
class ThrottleTest(Base):
    def setUp(self) -> None:
        cache.clear()
        self.addCleanup(cache.clear)
        load()

    def test_each_is_counted_by_where_it_comes_from(self) -> None:
        person = self.join(email="marlo@mail.example")
        asked = {
            "pdf": lambda at: self.client.get("/cards/plan/sheet.pdf", REMOTE_ADDR=at),
            "join": lambda at: Client().post("/you/join/", {}, REMOTE_ADDR=at),
            "reset": lambda at: Client().post("/you/reset/", {"email": "x"}, REMOTE_ADDR=at),
            "frames": lambda at: person.post("/bench/tests/0/frames/", {}, REMOTE_ADDR=at),
            "files": lambda at: person.post("/outings/0/take/", {}, REMOTE_ADDR=at),
            "drawn": lambda at: person.get("/drills/seen/x/", REMOTE_ADDR=at),
            "import": lambda at: Client().post("/bag/import/", {}, REMOTE_ADDR=at),
            "old password": lambda at: person.post("/you/password/", {}, REMOTE_ADDR=at),
            "sign in": lambda at: Client().post("/you/sign-in/", {}, REMOTE_ADDR=at),
            "first things": lambda at: Client().post(
                "/view/save/", {"name": "A", "state": STATE}, REMOTE_ADDR=at
            ),
        }
        self.assertEqual(set(asked), set(throttle.RATES))
        rates = dict.fromkeys(throttle.RATES, "2/h")
        done = mock.Mock()
        done.set.return_value = (0, b"%PDF")
        with (
            mock.patch.dict(throttle.RATES, rates),
            mock.patch("web.ui.printing.press", return_value=done),
        ):
            cache.clear()
            for what, ask in asked.items():
                with self.subTest(what):
                    codes = [ask("10.0.0.1").status_code for _ in range(3)]
                    self.assertNotIn(429, codes[:2])
                    self.assertEqual(codes[2], 429)
                    self.assertNotEqual(ask("10.0.0.2").status_code, 429)
                    answer = ask("10.0.0.1")
                    self.assertContains(answer, "Wait", status_code=429)
                    self.assertGreater(int(answer["Retry-After"]), 0)

    def test_looking_is_not_counted(self) -> None:
        with mock.patch.dict(throttle.RATES, dict.fromkeys(throttle.RATES, "1/h")):
            for path in ("/view/", "/you/join/", "/you/sign-in/", "/bag/import/", "/you/reset/"):
                for _ in range(3):
                    self.assertEqual(self.client.get(path).status_code, 200, path)


class QuotaTest(Base):
    def test_a_guest_is_told_and_an_account_has_more(self) -> None:
        self.save(self.client, "First")
        owner = Owner.objects.get(is_sample=False)
        lens = {"name": "One more", "shortest_mm": "35", "widest": "2", "ring_kind": "stops",
                "to_infinity": "1"}  # fmt: skip
        with mock.patch.object(quota, "OF_A_GUEST", Kept.objects.filter(owner=owner).count()):
            fields = {"name": "Second", "state": STATE}
            answer = self.client.post("/view/save/", fields)
            self.assertContains(answer, "make an account", status_code=422)
            self.assertContains(answer, 'value="Second"', status_code=422)
            first = Kept.objects.get(owner=owner, name="First")
            again = self.client.post(f"/kept/{first.pk}/duplicate/")
            self.assertContains(again, "delete some first", status_code=409)
            over = self.client.post(f"/view/plan/{first.pk}/save/", fields)
            self.assertEqual(over.status_code, 302, "in its place is no more")
        with mock.patch.object(quota, "OF_A_GUEST", Lens.objects.filter(owner=owner).count()):
            self.assertContains(
                self.client.post("/bag/lens/new/", lens), "make an account", status_code=422
            )
            one = {"name": "A", "shortest_mm": 35.0, "longest_mm": 35.0, "widest": 2.0}
            data = json.dumps({"format": "aim-still-bag", "version": 1, "lenses": [one]})
            taken = self.client.post("/bag/import/", {"text": data})
            self.assertContains(taken, "make an account", status_code=422)
            self.join(self.client)
            self.assertEqual(self.client.post("/bag/lens/new/", lens).status_code, 302)


class PasswordsTest(SimpleTestCase):
    def test_what_is_tried_first_is_refused(self) -> None:
        for password in (
            "aimstill", "AimStill2026", "aim-still-1", "hyperfocal", "Hyperfocal1!", "milkyway99",
            "abcabcabcabc", "aaaaaaaaaaaa", "abababab", "12341234a12341234a", "qwe4qwe4",
        ):  # fmt: skip
            with self.subTest(password), self.assertRaises(ValidationError):
                validate_password(password)
        for password in (
            PASSWORD,
            "infinity is one stop back",
            "Regenschirm-42",
            "雨の石段を降りる朝に",
        ):
            validate_password(password)

    def test_led_back_only_here(self) -> None:
        request = mock.Mock()
        request.get_host.return_value = "a.example"
        for text in ("softens", "", None, "https://evil.example/", "//evil.example",
                     "/\\evil.example", "javascript:alert(1)", "/a\nb",
                     "/" + "x" * 50_000):  # fmt: skip
            self.assertEqual(path_in(request, text, "/else/"), "/else/")
        self.assertEqual(path_in(request, "/view/?a=1", "/else/"), "/view/?a=1")


class NamesTest(Base):
    def test_signs_alone_are_no_name(self) -> None:
        for name in (".", "@", "-_-", "+.+"):
            fields = {"username": name, "password1": PASSWORD, "password2": PASSWORD}
            answer = self.client.post("/you/join/", fields)
            self.assertContains(answer, "a letter or a digit", status_code=422)
        self.join(name="海")


class MailTest(Base):
    def test_without_mail_a_reset_says_so(self) -> None:
        with override_settings(MAIL_IS_SET_UP=False):
            self.assertContains(self.client.get("/you/reset/"), "Ask whoever runs it")

    def test_no_page_waits_and_what_fails_is_in_the_log(self) -> None:
        held = threading.Event()
        with override_settings(MAIL_BESIDE=True):
            mailing.sent(held.wait)  # would wait for ever
            held.set()
        with self.assertLogs("aim.mail", logging.ERROR) as logged:
            mailing.sent(mock.Mock(side_effect=OSError("marlo@mail.example refused")))
        self.assertNotIn("marlo", logged.output[0])
        self.assertLessEqual(settings.EMAIL_TIMEOUT, 30)

    def test_the_address_is_changed_with_the_password(self) -> None:
        client = self.join(email="old@mail.example")
        self.assertEqual(Client().get("/you/mail/").status_code, 302)
        fields = {"email": "new@mail.example", "password": "wrong"}
        self.assertContains(client.post("/you/mail/", fields), "not your password", status_code=422)
        odd = client.post("/you/mail/", {"email": "x", "password": PASSWORD})
        self.assertContains(odd, "not a mail address", status_code=422)
        done = client.post("/you/mail/", fields | {"password": PASSWORD}, follow=True)
        self.assertContains(done, "is kept")
        self.assertEqual(Person.objects.get().email, "new@mail.example")
        client.post("/you/mail/", {"email": "", "password": PASSWORD})
        self.assertEqual(Person.objects.get().email, "")


class LeavingTest(Base):
    def test_an_account_is_deleted_with_all_that_is_its_own_and_nothing_else(self) -> None:
        other = self.save(self.client, "A stranger's")
        client = self.join()
        self.save(client, "Mine")
        sample = load().kepts.count()
        self.assertContains(client.get("/you/"), "/you/delete/")
        self.assertContains(client.get("/you/delete/"), "/you/export/")
        for fields, part in (
            ({}, "Give your password"),
            ({"password": "wrong", "word": "delete"}, "not your password"),
            ({"password": PASSWORD, "word": "yes"}, "Type delete"),
        ):
            answer = client.post("/you/delete/", fields)
            self.assertContains(answer, part, status_code=422)
        done = client.post("/you/delete/", {"password": PASSWORD, "word": "Delete"}, follow=True)
        self.assertContains(done, "All of it is deleted")
        self.assertEqual(Person.objects.count(), 0)
        self.assertFalse(Kept.with_deleted.filter(name="Mine").exists())
        self.assertTrue(Kept.objects.filter(pk=other.pk).exists())
        self.assertEqual(load().kepts.count(), sample)
        self.assertNotContains(client.get("/kept/"), "<b>Mine</b>")

    def test_a_guest_too(self) -> None:
        self.save(self.client, "Mine")
        self.client.post("/you/delete/", {"word": "delete"})
        self.assertEqual(list(Owner.objects.all()), [load()])
        self.assertContains(self.client.get("/kept/"), "Sallow Pit")
        Client().post("/you/delete/", {"word": "delete"})  # one who has nothing
        self.assertEqual(list(Owner.objects.all()), [load()])

    def test_everything_is_taken_along(self) -> None:
        client = self.join(email="marlo@mail.example")
        self.save(client, "Mine, 朝")
        answer = client.get("/you/export/")
        self.assertIn("attachment", answer["Content-Disposition"])
        data = json.loads(answer.content)
        self.assertEqual(data["account"], {"name": "Marlo", "mail": "marlo@mail.example"})
        mine = next(one for one in data["kept"] if one["name"] == "Mine, 朝")
        self.assertContains(client.get(mine["link"]), "Slate slab")
        text = json.dumps(data["bag"])
        self.assertContains(Client().post("/bag/import/", {"text": text}), "in the bag already")
        self.assertNotIn(PASSWORD, answer.content.decode())
        self.assertNotIn("pbkdf2", answer.content.decode())

    def test_the_page_on_privacy_names_every_cookie_there_is(self) -> None:
        client = self.join()
        client.post("/light/", {"light": "dark", "next": "/"})
        client.get("/view/")
        Client().get("/view/")
        page = client.get("/you/privacy/").content.decode()
        guest = Client()
        guest.get("/view/")
        for name in {*client.cookies, *guest.cookies}:
            self.assertIn(f"<b>{name}</b>", page)


class HeadersTest(TestCase):
    def test_what_is_private_is_kept_by_nobody_else(self) -> None:
        load()
        for path in ("/view/", "/bag/", "/kept/", "/bag/file/", "/health/", "/nowhere/"):
            answer = self.client.get(path)
            self.assertEqual(answer["Cache-Control"], "private, no-cache", path)
            self.assertIn("camera=()", answer["Permissions-Policy"])
            self.assertEqual(answer["Cross-Origin-Resource-Policy"], "same-origin")
        for path in ("/you/", "/you/join/", "/you/sign-in/", "/you/export/"):
            self.assertIn("no-store", self.client.get(path)["Cache-Control"], path)

    def test_pages_are_sent_compressed_to_those_who_take_it(self) -> None:
        load()
        plain = self.client.get("/view/")
        packed = self.client.get("/view/", headers={"Accept-Encoding": "gzip"})
        self.assertEqual(packed["Content-Encoding"], "gzip")
        self.assertLess(len(packed.content), len(plain.content) / 3)

    def test_no_page_asks_another_address_for_anything(self) -> None:
        load()
        for path in ("/view/", "/street/", "/sky/", "/bag/", "/you/", "/you/privacy/"):
            page = self.client.get(path).content.decode()
            self.assertNotRegex(page, r'(src|href|action)="(https?:)?//')
