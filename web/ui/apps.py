"""Finds the screens of the apps at start."""

from __future__ import annotations

from django.apps import AppConfig
from django.utils.module_loading import autodiscover_modules


class UiConfig(AppConfig):
    """The page around every screen."""

    name = "web.ui"

    def ready(self) -> None:
        autodiscover_modules("screen")
