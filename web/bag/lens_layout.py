"""What is asked of a lens, in the order and the words of the page."""

from __future__ import annotations

from web.bag.layout import CHOICE, HIDDEN, LINES, TICK, Row, Section

SECTIONS = (
    Section(
        "",
        (
            Row("name", "Name", placeholder="28 mm f/2.8 with tab"),
            Row("shortest_mm", "Focal length", unit="mm"),
            Row("widest", "Widest aperture", prefix="f/"),
            Row("findings", "What its tests found", kind=HIDDEN),
        ),
    ),
    Section(
        "A zoom, and the rest of its apertures",
        (
            Row("longest_mm", "To focal length", unit="mm", placeholder="no zoom"),
            Row("widest_at_long_end", "Widest there", prefix="f/", placeholder="the same"),
            Row("smallest", "Smallest aperture", prefix="f/", placeholder="22, assumed"),
        ),
        folded=True,
    ),
    Section(
        "The focus ring",
        (
            Row("closest_mm", "Closest focus", placeholder="ten focal lengths, assumed",
                help="From the sensor mark on the body."),
            Row("has_scale", "It has a distance scale", kind=TICK),
            Row("ring_kind", "The ring", kind=CHOICE),
            Row("to_infinity", "To infinity it turns", kind=CHOICE,
                help="As seen from behind the camera."),
            Row("as_it_closes", "As it closes, its focus", kind=CHOICE,
                help="Focus it wide open and at f/4 on one thing: are both as sharp?"),
            Row("projection", "It draws", kind=CHOICE,
                help="Only a fisheye bends straight lines."),
            Row("throw_deg", "Throw, infinity to closest", unit="°", placeholder="assumed 90"),
            Row("tab_at_infinity_hours", "Tab, at infinity, stands at",
                placeholder="no tab, or 4:30",
                help="As a clock’s hand seen from behind; or: straight down at 1.2 m."),
            Row("marks", "Measured marks", kind=LINES,
                placeholder="0.7 m: 108\n1 m: 74\ninf: 0",
                help="A distance and its angle a line, if you have measured them."),
        ),
        folded=True,
        at_first=True,
    ),
    Section(
        "Depth-of-field marks",
        (
            Row("depth_marks", "Engraved for f/", placeholder="8 11 16 22"),
            Row("depth_marks_circle_mm", "Made for a circle of", unit="mm",
                placeholder="not known"),
            Row("read_f_number", "Or one reading: at", prefix="f/"),
            Row("read_focus", "with the ring at"),
            Row("read_near", "sharp from"),
            Row("read_far", "to"),
        ),
        folded=True,
        help="If you do not know that circle: one reading of the scale, or of the camera’s "
        "bar on the screen, gives it.",
    ),
    Section(
        "Close work",
        (
            Row("pupil_ratio", "Pupil ratio", placeholder="1, assumed",
                help="Exit ÷ entrance pupil: how wide the aperture looks from behind ÷ from "
                "the front."),
            Row("pupil_to_sensor_mm", "Or from entrance pupil to sensor", unit="mm",
                placeholder="with the ring at infinity"),
            Row("hiatus_mm", "Between the principal planes", unit="mm",
                placeholder="0, assumed"),
            Row("front_mm", "Sensor mark to the lens’s front", unit="mm",
                placeholder="assumed, about 100"),
            Row("ring_off_mm", "Stands out beyond its ring’s reading", unit="mm",
                placeholder="0", help="As a trial frame showed it."),
        ),
        folded=True,
        help="These matter nearer than about ten focal lengths, and hardly beyond.",
    ),
)  # fmt: skip
