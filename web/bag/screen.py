"""Bag, its standards and its comparison, as screens."""

from web.kept import along
from web.ui.screens import Screen, register

_STYLES = ("ui/drawings.css", "bag/bag.css", "bag/things.css", "bag/compare.css")
_SCRIPTS = ("vendor/htmx/htmx.min.js",)

register(
    Screen(
        key="bag",
        name="Bag",
        address="bag:overview",
        order=1,
        styles=_STYLES,
        help="bag/help.html",
    ),
    Screen(
        key="thing",
        within="bag",
        styles=_STYLES,
        scripts=(*_SCRIPTS, "bag/thing.js"),
        help="bag/help.html",
    ),
    Screen(key="compare", within="bag", styles=_STYLES, scripts=_SCRIPTS, help="bag/help.html"),
)

along.also("bag", "The bag", "lenses, bodies and standards", "bag:overview", 22)
