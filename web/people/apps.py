"""People: mends databases of the first days before they are migrated."""

from django.apps import AppConfig
from django.db.models.signals import pre_migrate

from web.people import early_states


class PeopleConfig(AppConfig):
    name = "web.people"

    def ready(self) -> None:
        pre_migrate.connect(early_states.mend, sender=self)
