"""Writes everything that is kept into one file, while others go on."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from web.running import copies


class Command(BaseCommand):
    help = "Write everything that is kept into one file."
    requires_system_checks: tuple[str, ...] = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            size = copies.back_up(options["file"].absolute(), timezone.now())
        except copies.NotCopied as error:
            raise CommandError(str(error)) from None
        self.stdout.write(f"Wrote {options['file']}, {size} bytes.")
