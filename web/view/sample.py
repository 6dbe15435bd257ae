"""The scene that View opens with: Sallow Pit, a flooded slate quarry."""

from web.hand.fields import TOLD, USUAL

NAME = "Sallow Pit"

GEAR = {
    **USUAL,
    "place": "between",
    "camera_height": "0.9 m",
    "tilt_deg": "15",
    "upright": "",
    "ring": "",
}
FOLDED = (
    "first", "lens_front", "subject", "focus_by", "box", "box_at", "overlap", "bracket",
    "pause", "keep", "metered_f", "metered_time", "metered_iso", "iso", "time", "nd",
    "held", "steady", "leaves", "dusk", "trials", "trial_soft", "trial_sharp",
    *TOLD,
    "care_water", "care_edges", "care_sun", "care_road", "care_night",
)  # fmt: skip
"""The fields of the folded panels (``panels.READERS``)."""
GEAR |= dict.fromkeys(("slope_deg", "moved", "look", "choose", *FOLDED), "")
"""Empty, each of these means its usual."""
MARKS = (
    ("Slate slab", "1.3 m", "must"),
    ("Winch wheel", "4.2 m", "must"),
    ("Tip ridge", "180 m", "must"),
    ("Reed tuft", "0.8 m", "may_go"),
)
