"""The server as it is run: gunicorn with web.serving, asked over a socket."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import tempfile
import time
from http.client import HTTPConnection
from pathlib import Path
from typing import Any, ClassVar

from django.http import QueryDict
from django.test import SimpleTestCase

from web.ui.limits import MOST_LINK
from web.view.forms import scene_query
from web.view.rows import LONGEST_NAME, MOST_MARKS
from web.view.sample import GEAR

ROOT = Path(__file__).resolve().parents[2]
SCRIPTS = {
    "Japanese": "潮の引いた岩場の手前にある濡れた大きな石段と古い錨",
    "German": "Überströmungsgefährdete Felsküstenböschung, äußerste",
    "Arabic": "الصخرة الكبيرة أمام المنارة القديمة",
}


def longest(word: str) -> QueryDict:
    """A scene with as many marks as there may be, each with as long a name and all said of it."""
    name = (word * LONGEST_NAME)[:LONGEST_NAME]
    mark = (name, "12.34 m", "must", "straight", "15 %", "30 %", "1.2 m", "45 60", "1.5 m/s")
    return scene_query(GEAR, [mark] * MOST_MARKS)


class ServingTest(SimpleTestCase):
    folder: ClassVar[tempfile.TemporaryDirectory[str]]
    server: ClassVar[subprocess.Popen[bytes]]
    port: ClassVar[int]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.folder.cleanup)
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            cls.port = probe.getsockname()[1]
        env = {**os.environ, "AIM_VAR": cls.folder.name, "AIM_BIND": f"127.0.0.1:{cls.port}",
               "DJANGO_SETTINGS_MODULE": "web.settings.demo", "AIM_WORKERS": "1"}  # fmt: skip
        subprocess.run([sys.executable, "manage.py", "prepare"], cwd=ROOT, env=env, check=True)
        cls.server = subprocess.Popen(
            [sys.executable, "-m", "gunicorn", "-c", "python:web.serving", "web.wsgi"],
            cwd=ROOT, env=env,
        )  # fmt: skip
        cls.addClassCleanup(cls.server.wait)
        cls.addClassCleanup(cls.server.terminate)
        for _ in range(200):
            try:
                cls.ask("/light/")
                return
            except OSError:
                time.sleep(0.05)
        raise AssertionError("the server does not answer")

    @classmethod
    def ask(cls, path: str, **headers: str) -> tuple[int, str, dict[str, Any]]:
        """A status, what was answered, and its headers."""
        asking = HTTPConnection("127.0.0.1", cls.port, timeout=30)
        try:
            asking.request("GET", path, headers=headers)
            answer = asking.getresponse()
            return answer.status, answer.read().decode(), dict(answer.getheaders())
        finally:
            asking.close()

    def test_the_longest_scene_in_three_scripts(self) -> None:
        for script, word in SCRIPTS.items():
            with self.subTest(script):
                link = longest(word).urlencode()
                self.assertLess(len(link), MOST_LINK)
                here = f"http://127.0.0.1:{self.port}/view/?{link}"
                status, page, _ = self.ask(f"/view/?{link}", Referer=here)
                self.assertEqual(status, 200)
                self.assertGreaterEqual(page.count(word[:20]), MOST_MARKS)
                status, part, headers = self.ask(
                    f"/view/?{link}", Referer=here, **{"HX-Request": "true"}
                )
                self.assertEqual(status, 200)
                self.assertIn("ring-now", part)
                self.assertLess(len(headers["HX-Replace-Url"]), MOST_LINK)
                status, _, _ = self.ask(headers["HX-Replace-Url"])
                self.assertEqual(status, 200)

    def test_what_is_longer_is_told_so(self) -> None:
        status, page, _ = self.ask("/view/?mark_name=" + "x" * MOST_LINK)
        self.assertEqual(status, 414)
        self.assertIn("more than one scene holds", page)
