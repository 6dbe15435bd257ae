"""Bench, its tests and the target, as screens."""

from web.ui.screens import Screen, register

register(
    Screen(
        key="bench",
        name="Bench",
        address="bench:page",
        order=8,
        styles=("ui/drawings.css", "bench/bench.css", "bench/charts.css"),
        scripts=("bench/frames.js",),
        help="bench/help.html",
    ),
    Screen(
        key="bench-steps",
        within="bench",
        styles=("planner/walk.css",),
        scripts=("planner/walk.js",),
        keys=(
            ("n, → or Space", "the next step"),
            ("p or ←", "the step before"),
            ("Esc", "back to the test"),
        ),
        help="bench/help.html",
    ),
    Screen(
        key="loupe",
        within="bench",
        styles=("ui/drawings.css", "bench/bench.css", "bench/loupe.css"),
        scripts=("vendor/htmx/htmx.min.js", "bench/loupe.js"),
        keys=(
            ("← → ↑ ↓", "in the small picture: move the loupe"),
            ("+ −", "enlarge more or less"),
            ("Enter", "keep the point"),
        ),
        help="bench/help.html",
    ),
    Screen(
        key="target",
        within="bench",
        styles=("bench/bench.css", "ui/printed.css", "bench/target.css"),
        help="bench/help.html",
    ),
)
