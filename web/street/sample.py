"""What Street opens with: Tinder Row, a covered street market under tram wires."""

from web.hand.fields import USUAL

NAME = "Tinder Row"

STREET = {
    "upright": "",
    "like": "1.4 m",
    "near": "",
    "far": "",
    "count": "3",
    "home": "",
    "locked": "",
    "speed": "",
    "angle_deg": "",
    "lag": "",
    "judge": "",
    "light": "",
    "iso_most": "",
    "slowest": "",
    "spread": "",
    "set_for": "",
    "bar": "",
}
"""Empty, each of these means its usual; the distance liked and the number are always said."""
GEAR = {
    **USUAL,
    "lens": "28 mm f/2.8 with tab",
    "focal_length_mm": "28",
    "f_number": "8",
    **STREET,
}
