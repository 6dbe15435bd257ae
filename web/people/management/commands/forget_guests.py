"""Forgets guests who have not been here for long: their browsers have forgotten them too."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from web.people.models import Owner

USUAL_DAYS = 410
"""A little longer than a guest's cookie lives."""


class Command(BaseCommand):
    help = "Delete the things of guests who have not been here for so many days."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--days", type=int, default=USUAL_DAYS)

    def handle(self, *args: Any, **options: Any) -> None:
        if options["days"] < 1:
            raise CommandError("Give a number of days of 1 or more.")
        before = timezone.localdate() - timedelta(days=options["days"])
        guests = Owner.objects.filter(person=None, is_sample=False, used_on__lt=before)
        count = guests.count()
        guests.delete()
        self.stdout.write(f"Forgot {count} guest{'' if count == 1 else 's'}.")
