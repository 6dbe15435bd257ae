"""Sky, and the ways to get there, as screens."""

from web.planner.desk import APERTURE, SCRIPTS, STYLES
from web.ui.screens import Screen, register

register(
    Screen(
        key="sky",
        name="Sky",
        address="sky:page",
        order=4,
        styles=(*STYLES, "sky/frame.css", "sky/sky.css"),
        scripts=(*SCRIPTS, "sky/sky.js"),
        keys=(
            APERTURE,
            ("g", "open or fold the ways to get there"),
            ("1 to 3", "a way, in the order they are offered; with two frames, 4 too"),
            ("w", "walk it, one step at a time"),
            ("← →", "on the ring: turn it; with Shift, ten times as far"),
            ("Esc", "give the computed setting back"),
        ),
        help="sky/help.html",
    ),
    Screen(
        key="walk",
        within="sky",
        styles=("planner/walk.css",),
        scripts=("planner/walk.js",),
        keys=(
            ("n, → or Space", "the next step"),
            ("p or ←", "the step before"),
            ("1 to 3", "another way, in the order they are offered; with two frames, 4 too"),
            ("Esc", "back to the plan"),
        ),
        help="sky/help.html",
    ),
)
