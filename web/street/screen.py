"""Street as a screen."""

from web.planner.desk import APERTURE, SCRIPTS, STYLES
from web.ui.screens import Screen, register

register(
    Screen(
        key="street",
        name="Street",
        address="street:page",
        order=3,
        styles=(*STYLES, "street/drawings.css", "street/street.css"),
        scripts=(*SCRIPTS, "street/street.js"),
        keys=(
            ("1 to 9", "that many positions"),
            APERTURE,
            (
                "← →",
                "on a position: move it nearer or farther, and lock it; with Shift, ten times",
            ),
            ("h", "lock home where it is"),
            ("Esc", "unlock all"),
        ),
        help="street/help.html",
    ),
)
