"""Cards for the pocket as screens."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="cards",
        name="Cards",
        address="cards:page",
        order=6,
        styles=("ui/card.css", "cards/cards.css", "cards/packs.css"),
        scripts=("vendor/htmx/htmx.min.js", "cards/strip.js"),
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
