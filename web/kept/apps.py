"""Finds the kinds of the planners, and how they are printed, at start."""

from __future__ import annotations

from django.apps import AppConfig
from django.utils.module_loading import autodiscover_modules


class KeptConfig(AppConfig):
    """What planners keep."""

    name = "web.kept"

    def ready(self) -> None:
        autodiscover_modules("kind", "card")
