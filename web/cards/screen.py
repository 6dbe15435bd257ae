"""Cards for the pocket as screens."""

from web.kept import along
from web.ui.screens import Screen, register

register(
    Screen(
        key="cards",
        name="Cards",
        address="cards:page",
        order=6,
        styles=("ui/card.css", "cards/cards.css", "cards/packs.css", "ui/along.css"),
        scripts=("vendor/htmx/htmx.min.js", "cards/strip.js", "ui/along.js"),
        help="cards/help.html",
    ),
    Screen(
        key="card",
        within="cards",
        styles=("ui/drawings.css", "ui/printed.css", "ui/card.css"),
        help="cards/help.html",
    ),
    Screen(
        key="at",
        within="cards",
        styles=("cards/at.css",),
        scripts=("cards/at.js",),
        help="cards/help.html",
    ),
)

along.also("strip", "Sliding strip", "of the lens in hand", "cards:strip", 17)
