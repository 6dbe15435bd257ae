"""View, and its sheet, as screens."""

from optics.scene.schools import OFFERED
from web.planner.desk import KEYS, SCRIPTS, STYLES
from web.ui.screens import Screen, register

register(
    Screen(
        key="view",
        name="View",
        address="view:page",
        order=2,
        styles=(
            *STYLES,
            "view/marks.css",
            "view/first.css",
            "view/frame.css",
            "view/tools.css",
            "view/why.css",
        ),
        scripts=(
            *SCRIPTS,
            "view/frame.js",
            "view/marks.js",
            "view/unit_keys.js",
            "view/panels.js",
            "view/view.js",
        ),
        keys=(
            *KEYS,
            ("Home End", "on the ring: nearest of the drawing, infinity"),
            ("Esc", "give the computed setting back"),
            ("n", "write a new mark"),
            (f"1 to {len(OFFERED)}", "the ways of placing focus, in their order"),
            ("← ↑ → ↓", "on a mark or the autofocus box in the frame: move it"),
        ),
    ),
    Screen(
        key="field",
        within="view",
        styles=("ui/drawings.css", "planner/sightline.css", "view/frame.css", "view/field.css"),
        scripts=("view/field.js",),
        keys=(("← and →", "the plan before, the next plan"),),
    ),
    Screen(
        key="sheet",
        within="cards",
        styles=(
            "ui/drawings.css",
            "planner/sightline.css",
            "view/frame.css",
            "ui/printed.css",
            "view/sheet.css",
        ),
    ),
)
