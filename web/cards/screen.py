"""Cards for the pocket as screens."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="cards",
        name="Cards",
        address="cards:page",
        order=6,
        styles=("ui/card.css", "cards/cards.css"),
        scripts=("vendor/htmx/htmx.min.js", "cards/strip.js"),
        help="cards/help.html",
    )
)
