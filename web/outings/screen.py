"""Measuring from a snapshot, as a screen of View."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="snapshot",
        within="view",
        styles=("ui/drawings.css", "outings/snapshot.css"),
        scripts=("vendor/htmx/htmx.min.js", "outings/snapshot.js"),
        keys=(
            ("h f t", "what a click sets next: horizon, foot or top"),
            ("← → ↑ ↓", "on the picture: move the last point by a pixel; with Shift, by ten"),
            ("Delete", "take the last point out"),
        ),
        help="outings/help.html",
    ),
)
