"""What the screens of planners have in common. It is no screen itself."""

STYLES = (
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
)
SCRIPTS = ("vendor/htmx/htmx.min.js", "planner/planner.js")
APERTURE = ("[ ]", "open or close the aperture by a step")
KEYS = (
    APERTURE,
    ("← →", "on the ring: turn it nearer or farther; with Shift, ten times as far"),
)
