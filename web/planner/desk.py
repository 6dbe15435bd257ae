"""What the screens of planners have in common. It is no screen itself."""

STYLES = (
    "ui/printed.css",
    "ui/drawings.css",
    "planner/desk.css",
    "planner/strip.css",
    "planner/results.css",
    "planner/sightline.css",
    "hand/hand.css",
)
SCRIPTS = (
    "vendor/htmx/htmx.min.js",
    "planner/keeping.js",
    "planner/saving.js",
    "planner/pointers.js",
    "planner/planner.js",
)
APERTURE = ("[ ]", "open or close the aperture by a step")
KEYS = (
    APERTURE,
    ("← →", "on the ring: turn it nearer or farther; with Shift, ten times as far"),
)
