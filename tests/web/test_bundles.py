"""One style sheet and one script for each screen, with all that is in them; Bootstrap as used."""

from __future__ import annotations

import gzip
import re

from django.test import TestCase

from tools import trim_bootstrap
from web.ui import bundles
from web.ui.screens import every


class BundlesTest(TestCase):
    def test_every_screen_has_both_and_they_last(self) -> None:
        for screen in every():
            for kind in ("css", "js"):
                path = bundles.address(screen.key, kind)
                plain = self.client.get(path)
                packed = self.client.get(path, headers={"Accept-Encoding": "gzip"})
                with self.subTest(path):
                    self.assertIn("immutable", plain["Cache-Control"])
                    self.assertEqual(gzip.decompress(packed.content), plain.content)
                    self.assertEqual(packed["Vary"], "Accept-Encoding")
                    own = screen.styles if kind == "css" else screen.scripts
                    for name in own:
                        start = bundles._read(name).strip()[:60]
                        self.assertIn(start, plain.content.decode())

    def test_an_older_address_has_what_there_is_now(self) -> None:
        old = self.client.get("/bundle/0/view.css")
        self.assertEqual(old.status_code, 200)
        self.assertEqual(old["Cache-Control"], "no-cache")
        self.assertEqual(self.client.get("/bundle/0/nothing.css").status_code, 404)
        self.assertEqual(self.client.get("/bundle/0/view.txt").status_code, 404)

    def test_what_they_point_at_is_there(self) -> None:
        css = bundles.bundle("view", "css").text.decode()
        found = set(re.findall(r'url\("(/static/[^"]+)"\)', css))
        self.assertTrue(found)
        self.assertNotIn("url(../", css.replace('"', ""))

    def test_bootstrap_is_what_would_be_trimmed_now(self) -> None:
        """A class used anew needs ``python -m tools.trim_bootstrap``."""
        css = re.sub(r"/\*.*?\*/", "", trim_bootstrap.WHOLE.read_text("utf-8"), flags=re.DOTALL)
        wanted = trim_bootstrap.trimmed(
            css.removeprefix('@charset "UTF-8";'), trim_bootstrap.words()
        )
        self.assertIn(wanted, trim_bootstrap.USED.read_text("utf-8"))
