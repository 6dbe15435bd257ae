"""Makes an installation ready to be served: checks its place, brings its database up to date, makes
the sample world. What is wrong is said in a sentence."""

from __future__ import annotations

import fcntl
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import DatabaseError

from web.demo.world import load
from web.people.models import Owner
from web.running import store
from web.ui import storing


class Command(BaseCommand):
    help = "Check the place where things are kept, bring the database up to date, make the sample."
    requires_system_checks: tuple[str, ...] = ()

    def handle(self, *args: Any, **options: Any) -> None:
        if wrong := store.fault():
            raise CommandError(wrong)
        with (settings.VAR / "preparing").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)  # two first starts at once: the second waits
            try:
                call_command("migrate", verbosity=0)
                there = Owner.objects.filter(is_sample=True).exists()
                load()
            except DatabaseError as error:
                raise CommandError(f"{storing.why(error)} Nothing was changed. ({error})") from None
        if "Manifest" in settings.STORAGES["staticfiles"]["BACKEND"]:
            call_command("collectstatic", interactive=False, verbosity=0)
        store.keep_private()
        if not there:
            self.stdout.write("Made the sample world.")
