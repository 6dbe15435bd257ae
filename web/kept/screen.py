"""The list of what is kept as a screen."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="kept",
        name="Kept",
        address="kept:page",
        order=8,
        styles=("kept/kept.css", "ui/along.css"),
        scripts=("ui/along.js",),
        help="kept/help.html",
    )
)
