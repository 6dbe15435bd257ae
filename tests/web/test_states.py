"""Every state that a database has been in migrates to the present one, and opens.

``recorded/states`` has the sample world in each as SQL, in order; ``recorded/migrations.json`` has
each migration as it was when it was first applied: they are never edited, only added to.
"""

from __future__ import annotations

import hashlib
import json
import lzma
import sqlite3
import tempfile
from pathlib import Path

from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TestCase, TransactionTestCase

from tests import some
from web.bag.views import KINDS
from web.kept.models import Kept
from web.people.models import Owner

ROOT = Path(__file__).resolve().parents[2]
RECORDED = Path(__file__).parent / "recorded"
STATES = sorted((RECORDED / "states").glob("*.sql.xz"))


class StatesTest(TransactionTestCase):
    def setUp(self) -> None:
        if connection.vendor != "sqlite":
            self.skipTest("the states are recorded as SQLite's")
        self.usual = connection.settings_dict["NAME"]
        self.addCleanup(self.point_at, self.usual)

    def point_at(self, name: str) -> None:
        connection.close()
        connection.settings_dict["NAME"] = name

    def test_each_migrates_and_opens(self) -> None:
        self.assertGreaterEqual(len(STATES), 15)
        for state in some(STATES, 15, first=1):
            with self.subTest(state=state.name), tempfile.TemporaryDirectory() as folder:
                path = str(Path(folder) / "old.sqlite3")
                with sqlite3.connect(path) as old:
                    old.executescript(lzma.decompress(state.read_bytes()).decode())
                    counts = self.counts(old)
                old.close()
                self.point_at(path)
                call_command("migrate", verbosity=0)
                executor = MigrationExecutor(connection)
                self.assertEqual(executor.migration_plan(executor.loader.graph.leaf_nodes()), [])
                connection.check_constraints()
                self.assert_opens(counts, whole=state in (STATES[1], STATES[9], STATES[-1]))
                self.point_at(self.usual)

    def counts(self, old: sqlite3.Connection) -> dict[str, int]:
        """How many things there are of each table of things."""
        names = [row[0] for row in old.execute("SELECT name FROM sqlite_master WHERE type='table'")]
        wanted = [name for name in names if name.startswith(("bag_", "view_", "street_", "sky_"))]
        return {name: old.execute(f"SELECT count(*) FROM {name}").fetchone()[0] for name in wanted}

    def assert_opens(self, counts: dict[str, int], *, whole: bool) -> None:
        planners = ("/view/", "/street/", "/sky/") if whole else ()
        for page in ("/bag/", "/kept/", "/you/", *planners):
            self.assertEqual(self.client.get(page).status_code, 200, page)
        for kept in Kept.objects.all() if whole else ():
            self.assertEqual(self.client.get(kept.get_absolute_url()).status_code, 200)
        for slug, kind in KINDS.items():
            before = counts.get(kind.model._meta.db_table)
            now = kind.model.objects.filter(owner__is_sample=True)
            if before:
                self.assertEqual(now.count(), before)
            for thing in now if whole else now[:1]:
                self.assertEqual(self.client.get(f"/bag/{slug}/{thing.pk}/").status_code, 200)
        fields = {"name": "New", "state": "", "note": ""}
        self.assertEqual(self.client.post("/view/save/", fields).status_code, 302)
        self.assertEqual(Owner.objects.filter(is_sample=False).count(), 1)


class FrozenTest(TestCase):
    def test_no_migration_is_ever_edited(self) -> None:
        recorded = json.loads((RECORDED / "migrations.json").read_text("utf-8"))
        there = {
            str(path.relative_to(ROOT)): hashlib.sha256(path.read_bytes()).hexdigest()
            for path in ROOT.glob("web/*/migrations/0*.py")
        }
        for path, digest in recorded.items():
            self.assertEqual(there.get(path), digest, f"{path} was edited: add another instead")
        self.assertEqual(
            set(there), set(recorded), "record a new migration, and a database before it"
        )

    def test_the_models_are_what_the_migrations_make(self) -> None:
        try:
            call_command("makemigrations", check=True, dry_run=True, verbosity=0)
        except SystemExit:
            self.fail("There is something in the models that no migration makes.")
