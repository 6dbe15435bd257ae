"""Drills as screens."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="drills",
        name="Drills",
        address="drills:page",
        order=9,
        styles=("ui/drawings.css", "drills/drills.css"),
        scripts=("ui/waiting.js", "drills/tries.js"),
        help="drills/help.html",
    ),
    Screen(
        key="drill",
        within="drills",
        styles=(
            "ui/drawings.css",
            "drills/drills.css",
            "drills/play.css",
            "drills/stages.css",
            "drills/moment.css",
        ),
        scripts=(
            "ui/waiting.js",
            "drills/tries.js",
            "drills/make.js",
            "drills/pictures.js",
            "drills/dial.js",
            "drills/touch.js",
            "drills/moment.js",
            "drills/play.js",
        ),
        keys=(
            ("← →", "turn, or go along; with Shift, ten at a time"),
            ("1 to 9", "that answer"),
            ("Enter", "that is it; and the next"),
            ("Space", "press the shutter"),
            ("z", "do not count the last answer"),
            ("Esc", "back to all drills"),
        ),
        help="drills/help.html",
    ),
    Screen(
        key="drill-field",
        within="drills",
        styles=("drills/drills.css", "drills/play.css"),
        scripts=("ui/waiting.js", "drills/tries.js", "drills/make.js", "drills/field.js"),
        help="drills/help.html",
    ),
)
