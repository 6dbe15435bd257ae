"""Bag, its standards and its comparison, as screens."""

from web.ui.screens import Screen, register

_STYLES = ("ui/drawings.css", "bag/bag.css", "bag/things.css", "bag/compare.css")

register(
    Screen(key="bag", name="Bag", address="bag:overview", order=1, styles=_STYLES),
    Screen(key="thing", within="bag", styles=_STYLES, scripts=("vendor/htmx/htmx.min.js",)),
    Screen(key="compare", within="bag", styles=_STYLES, scripts=("vendor/htmx/htmx.min.js",)),
)
