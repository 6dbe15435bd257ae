"""Puts a backup in the place of what is kept, whole or not at all."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from web.running import copies


class Command(BaseCommand):
    help = "Put a backup in the place of what is kept."
    requires_system_checks: tuple[str, ...] = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            before = copies.bring_back(options["file"].absolute(), timezone.now())
        except copies.NotCopied as error:
            raise CommandError(str(error)) from None
        call_command("migrate", verbosity=0)
        put = f" What was kept before is in {before}." if before else ""
        self.stdout.write(f"Brought back {options['file']}.{put}")
