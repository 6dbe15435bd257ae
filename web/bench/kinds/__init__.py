"""The kinds of tests, in the order that they are offered in."""

from __future__ import annotations

from web.bench.kinds.base import Kind
from web.bench.kinds.circle import CIRCLE
from web.bench.kinds.infinity import INFINITY
from web.bench.kinds.scale import SCALE
from web.bench.kinds.sharpness import SHARPNESS
from web.bench.kinds.shift import SHIFT
from web.bench.kinds.ways import WAYS

KINDS: dict[str, Kind] = {
    kind.key: kind for kind in (SHIFT, INFINITY, SCALE, SHARPNESS, WAYS, CIRCLE)
}
