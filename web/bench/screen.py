"""Bench, its tests and the target, as screens."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="bench",
        name="Bench",
        address="bench:page",
        order=8,
        styles=("ui/drawings.css", "bench/bench.css"),
        scripts=("bench/frames.js",),
        help="bench/help.html",
    ),
    Screen(
        key="loupe",
        within="bench",
        styles=("ui/drawings.css", "bench/bench.css", "bench/loupe.css"),
        scripts=("bench/loupe.js",),
        help="bench/help.html",
    ),
    Screen(
        key="target",
        within="bench",
        styles=("bench/bench.css", "ui/printed.css", "bench/target.css"),
        help="bench/help.html",
    ),
)
