"""The registry of screens: what a screen says of itself, in one small record.

An app registers its screens in its own ``screen.py``, which is found at start. The page around
every screen goes by these records, and lists no screen by hand.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Screen:
    """A screen, or a page beside one.

    ``key``      what its views call it. ``name``: what people call it; empty for a page beside.
    ``address``  the name of its address; ``order``: its place in the navigation, which has only
                 those that have one. ``narrow_only``: whether a phone alone shows it there.
    ``within``   the key of the screen that a page beside belongs to; empty for a screen.
    ``styles``, ``scripts``  its own, in the order they are loaded.
    ``keys``     for the help: what to press, in words of this form: ``[ ]``, ``1 to 7``; and what
                 that does.
    ``help``     the template of what else the help says; empty for what it says everywhere.
    """

    key: str
    name: str = ""
    address: str = ""
    order: int = 0
    narrow_only: bool = False
    within: str = ""
    styles: tuple[str, ...] = ()
    scripts: tuple[str, ...] = ()
    keys: tuple[tuple[str, str], ...] = ()
    help: str = "ui/help_words.html"

    @property
    def pressed(self) -> tuple[tuple[tuple[tuple[str, bool], ...], str], ...]:
        """The keys for the help: each word with whether it is a key or joins two."""
        return tuple(
            (tuple((word, word not in _JOINING) for word in press.split()), does)
            for press, does in self.keys
        )


_JOINING = ("to", "and", "or")
_SCREENS: dict[str, Screen] = {}
NONE = Screen(key="")
"""For pages that are no screen's, such as that of an error."""


def register(*screens: Screen) -> None:
    """Make screens known. Raises ValueError for a key that is taken."""
    for screen in screens:
        if screen.key in _SCREENS:
            raise ValueError(f"There is a screen {screen.key} already.")
        _SCREENS[screen.key] = screen


def known(key: str) -> Screen:
    """The screen of a key; one with nothing of its own for none."""
    return _SCREENS.get(key, NONE)


def every() -> Iterable[Screen]:
    """All of them."""
    return _SCREENS.values()


def navigation() -> list[Screen]:
    """Those that the navigation has, in their order."""
    return sorted((one for one in every() if one.order), key=lambda screen: screen.order)
