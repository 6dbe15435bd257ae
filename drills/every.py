"""All drills, in the order in which they are learned."""

from __future__ import annotations

from drills import back, blur, distance, focus, moment, positions, ring, star
from drills.tasks import Drill

DRILLS: tuple[Drill, ...] = (
    distance.DRILL, ring.DRILL, positions.DRILL, moment.DRILL, focus.DRILL, blur.DRILL, star.DRILL,
    back.DRILL,
)  # fmt: skip
BY_KEY = {drill.key: drill for drill in DRILLS}
