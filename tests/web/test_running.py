"""Running an installation: backups, a doctor, health, logs, and a database that takes nothing."""

from __future__ import annotations

import json
import logging
import os
import subprocess
import sys
import tempfile
import threading
from datetime import UTC, datetime
from io import StringIO
from pathlib import Path
from unittest import mock

import cv2
import numpy as np
from django.core.exceptions import ImproperlyConfigured
from django.db import OperationalError, connection
from django.test import Client, SimpleTestCase, TestCase, override_settings

from web.demo.world import load
from web.running import counters, doctor, lan, log, store
from web.settings import env

ROOT = Path(__file__).resolve().parents[2]
NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)
KEY = "9d-Ks0Qm4Xw_7tYbLr2pVn8cZe5HgUj1aFoWiBqT"


class SettingsTest(SimpleTestCase):
    def told(self, *command: str, **said: str) -> tuple[int, str]:
        """What a command of an installation says with these variables, on either stream."""
        with tempfile.TemporaryDirectory() as folder:
            usual = {"PATH": os.environ["PATH"], "AIM_VAR": folder, "AIM_SECRET_KEY": KEY,
                     "AIM_HOSTS": "a.example", "AIM_PROXIES": "1",
                     "DJANGO_SETTINGS_MODULE": "web.settings.production"}  # fmt: skip
            done = subprocess.run(
                [sys.executable, *command], cwd=ROOT, env=usual | said, check=False,
                capture_output=True, text=True,
            )  # fmt: skip
            return done.returncode, done.stdout + done.stderr

    def test_what_cannot_be_served_is_refused_in_one_sentence(self) -> None:
        for said, part in (
            ({"AIM_SECRET_KEY": "x"}, "too easy to guess"),
            ({"AIM_SECRET_KEY": "a" * 60}, "too easy to guess"),
            ({"AIM_SECRET_KEY": ""}, "Set the environment variable AIM_SECRET_KEY"),
            ({"AIM_HOSTS": " , "}, "Set AIM_HOSTS"),
            ({"AIM_PROXIES": ""}, "AIM_PROXIES is ''"),
            ({"AIM_PROXIES": "0"}, "AIM_REDIRECT_TO_HTTPS"),
            ({"AIM_ORIGINS": "a.example"}, "write it as https://a.example"),
            ({"AIM_DATABASE_URL": "nonsense"}, "AIM_DATABASE_URL"),
            ({"AIM_CACHE_URL": "nonsense"}, "AIM_CACHE_URL"),
            ({"AIM_MAIL_HOST": "m", "AIM_MAIL_PORT": "x"}, "AIM_MAIL_PORT is 'x'"),
            ({"AIM_VAR": "/proc/no"}, "cannot be made"),
        ):
            with self.subTest(part):
                code, text = self.told("manage.py", "check", **said)
                self.assertEqual(code, 1)
                self.assertIn(part, text)
                self.assertEqual(text.count("\n"), 1, text)

    def test_the_server_says_what_is_missing(self) -> None:
        words = ("-m", "gunicorn", "-c", "python:web.serving", "web.wsgi")
        code, text = self.told(*words, AIM_BIND="127.0.0.1:1")
        self.assertEqual(code, 1)
        self.assertIn("run ./aim prepare", text)
        self.assertNotIn("Traceback", text)

    def test_a_key_is_made_once_and_again_where_there_is_none(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "demo-key"
            first = env.key_in(file)
            self.assertEqual(env.key_in(file), first)
            file.write_text("")
            self.assertGreater(len(env.key_in(file)), 40)
            made: set[str] = set()
            file.unlink()
            threads = [
                threading.Thread(target=lambda: made.add(env.key_in(file))) for _ in range(8)
            ]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
            self.assertEqual(made, {file.read_text()})
            self.assertEqual(len(list(Path(folder).iterdir())), 1)
            with self.assertRaisesMessage(ImproperlyConfigured, "cannot be read or made"):
                env.key_in(Path(folder) / "not there" / "key")


class DoctorTest(TestCase):
    def test_all_is_well_here_or_says_what_to_do(self) -> None:
        load()
        for found in doctor.findings():
            self.assertNotIn("Traceback", found.wrong)
            if found.about.startswith(("Python", "The database", "Room")):
                self.assertEqual(found.wrong, "", found)
        self.assertEqual(doctor.to_serve(), "")

    def test_places_that_cannot_be_used(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            file = folder / "aim.sqlite3"
            with mock.patch.object(store, "path", return_value=folder / "no" / "aim.sqlite3"):
                self.assertIn("is not there", store.fault())
            with mock.patch.object(store, "path", return_value=file):
                self.assertEqual(store.fault(), "")
                file.write_text("x" * 2000)
                self.assertIn("cannot be read", store.fault())
                self.assertIn("cannot be asked", doctor._database().wrong)
                self.assertTrue(doctor.to_serve())
                file.chmod(0o644)
                self.assertIn("chmod 600", doctor._private().wrong)
                store.keep_private()
                self.assertEqual(doctor._private().wrong, "")
                with mock.patch("shutil.disk_usage") as usage:
                    usage.return_value.free = 5000
                    self.assertIn("no room left", store.fault())
                    self.assertIn("make some", doctor._room().note)
                with mock.patch("os.access", return_value=False):
                    self.assertIn("cannot be written to", store.fault())


class WatchedTest(TestCase):
    def test_health(self) -> None:
        self.assertEqual(
            self.client.get("/health/").json(), {"process": "well", "database": "well"}
        )
        with mock.patch.object(connection, "cursor", side_effect=OperationalError("gone")):
            answer = self.client.get("/health/")
        self.assertEqual((answer.status_code, answer.json()["database"]), (503, "does not answer"))

    def test_counters_are_off_unless_asked_for(self) -> None:
        self.assertEqual(self.client.get("/metrics/").status_code, 404)
        with (
            override_settings(METRICS=True),
            mock.patch.multiple(counters, _answers={}, _times=[0] * 8, _sum=[0.0]),
        ):
            self.client.get("/health/")
            self.client.get("/nowhere/")
            text = self.client.get("/metrics/").content.decode()
        self.assertRegex(text, r'aim_answers_total\{status="200",process="\d+"\} 1\n')
        self.assertRegex(text, r'aim_answers_total\{status="404",process="\d+"\} 1\n')
        self.assertRegex(text, r'le="\+Inf",process="\d+"\} 2\n')
        counts = [int(line.rsplit(" ", 1)[1]) for line in text.splitlines() if "_bucket" in line]
        self.assertEqual(counts, sorted(counts))


class LogTest(TestCase):
    SECRETS = ("Secret-name", "s3cret-passw0rd", "tell-nobody", "a-token")

    def lines(self, formatter: logging.Formatter) -> list[str]:
        """What is logged of an answer that breaks, and of one that is slow."""
        found: list[str] = []

        class Kept(logging.Handler):
            def emit(self, record: logging.LogRecord) -> None:
                if log.NoLinks().filter(record):
                    found.append(formatter.format(record))

        handler = Kept()
        root = logging.getLogger()
        loggers = [root, logging.getLogger("aim"), logging.getLogger("django")]
        before = [one.level for one in loggers]
        for one in loggers:
            one.setLevel("WARNING")
        root.addHandler(handler)
        client = Client(raise_request_exception=False)
        client.cookies["guest"] = "a-token"
        try:
            with mock.patch("web.view.views.answer_of", side_effect=KeyError("tell-nobody"[:0])):
                link = "/view/?mark_name=Secret-name&mark_distance=3+m"
                self.broken = client.get(link)
            with override_settings(SLOW_SECONDS=-1.0):
                fields = {"username": "Secret-name", "password": "s3cret-passw0rd"}
                client.post("/you/sign-in/", fields)
                client.post("/view/save/", {"name": "Secret-name", "note": "tell-nobody"})
        finally:
            root.removeHandler(handler)
            for one, level in zip(loggers, before, strict=True):
                one.setLevel(level)
        return found

    def test_what_broke_has_an_id_that_the_page_shows_and_no_secret(self) -> None:
        for formatter in (log.Lines(), log.Json()):
            found = self.lines(formatter)
            request = self.broken[log.HEADER]
            self.assertContains(self.broken, request, status_code=500)
            ours = [line for line in found if request in line]
            self.assertTrue(any("500" in line for line in ours), found)
            self.assertTrue(any("Traceback" in line for line in found))
            self.assertTrue(any("people:sign_in" in line for line in found))
            for line in found:
                for secret in self.SECRETS:
                    self.assertNotIn(secret, line)
            if isinstance(formatter, log.Json):
                told = [json.loads(line) for line in found]
                self.assertTrue(any(one.get("status") == 500 for one in told))

    def test_an_id_is_taken_from_a_proxy_alone(self) -> None:
        given = "abcdef0123456789"
        headers = {log.HEADER: given}
        self.assertNotEqual(self.client.get("/health/", headers=headers)[log.HEADER], given)
        with override_settings(PROXIES=1):
            self.assertEqual(self.client.get("/health/", headers=headers)[log.HEADER], given)
            bad = self.client.get("/health/", headers={log.HEADER: "<b> x"})[log.HEADER]
            self.assertRegex(bad, "^[0-9a-f]{16}$")


class LanTest(TestCase):
    def test_the_code_in_the_terminal_says_the_address_and_what_does_not_work(self) -> None:
        said = StringIO()
        lan.tell("http://192.0.2.7:8000/", said)
        text = said.getvalue()
        self.assertIn("http://192.0.2.7:8000/", text)
        for words in ("HTTPS", "one file", "Anybody in this network"):
            self.assertIn(words, text)
        rows = [line for line in text.split("\n") if "█" in line or "▀" in line]
        light = {"█": (1, 1), "▀": (1, 0), "▄": (0, 1), " ": (0, 0)}
        width = max(map(len, rows))
        dots = np.array([[light[sign][half] for sign in row.ljust(width)]
                         for row in rows for half in (0, 1)])  # fmt: skip
        picture = np.pad(np.kron(dots * 255, np.ones((8, 8))), 40, constant_values=255)
        read, _, _ = cv2.QRCodeDetectorAruco().detectAndDecode(picture.astype(np.uint8))
        self.assertEqual(read, "http://192.0.2.7:8000/")
