"""Backups: whole while others write, and brought back whole or not at all."""

from __future__ import annotations

import hashlib
import io
import json
import sqlite3
import tempfile
import threading
import zipfile
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from unittest import mock

from django.db import connection
from django.test import TransactionTestCase

from web.demo.world import load
from web.running import copies, store

NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)


class CopiesTest(TransactionTestCase):
    def setUp(self) -> None:
        if connection.vendor != "sqlite":
            self.skipTest("other databases have their own")
        load()
        self.folder = tempfile.TemporaryDirectory()
        self.addCleanup(self.folder.cleanup)
        self.place = Path(self.folder.name)
        path = mock.patch.object(store, "path", return_value=self.place / "aim.sqlite3")
        path.start()
        self.addCleanup(path.stop)
        with (
            closing(sqlite3.connect(str(connection.settings_dict["NAME"]))) as source,
            closing(sqlite3.connect(self.place / "aim.sqlite3")) as target,
        ):
            source.backup(target)
            target.execute("PRAGMA journal_mode=WAL")

    def dump(self, file: Path) -> str:
        with closing(sqlite3.connect(file)) as opened:
            return "\n".join(opened.iterdump())

    def add(self, name: str) -> None:
        with closing(sqlite3.connect(self.place / "aim.sqlite3", timeout=30)) as opened:
            opened.execute("UPDATE kept_kept SET note = ?", (name,))
            opened.execute("INSERT INTO aim_cache VALUES (?, 'x', '2030-01-01')", (name,))
            opened.commit()

    def test_there_and_back(self) -> None:
        file = self.place / "a.aim"
        copies.back_up(file, NOW)
        self.assertEqual(file.stat().st_mode & 0o777, 0o600)
        before = self.dump(self.place / "aim.sqlite3")
        self.add("later")
        self.assertNotEqual(self.dump(self.place / "aim.sqlite3"), before)
        kept = copies.bring_back(file, NOW)
        self.assertEqual(self.dump(self.place / "aim.sqlite3"), before)
        assert kept is not None
        copies.bring_back(kept, datetime(2026, 11, 27, tzinfo=UTC))
        self.assertIn("later", self.dump(self.place / "aim.sqlite3"))

    def test_while_others_write(self) -> None:
        stop = threading.Event()
        count = [0]

        def write() -> None:
            while not stop.is_set():
                count[0] += 1
                self.add(f"{count[0]:06}")

        writer = threading.Thread(target=write)
        writer.start()
        try:
            for number in range(5):
                file = self.place / f"{number}.aim"
                copies.back_up(file, NOW)
                with zipfile.ZipFile(file) as packed:
                    packed.extract("database.sqlite3", self.place / str(number))
                copy = self.place / str(number) / "database.sqlite3"
                with closing(sqlite3.connect(copy)) as opened:
                    rows = opened.execute("SELECT count(*) FROM aim_cache").fetchone()[0]
                    last = opened.execute("SELECT max(note) FROM kept_kept").fetchone()[0]
                self.assertEqual(last or "", f"{rows:06}" if rows else "", "both, or neither")
        finally:
            stop.set()
            writer.join()
        self.assertGreater(count[0], 5)

    def inside(self, raw: bytes) -> list[bytes] | None:
        """What a backup holds; None where that cannot be read."""
        try:
            with zipfile.ZipFile(io.BytesIO(raw)) as packed:
                return [packed.read(name) for name in ("manifest.json", "database.sqlite3")]
        except Exception:
            return None

    def test_what_is_damaged_or_newer_is_refused_and_changes_nothing(self) -> None:
        good = self.place / "good.aim"
        copies.back_up(good, NOW)
        raw = good.read_bytes()
        self.add("now")
        before = self.dump(self.place / "aim.sqlite3")

        def packed(database: bytes | None = None, **said: Any) -> bytes:
            with zipfile.ZipFile(good) as source:
                manifest = json.loads(source.read("manifest.json")) | said
                data = source.read("database.sqlite3") if database is None else database
            file = self.place / "made.aim"
            with zipfile.ZipFile(file, "w") as target:
                target.writestr("manifest.json", json.dumps(manifest))
                target.writestr("database.sqlite3", data)
            return file.read_bytes()

        def summed(data: bytes) -> dict[str, Any]:
            return {"files": {"database.sqlite3": {"sha256": hashlib.sha256(data).hexdigest()}}}

        torn = raw[100:9000]
        cases = [
            (b"", "no backup"),
            (raw[: len(raw) // 2], "no backup"),
            (packed(format="another"), "no backup"),
            (packed(version=2), "newer release"),
            (packed(b"x" * 5000), "checksum"),
            (packed(migrations=[["people", "9999_of_next_year"]]), "newer release"),
            (packed(torn, **summed(torn)), "damaged"),
            (packed(migrations=3), "damaged"),
        ]
        for data, part in cases:
            with self.subTest(part):
                file = self.place / "bad.aim"
                file.write_bytes(data)
                with self.assertRaisesRegex(copies.NotCopied, part):
                    copies.bring_back(file, NOW)
                self.assertEqual(self.dump(self.place / "aim.sqlite3"), before)
        flipped = bytearray(raw)
        for at in range(200, len(raw) - 200, len(raw) // 40):
            flipped[at] ^= 0xFF
            (self.place / "bad.aim").write_bytes(flipped)
            if self.inside(flipped) != self.inside(raw):  # a date in a header is no harm
                with self.assertRaises(copies.NotCopied):
                    copies.bring_back(self.place / "bad.aim", NOW)
            flipped[at] ^= 0xFF
        self.assertEqual(self.dump(self.place / "aim.sqlite3"), before)
        with self.assertRaisesRegex(copies.NotCopied, "there already"):
            copies.back_up(good, NOW)

    def test_a_damaged_database_is_put_aside(self) -> None:
        good = self.place / "good.aim"
        copies.back_up(good, NOW)
        before = self.dump(self.place / "aim.sqlite3")
        (self.place / "aim.sqlite3").write_bytes(b"no database at all" * 500)
        self.assertIn("./aim restore", store.fault())
        aside = copies.bring_back(good, NOW)
        assert aside is not None
        self.assertTrue(aside.read_bytes().startswith(b"no database"))
        self.assertEqual(self.dump(self.place / "aim.sqlite3"), before)
        self.assertEqual(store.fault(), "")
