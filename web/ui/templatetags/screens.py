"""What the page around every screen asks of the registry."""

from __future__ import annotations

from django import template

from web.ui import bundles, screens
from web.ui.screens import Screen

register = template.Library()


@register.simple_tag
def screen_of(key: str) -> Screen:
    """The record of the screen that a view names."""
    return screens.known(key)


@register.simple_tag
def bundle_of(screen: Screen, kind: str) -> str:
    """The address of all the styles (css) or scripts (js) of a screen."""
    return bundles.address(screen.key, kind)


@register.simple_tag
def navigation() -> list[Screen]:
    """The screens to go to."""
    return screens.navigation()
