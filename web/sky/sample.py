"""What Sky opens with: the ridge of Hallin Top on a clear night."""

from web.hand.fields import USUAL

NAME = "Hallin Top"

NIGHT = {
    "upright": "",
    "star_px": "1.5",
    "margin": "",
    "ring": "",
    "subject": "",
    "projection": "",
    "mount": "",
    "pole_off": "",
    "film_iso": "",
    "reciprocity": "",
    "trail_px": "",
    "part": "",
    "latitude": "",
    "direction": "",
    "height": "",
    "seconds": "",
    "dark": "",
    "meter": "",
    "moon": "",
    "iso_most": "",
    "foreground": "",
    "underfoot": "",
    "order": "",
}
"""Empty, each but the width of a star means its usual."""
GEAR = {
    **USUAL,
    "lens": "16 mm f/2 for the night",
    "focal_length_mm": "16",
    "f_number": "2",
    **NIGHT,
}
