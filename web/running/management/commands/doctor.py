"""Says what is wrong with an installation."""

from __future__ import annotations

import sys
from typing import Any

from django.core.management.base import BaseCommand

from web.running.doctor import findings


class Command(BaseCommand):
    help = "Say what is wrong with this installation, and what to do."
    requires_system_checks: tuple[str, ...] = ()

    def handle(self, *args: Any, **options: Any) -> None:
        wrong = 0
        for found in findings():
            if found.wrong:
                wrong += 1
                self.stdout.write(f"wrong  {found.about}. {found.wrong}")
            elif found.note:
                self.stdout.write(f"note   {found.about}: {found.note}.")
            else:
                self.stdout.write(f"well   {found.about}")
        if wrong:
            sys.exit(1)
