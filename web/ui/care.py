"""What to mind at a place, by what it is like there: said wherever something is taken out."""

from __future__ import annotations

from collections.abc import Iterable

CARE = {
    "water": (
        "Water, or wet rock",
        "Wet slate is slippery, and swell comes in sets: watch the water for ten minutes before "
        "you set up, never turn your back to it, know the tide, and keep a way out.",
    ),
    "edges": (
        "Edges, old workings",
        "Keep back from edges and out of old workings: quarry faces fall, spoil slides, water in "
        "pits is deep and cold. Set the tripod where you can step back without looking.",
    ),
    "sun": (
        "Sun in the frame",
        "Never look at the sun through a finder, and never point a lens at it without a certified "
        "filter: compose with it hidden, and do not leave the camera aimed at it.",
    ),
    "road": (
        "Traffic",
        "Look up from the finder before every step: you do not hear or see traffic while looking "
        "through it. Keep the tripod off the carriageway.",
    ),
    "night": (
        "Dark and cold",
        "Tell someone where you are and when you are back. Learn the ground by day; a red light "
        "for your feet, and none towards drivers or other people’s dark.",
    ),
}
"""By what it is like: how that is called, and what to mind."""
PEOPLE = (
    "Streets and people",
    "Law and courtesy about photographing people differ from place to place: know them here, ask "
    "where you can, and put the camera down when somebody minds.",
)
ALWAYS = "Local rules, and the people trained for the place, come before any picture."


def minded(keys: Iterable[str]) -> tuple[str, ...]:
    """What to mind where it is like that, in one order; and what holds everywhere."""
    wanted = set(keys)
    return (*(text for key, (_, text) in CARE.items() if key in wanted), ALWAYS)
