"""Outings as screens; and measuring from a snapshot, as one of View."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="outings",
        name="Outings",
        address="outings:page",
        order=7,
        styles=("ui/drawings.css", "outings/outings.css", "outings/frames.css", "ui/along.css"),
        scripts=(
            "vendor/htmx/htmx.min.js",
            "ui/along.js",
            "ui/waiting.js",
            "outings/log.js",
            "outings/flush.js",
            "outings/files.js",
        ),
        help="outings/outings_help.html",
    ),
    Screen(
        key="outing-there",
        within="outings",
        styles=("outings/there.css",),
        scripts=("ui/waiting.js", "outings/log.js", "outings/there.js"),
        keys=(
            ("f", "frame taken"),
            ("n p", "the next plan, the one before"),
            ("z", "take the last one back"),
        ),
        help="outings/outings_help.html",
    ),
    Screen(
        key="outing-frame",
        within="outings",
        styles=("ui/drawings.css", "outings/outings.css", "outings/frame.css"),
        scripts=("vendor/htmx/htmx.min.js", "outings/frame.js"),
        keys=(
            ("← → ↑ ↓", "on the picture: move the cross; with Shift, farther"),
            ("Enter", "on the picture: the mark stands here"),
            ("n p", "the next frame, the one before"),
        ),
        help="outings/outings_help.html",
    ),
    Screen(
        key="outing-learnt",
        within="outings",
        styles=("ui/drawings.css", "outings/outings.css", "outings/learnt.css"),
        help="outings/outings_help.html",
    ),
    Screen(
        key="outing-sheet",
        within="outings",
        styles=("ui/printed.css", "outings/sheet.css"),
        help="outings/outings_help.html",
    ),
    Screen(
        key="snapshot",
        within="view",
        styles=("ui/drawings.css", "outings/snapshot.css"),
        scripts=("vendor/htmx/htmx.min.js", "outings/snapshot.js", "outings/preview.js"),
        keys=(
            ("h f t", "what a click sets next: horizon, foot or top"),
            ("← → ↑ ↓", "on the picture: move the last point by a pixel; with Shift, by ten"),
            ("Delete", "take the last point out"),
        ),
        help="outings/help.html",
    ),
)
