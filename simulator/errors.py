"""What is wrong with a scene that is to be photographed."""

from __future__ import annotations


class SceneError(ValueError):
    """A scene that cannot be photographed. ``place``: the field at fault; ``sentence``: what is
    wrong with it."""

    def __init__(self, place: str, sentence: str) -> None:
        self.place, self.sentence = place, sentence
        super().__init__(f"{place}: {sentence}" if place else sentence)
