"""The scene that View opens with: Sallow Pit, a flooded slate quarry."""

NAME = "Sallow Pit"

GEAR = {
    "lens": "20–35 mm f/4 zoom",
    "format": "full-frame",
    "pixels_across": "6000",
    "focal_length_mm": "24",
    "f_number": "11",
    "circle_mm": "0.025",
    "diffraction": "",
    "place": "between",
    "camera_height": "0.9 m",
    "tilt_deg": "15",
    "upright": "",
    "ring": "",
    "units": "m",
}
MARKS = (
    ("Slate slab", "1.3 m", "must"),
    ("Winch wheel", "4.2 m", "must"),
    ("Tip ridge", "180 m", "must"),
    ("Reed tuft", "0.8 m", "may_go"),
)
