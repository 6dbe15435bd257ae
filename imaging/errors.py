"""What can be wrong with a picture: a small tree, each with one sentence that says the cure."""

from __future__ import annotations


class PictureError(ValueError):
    """A picture that nothing can be said of. ``sentence``: what is wrong, and what to do about it;
    ``place``: the file, or where in the picture, empty where that is plain."""

    def __init__(self, sentence: str, place: str = "") -> None:
        self.sentence, self.place = sentence, place
        super().__init__(f"{place}: {sentence}" if place else sentence)


class NotAPicture(PictureError):
    """A file that no reader of pictures understands."""


class CutShort(PictureError):
    """A picture whose file ends before the picture does."""


class TooLarge(PictureError):
    """More pixels, or more bytes, than a camera writes."""


class NoEdge(PictureError):
    """A picture without one clear straight edge."""


class NotSlanted(PictureError):
    """An edge along rows or columns of pixels, too sharp to be measured there."""


class NoStars(PictureError):
    """A picture without points of light to measure."""


class NoTarget(PictureError):
    """A picture in which the printed target was not found, or not whole."""


class BadLight(PictureError):
    """A picture too dark, or blown out, where it is to be measured."""


class Shaken(PictureError):
    """A picture blurred by movement: softer across one direction than across the other."""


class WrongWay(PictureError):
    """A target that is not tilted as it has to be."""


class NotKnown(PictureError):
    """Something that a measure needs and the file does not say."""


class Mixed(PictureError):
    """Frames that do not belong together."""
