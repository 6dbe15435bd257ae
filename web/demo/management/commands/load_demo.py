"""Makes the sample world, unless it is there already."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from web.demo.world import load
from web.people.models import Owner


class Command(BaseCommand):
    help = "Make the sample world that every guest starts from, unless it is there."

    def handle(self, *args: Any, **options: Any) -> None:
        there = Owner.objects.filter(is_sample=True).exists()
        load()
        if not there:
            self.stdout.write("Made the sample world.")
