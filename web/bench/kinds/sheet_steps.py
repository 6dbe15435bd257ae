"""Steps that tests by the printed sheet have in common."""

from __future__ import annotations

from web.planner.steps import Branch, Step

__all__ = ["BRING", "PRINT", "Branch", "Step"]

PRINT = Step(
    "Print the target at its true size.",
    "On A4 or Letter, at 100 %, “fit to page” switched off. Measure the line at its foot: it "
    "should be 100 mm. Glue or tape it flat onto something stiff.",
    branches=(
        Branch(
            "The line is not 100 mm",
            (
                "Look for “actual size” or “100 %” in the window that prints.",
                "Two millimetres more or less do no harm: distances are then off by as much, what "
                "is found hardly.",
            ),
        ),
    ),
)
BRING = Step(
    "Bring the files to the test, in any order.",
    "JPEG as the camera writes them, or raw. Each is looked at as it comes; what cannot be used is "
    "said, with what to do about it.",
)
