"""Choices that several screens share."""

from __future__ import annotations

from optics.base.systems import SYSTEMS


def unit_systems() -> list[tuple[str, str]]:
    """The systems of units that lengths are read and written in."""
    return [(system.key, system.name) for system in SYSTEMS]


CHOOSE_UNITS = f"Choose {' or '.join(system.name for system in SYSTEMS)}."
"""For units that are none of these."""
