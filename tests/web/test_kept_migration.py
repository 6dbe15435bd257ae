"""A database as it was before there was one table for all that is kept opens to the same answers.

``recorded/kept.json`` has plans, sets of positions and nights as rows of the tables of that time.
Each was saved from one of the recorded links, whose page was recorded too.
"""

from __future__ import annotations

import json
import lzma
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase
from django.urls import reverse

from tests import some
from tests.web.recorded.reading import read
from tests.web.test_recorded import differences
from web.demo.world import load
from web.kept import keeper
from web.kept.kinds import known
from web.kept.models import Kept
from web.people.models import Owner

RECORDED = Path(__file__).parent / "recorded"
BEFORE = [("kept", None), ("view", "0006_a_third_along"), ("street", "0001_sets"),
          ("sky", "0001_nights")]  # fmt: skip
APPS = {"plan": ("view", "Plan"), "positionset": ("street", "PositionSet"),
        "night": ("sky", "Night")}  # fmt: skip
KINDS = {"plan": "plan", "positionset": "set", "night": "night"}
THEN = datetime(2025, 3, 1, 12, tzinfo=UTC)


def migrate(targets: list[tuple[str, str | None]]) -> Any:
    """Move the database to a state; the apps as they are there."""
    executor = MigrationExecutor(connection)
    executor.migrate(targets)  # type: ignore[arg-type]
    return (
        MigrationExecutor(connection)
        .loader.project_state(
            [target for target in targets if target[1]]  # type: ignore[misc]
        )
        .apps
    )


class MigrationTest(TransactionTestCase):
    """Every row is kept twice: once as it is, and once deleted; each again as a copy of another
    owner's."""

    reset_sequences = True  # the recorded pages name things of the bag by their keys

    def tearDown(self) -> None:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

    def put(self, apps: Any, owner: int, told: dict[str, Any], **more: Any) -> int:
        """A row of the old tables, and its key."""
        model = apps.get_model(*APPS[told["table"]])
        row = model._base_manager.create(owner_id=owner, **{**told["fields"], **more})
        changed = THEN + timedelta(minutes=row.pk)
        model._base_manager.filter(pk=row.pk).update(created_at=THEN, updated_at=changed)
        for mark in told.get("marks", ()):
            apps.get_model("view", "PlanMark").objects.create(plan_id=row.pk, **mark)
        return int(row.pk)

    def test_nothing_is_lost(self) -> None:
        owner = load()
        Kept.with_deleted.all().delete()
        mine = Owner.objects.create()
        told = some(json.loads((RECORDED / "kept.json").read_text("utf-8")), 4)
        links = (RECORDED / "links.txt").read_text("utf-8").split("\n")[:-1]
        apps = migrate(BEFORE)
        keys = [self.put(apps, owner.pk, row) for row in told]
        gone = [self.put(apps, owner.pk, row, deleted_at=THEN) for row in told]
        copies = [
            self.put(apps, mine.pk, row, copied_from=key)
            for row, key in zip(told, keys, strict=True)
        ]
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

        self.assertEqual(Kept.with_deleted.count(), 3 * len(told))
        highest = max(*keys, *gone, *copies)
        self.assertGreater(min(Kept.with_deleted.values_list("pk", flat=True)), highest)
        recorded = json.loads(lzma.decompress((RECORDED / "values.json.xz").read_bytes()))
        for row, key, other, copied in zip(told, keys, gone, copies, strict=True):
            kind = known(KINDS[row["table"]])
            assert kind is not None
            with self.subTest(row["fields"]["name"]):
                kept = keeper.of(owner, key, kind)
                self.assertEqual((kept.was, kept.name), (key, row["fields"]["name"]))
                self.assertEqual(kept.note, row["fields"].get("note", ""))
                self.assertEqual(kept.lens, row["fields"]["lens"])
                self.assertEqual(
                    (kept.created, kept.changed), (THEN, THEN + timedelta(minutes=key))
                )
                copy = keeper.of(mine, copied, kind)
                self.assertEqual((copy.copied_from, copy.link), (kept.pk, kept.link))
                self.assertEqual(keeper.of(mine, key, kind), copy, "by the sample's old address")
                page = self.client.get(kind.opens(key))
                self.assertContains(page, f'value="{kept.name}"')
                link = links[row["link"]]
                found = differences(recorded[link], read(page.content.decode()))
                self.assertEqual([one for one in found if not as_saved(one)], [])
                self.assertEqual(self.client.get(kind.opens(other)).status_code, 404)
                deleted = keeper.of(owner, other, kind, deleted=True)
                self.assertEqual(deleted.deleted, THEN)
                keeper.put_back(deleted)
                self.assertContains(self.client.get(kind.opens(other)), f'value="{kept.name}"')
                self.assertEqual(deleted.link, kept.link)
        self.assertEqual(self.client.get(reverse("kept:page")).status_code, 200)


def as_saved(line: str) -> bool:
    """Whether a field differs as saving has always made it: it has a name, what the link tells of
    the lens, and one's own paces and arms in metres."""
    own = ("paces", "arms", " m'", "pace'", "arm'", "eye'")
    names = (
        "name",
        "version",
        "lens_range",
        "lens_closest",
        "lens_pupils",
        "lens_faults",
        "lens_ideal",
    )
    named = any(f"['{name}'," in line for name in names)
    return line.startswith("fields: ") and (named or any(word in line for word in own))
