"""People: knows how things are handed on, and mends databases of the first days."""

from django.apps import AppConfig
from django.db.models.signals import pre_migrate
from django.utils.module_loading import autodiscover_modules

from web.people import early_states


class PeopleConfig(AppConfig):
    name = "web.people"

    def ready(self) -> None:
        autodiscover_modules("handing")  # how each app's things go from one owner to another
        pre_migrate.connect(early_states.mend, sender=self)
