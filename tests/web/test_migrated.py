"""The database is what the models say: nothing in them waits for a migration."""

from __future__ import annotations

from io import StringIO

from django.core.management import call_command
from django.test import TestCase


class MigratedTest(TestCase):
    def test_no_migration_is_missing(self) -> None:
        said = StringIO()
        try:
            call_command("makemigrations", check_changes=True, dry_run=True, stdout=said)
        except SystemExit:
            self.fail(said.getvalue())
        self.assertIn("No changes", said.getvalue())
