"""What pictures are made of."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Luminance = npt.NDArray[np.float32]
"""Linear, 0 to 1, rows × columns."""
Flags = npt.NDArray[np.bool_]
