"""Loads the sample world into an empty database; leaves one that has been used alone."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from web.demo.world import load


class Command(BaseCommand):
    help = "Load the sample world, unless there is something already."

    def handle(self, *args: Any, **options: Any) -> None:
        count = load()
        if count:
            self.stdout.write(f"Loaded the sample world: {count} plans.")
