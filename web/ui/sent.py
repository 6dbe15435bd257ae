"""What devices make and send, each of it once: its key, its time, and what becomes of it."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta

from django.utils import timezone
from django.utils.dateparse import parse_datetime

MOST_AT_ONCE = 500
KEY = re.compile(r"[0-9a-f-]{8,36}")
"""Of an entry, as a device makes it."""
_EARLIEST = datetime(2000, 1, 1, tzinfo=UTC)


@dataclass
class Heard:
    """What became of entries that were sent: the keys of those that are kept now, and of the others
    why not."""

    kept: list[str] = field(default_factory=list)
    refused: list[tuple[str, str]] = field(default_factory=list)


def time_of(value: object) -> datetime | str:
    """When a device says that something was; or why that cannot be."""
    try:
        at = parse_datetime(str(value)[:40])
    except ValueError:  # of the right form, and no time
        at = None
    if at is None or at.tzinfo is None:
        return "It has no time."
    if not _EARLIEST < at < timezone.now() + timedelta(days=2):
        return "Its time cannot be: look at the clock of the device."
    return at
