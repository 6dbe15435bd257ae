"""Preferences and accounts as a screen."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="people",
        name="You",
        address="people:preferences",
        order=9,
        narrow_only=True,
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
