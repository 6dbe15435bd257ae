"""Typed readers of environment variables. A bad or missing one is named in the error."""

from __future__ import annotations

import os

from django.core.exceptions import ImproperlyConfigured

_TRUE = {"1", "true", "yes", "on"}
_FALSE = {"0", "false", "no", "off"}


def text(name: str, default: str | None = None) -> str:
    """The variable as it is. Raises ImproperlyConfigured if unset and without a default."""
    value = os.environ.get(name, default)
    if value is None or value == "":
        raise ImproperlyConfigured(f"Set the environment variable {name}.")
    return value


def words(name: str, default: str = "") -> list[str]:
    """A comma-separated list; empty entries are dropped."""
    return [word.strip() for word in os.environ.get(name, default).split(",") if word.strip()]


def truth(name: str, *, default: bool) -> bool:
    """yes/no, on/off, true/false or 1/0."""
    value = os.environ.get(name, "").strip().lower()
    if not value:
        return default
    if value in _TRUE | _FALSE:
        return value in _TRUE
    raise ImproperlyConfigured(f"{name} is {value!r}; write yes or no.")


def number(name: str, default: int) -> int:
    """A whole number."""
    value = os.environ.get(name, "").strip()
    if not value:
        return default
    try:
        return int(value)
    except ValueError:
        raise ImproperlyConfigured(f"{name} is {value!r}; write a whole number.") from None
