"""Preferences and accounts as a screen."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="people",
        name="You",
        address="people:preferences",
        order=10,
        narrow_only=True,
        styles=("people/people.css",),
        help="people/help.html",
    )
)
