"""How a test is done, one step at a time."""

from web.planner.steps import Branch, Routine, Step

SHIFT = Routine(
    key="shift",
    name="Focus shift",
    when="what the focus of a lens does as its aperture closes",
    steps=(
        Step(
            "Print the target at its true size.",
            "On A4 or Letter, at 100 %, “fit to page” switched off. Measure the line at its foot: "
            "it should be 100 mm. Glue or tape it flat onto something stiff.",
            branches=(
                Branch(
                    "The line is not 100 mm",
                    (
                        "Look for “actual size” or “100 %” in the window that prints.",
                        "Two millimetres more or less do no harm: distances are then off by as "
                        "much, the shift hardly.",
                    ),
                ),
            ),
        ),
        Step(
            "Lean it back by some 45°, its rings at the far end.",
            "Against a box or a wall, in even light. The camera looks at it level or a little from "
            "above, straight along its middle.",
        ),
        Step(
            "Camera on a tripod, some thirteen focal lengths away.",
            "For 50 mm that is 65 cm: all six round marks are in the frame, and the sheet nearly "
            "fills it. Timer or cable; stabiliser off; lowest ISO; sharpening in the camera off.",
        ),
        Step(
            "Open the aperture all the way, and focus on the middle of the sheet.",
            "Between the two small triangles, by the magnified view. Then touch the ring no more: "
            "autofocus off, tape on the ring if it turns easily.",
            key="focus",
        ),
        Step(
            "Take a frame at each aperture, from the widest on.",
            "Change the time as you close, so that the paper stays light and is not blown out. Two "
            "frames at each do better than one.",
            branches=(
                Branch("I touched the ring", ("Begin again from the widest.",), back="focus"),
            ),
        ),
        Step(
            "Bring the files to the test, in any order.",
            "JPEG as the camera writes them, or raw. Each is looked at as it comes; what cannot be "
            "used is said, with what to do about it.",
        ),
    ),
)
"""Focus shift."""
