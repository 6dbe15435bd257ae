"""View, and its sheet, as screens."""

from web.planner.desk import KEYS, SCRIPTS, STYLES
from web.ui.screens import Screen, register

register(
    Screen(
        key="view",
        name="View",
        address="view:page",
        order=2,
        styles=STYLES,
        scripts=(*SCRIPTS, "view/frame.js", "view/marks.js", "view/panels.js", "view/view.js"),
        keys=(
            *KEYS,
            ("Home End", "on the ring: nearest of the drawing, infinity"),
            ("Esc", "give the computed setting back"),
            ("n", "write a new mark"),
            ("1 to 7", "the ways of placing focus, in their order"),
            ("← ↑ → ↓", "on a mark or the autofocus box in the frame: move it"),
        ),
    ),
    Screen(key="sheet", within="view", styles=(*STYLES, "ui/printed.css", "view/sheet.css")),
)
