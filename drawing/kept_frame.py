"""The frame, small: where in it stars stay within what is allowed, and where they do not.

To scale, as it is held. Each row of cells is merged into runs, so that the whole is one path.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

LONG = 168.0
"""How long the frame's long side is drawn."""


@dataclass(frozen=True, slots=True)
class KeptFrame:
    """Drawing units. ``beyond``: one path of all cells where stars go too far, or empty;
    ``ground``: of those without stars."""

    width: float
    height: float
    beyond: str
    ground: str


def draw(width: float, height: float, drifts: npt.ArrayLike, most: float) -> KeptFrame:
    """A frame of so many mm, held as given.

    ``drifts``  how far stars go, mm, in equal cells: a row for each height, lowest first; nan where
                there is no sky. ``most``: mm that are allowed.
    """
    unit = LONG / max(width, height)
    cells = np.asarray(drifts, dtype=np.float64)
    no_sky = np.isnan(cells)
    beyond = np.where(no_sky, 0.0, cells) > most * (1 + 1e-9)
    return KeptFrame(
        width * unit,
        height * unit,
        _runs(beyond, width * unit, height * unit),
        _runs(no_sky, width * unit, height * unit),
    )


def _runs(chosen: npt.NDArray[np.bool_], width: float, height: float) -> str:
    """The chosen cells as rectangles, each as long as its run in its row."""
    rows, columns = chosen.shape
    across, down = width / columns, height / rows
    found = []
    for at, row in enumerate(chosen):
        edges = np.flatnonzero(np.diff(np.concatenate(([0], row.astype(np.int8), [0]))))
        top = height - (at + 1) * down
        for start, end in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True):
            left, right = start * across, end * across
            found.append(f"M{left:.1f} {top:.1f}H{right:.1f}v{down:.1f}H{left:.1f}Z")
    return "".join(found)
