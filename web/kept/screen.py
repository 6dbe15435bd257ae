"""The list of what is kept as a screen."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="kept",
        name="Kept",
        address="kept:page",
        order=8,
        styles=(
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
        ),
    )
)
