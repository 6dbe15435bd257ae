"""Bag, its standards and its comparison, as screens."""

from web.ui.screens import Screen, register

_STYLES = (
    "ui/desk.css",
    "ui/sightline.css",
    "ui/frame.css",
    "ui/marks.css",
    "ui/plans.css",
    "ui/tools.css",
    "ui/entries.css",
    "bag/bag.css",
    "bag/compare.css",
    "bag/hand.css",
    "ui/narrow.css",
    "sky/sky.css",
    "street/drawings.css",
    "street/street.css",
)

register(
    Screen(key="bag", name="Bag", address="bag:overview", order=1, styles=_STYLES),
    Screen(key="compare", within="bag", styles=_STYLES, scripts=("vendor/htmx/htmx.min.js",)),
)
