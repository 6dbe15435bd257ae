"""What came home from the sample world's outings, as ``tools.demo_frames`` wrote it."""

from __future__ import annotations

import gzip
import json
from functools import cache
from pathlib import Path
from typing import Any

PATH = Path(__file__).with_name("frames.json.gz")


@cache
def frames() -> tuple[dict[str, Any], ...]:
    """All of them, as plain data."""
    return tuple(json.loads(gzip.decompress(PATH.read_bytes()))["frames"])
