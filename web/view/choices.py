"""What can be chosen on View, with the words for it."""

from __future__ import annotations

from django.db.models import TextChoices

from optics.scene.schools import OFFERED

SCHOOLS = tuple((school.key, school.name) for school in OFFERED)
"""The schools of placing focus."""
WINDS = (
    ("", "not said"),
    ("still", "no wind"),
    ("light", "light air"),
    ("breeze", "a breeze"),
    ("strong", "strong wind"),
)
QUESTIONS = (
    {"key": "near", "says": "The nearest thing that must be sharp?", "for": "0.7 m"},
    {"key": "far", "says": "And the farthest?", "for": "180 m"},
)
"""What an empty scene asks."""
APERTURE_CAPTIONS = {
    "fixed": "Aperture",
    "widest": "Widest that holds",
    "sharpest": "Sharpest aperture",
    "softens": "Soft where it should",
}
"""What the aperture of the answer is, by ``Choose``."""


class Role(TextChoices):
    """What a mark is asked to be."""

    MUST = "must", "must be sharp"
    NICE = "nice", "nice to have"
    MAY_GO = "may_go", "may go soft"
    FALL_SOFT = "fall_soft", "should fall soft"
    SMEAR = "smear", "should smear"


class How(TextChoices):
    """How the distance of a mark was got."""

    RING = "ring", "camera’s scale"
    STRAIGHT = "straight", "sensor mark"
    FRONT = "front", "front of the lens"
    GROUND = "ground", "along the ground"
    SIZE = "size", "its size"
    EYE = "eye", "by eye"


class Look(TextChoices):
    """The look wished for; what must be sharp follows from it."""

    EVERYTHING = "everything", "Everything sharp"
    SUBJECT = "subject", "Subject, natural fall-off"


class FocusBy(TextChoices):
    """Ways of focusing (``optics.focusing.Way``)."""

    EYE = "eye", "by eye, in the finder"
    SCALE = "scale", "by the ring’s scale"
    LIGHT = "light", "confirmation light"
    SPOT = "spot", "spot autofocus"
    MAGNIFIED = "magnified", "magnified view"


class Choose(TextChoices):
    """Who chooses the aperture."""

    FIXED = "fixed", "set by hand"
    WIDEST = "widest", "widest that holds"
    SHARPEST = "sharpest", "sharpest"
    SOFTENS = "softens", "soft where it should be"
