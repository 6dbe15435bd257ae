"""How scale and throw are tested, one step at a time."""

from __future__ import annotations

from web.planner.steps import Branch, Routine, Step

ROUTINE = Routine(
    key="scale",
    name="Scale and throw",
    when="whether the distances on a ring hold",
    steps=(
        Step(
            "Put something with fine print at a taped distance.",
            "A zoom at its shortest focal length. From the sensor mark on the body, straight "
            "to it. Begin near: some twenty-five focal lengths, for 50 mm 1.2 m.",
            key="place",
        ),
        Step(
            "Open the aperture all the way, magnify the view, and focus on it.",
            "Come from the same side each time, so that play in the ring counts alike.",
        ),
        Step(
            "Read what the ring says.",
            "As finely as you can: a third of the way from 2 to 3 m is 2.3 m. Or how far it is "
            "turned from its infinity mark, in degrees: a strip of tape round the barrel "
            "tells.",
            branches=(
                Branch(
                    "The ring has no distances",
                    ("Read degrees, or what the screen says of the distance.",),
                ),
            ),
        ),
        Step(
            "Go on with other distances, six in all.",
            "Each about half as far again as the last. What they differ by is what the scale "
            "is unsure by.",
            branches=(Branch("The next one", ("Begin from the tape.",), back="place"),),
        ),
    ),
)
