"""Where a planner starts a lens that is taken in hand: where it was left there, else at its short
end and the widest aperture that makes sense there."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from web.bag.models import Lens

SENSIBLE = {"view": 11.0, "street": 8.0, "sky": 0.0}
"""By planner: no wider than that at first; for stars as wide as it goes."""
OF_A_LENS = (
    "ring", "home", "locked", "set_for", "trials", "trial_soft", "trial_sharp", "lens_ideal",
)  # fmt: skip
"""What planners are told of the ring of the lens in hand: it does not hold for another."""
_MOST = 60


def planner_of(path: str) -> str:
    """The key of the planner at an address; empty for none."""
    key = path.strip("/").partition("/")[0]
    return key if key in SENSIBLE else ""


def start(lens: Lens, planner: str, uses: Mapping[str, Any]) -> tuple[float, float]:
    """Focal length, mm, and f-number. ``uses``: as ``used`` keeps them."""
    left = uses.get(f"{planner} {lens.pk}")
    if isinstance(left, list) and len(left) == 2 and all(isinstance(n, (int, float)) for n in left):
        focal_length, f_number = left
    else:
        focal_length, f_number = lens.shortest_mm, SENSIBLE[planner]
    focal_length = min(max(float(focal_length), lens.shortest_mm), lens.longest_mm)
    smallest = lens.smallest_or_assumed.value
    return focal_length, min(max(float(f_number), lens.widest_at(focal_length)), smallest)


def afresh(texts: Mapping[str, str], planner: str) -> dict[str, str]:
    """A planner's texts before a lens that nobody owns is taken: it starts at its short end too."""
    if not planner:
        return dict(texts)
    return {**texts, "focal_length_mm": "0", "f_number": f"{SENSIBLE[planner]:g}"}


def used(
    uses: Mapping[str, Any], lens: Lens, planner: str, focal_length: float, f_number: float
) -> dict[str, Any]:
    """``uses`` with where a planner leaves a lens, the latest of them last."""
    key = f"{planner} {lens.pk}"
    rest = {name: left for name, left in uses.items() if name != key}
    if not (math.isfinite(focal_length) and math.isfinite(f_number)):
        return rest
    latest = {**rest, key: [focal_length, f_number]}
    return dict(list(latest.items())[-_MOST:])
