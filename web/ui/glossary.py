"""The dozen words of focus, each said in a sentence or two: beside where it stands, and in the
help."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Term:
    """A word that a screen uses. ``key``: what a template calls it."""

    key: str
    word: str
    says: str


TERMS = (
    Term(
        "standard",
        "Your standard",
        "How much blur you still call sharp, by how large the picture is seen. Twice your "
        "standard is twice as much blur as that.",
    ),
    Term(
        "holds",
        "Holds",
        "Blurred by no more than your standard, wherever in its doubt it stands: it will look"
        " sharp. Just: at the distance you gave, but not if that is off.",
    ),
    Term(
        "soft",
        "Soft",
        "Blurred by more than your standard: it will show.",
    ),
    Term(
        "ring",
        "Ring",
        "The focus ring of the lens, read in distance from the sensor mark on the body: a "
        "line through a circle on its top.",
    ),
    Term(
        "window",
        "Anywhere from … to …",
        "Wherever the ring stands in that stretch, all of it holds. Its width is how far off "
        "your hand may be.",
    ),
    Term(
        "sharp",
        "Sharp from … to …",
        "Depth of field: everything in that stretch holds, whether it is a mark or not.",
    ),
    Term(
        "depth",
        "Depth",
        "How far along the lens’s axis, from the sensor mark. A thing to the side or below is"
        " less deep than a tape to it reads.",
    ),
    Term(
        "hyperfocal",
        "Hyperfocal distance",
        "The nearest setting of the ring that still holds infinity. From about half of it on,"
        " everything holds.",
    ),
    Term(
        "circle",
        "Circle of confusion",
        "Your standard as it is on the sensor: the largest spot of blur that still looks like"
        " a point.",
    ),
    Term(
        "between",
        "Between the ends",
        "Where the nearest and the farthest that must be sharp are blurred alike: nearer than"
        " half way.",
    ),
    Term(
        "diffraction",
        "Diffraction",
        "A small aperture softens all of the picture, the smaller the more. Closing the lens "
        "further then makes nothing sharper.",
    ),
    Term(
        "stop",
        "Stop",
        "Half or twice the light: f/8 to f/11 is one. Each stop closed halves the light, and "
        "takes the blur of what is out of focus down by three tenths.",
    ),
    Term(
        "infinity",
        "∞",
        "So far that the ring need not move for anything farther. For a wide lens that is "
        "some hundred metres on.",
    ),
)
