"""The made-up body: its sensor, its noise, and how it says that something is in focus."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Body:
    """A body.

    ``width``, ``height``  pixels; ``frame_width`` mm, the pixels are square.
    ``full_well``          electrons that a pixel holds at ISO 100; ``read_noise`` electrons.
    ``light_off``          how far in front of the true focus its confirmation light comes on, mm in
                           image space (positive: on things nearer than are sharp);
                           ``light_scatter`` by how much, one time to the next.
    ``name``               as its files say.
    """

    width: int = 3000
    height: int = 2000
    frame_width: float = 36.0
    full_well: float = 40_000.0
    read_noise: float = 3.0
    light_off: float = 0.0
    light_scatter: float = 0.0
    name: str = "Made-up body"

    @property
    def pitch(self) -> float:
        """Between two pixels, mm."""
        return self.frame_width / self.width

    @property
    def frame_height(self) -> float:
        """mm."""
        return self.height * self.pitch
