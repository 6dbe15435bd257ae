"""Typed readers of environment variables, and the places they name. What is bad or missing is said
in one sentence, with what to do."""

from __future__ import annotations

import fcntl
import os
import secrets
from pathlib import Path

from django.core.exceptions import ImproperlyConfigured

_TRUE = {"1", "true", "yes", "on"}
_FALSE = {"0", "false", "no", "off"}
_SHORTEST_KEY, _FEWEST_LETTERS = 40, 12


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


def number(name: str, default: int | None = None) -> int:
    """A whole number, 0 or more. Raises ImproperlyConfigured if unset and without a default."""
    value = os.environ.get(name, "").strip()
    if not value and default is not None:
        return default
    if value.isascii() and value.isdecimal() and len(value) < 10:
        return int(value)
    raise ImproperlyConfigured(f"{name} is {value!r}; write a whole number.")


def secret(name: str) -> str:
    """A key that nobody guesses."""
    value = text(name)
    if len(value) < _SHORTEST_KEY or len(set(value)) < _FEWEST_LETTERS:
        raise ImproperlyConfigured(
            f"{name} is too easy to guess. Make one with: "
            'python3 -c "import secrets; print(secrets.token_urlsafe(50))"'
        )
    return value


def keep_private() -> None:
    """What this process makes is nobody else's to read."""
    os.umask(0o077)


def folder(path: Path) -> None:
    """Make a folder if it is not there. Raises ImproperlyConfigured where that cannot be."""
    try:
        path.mkdir(exist_ok=True)
    except OSError as error:
        raise ImproperlyConfigured(
            f"The folder {path} cannot be made ({error.strerror}). Make it, or set AIM_VAR to "
            "another."
        ) from error


def key_in(file: Path) -> str:
    """The key in a file, made on first need, or where the file has none: whoever was first."""
    try:
        folder = os.open(file.parent, os.O_RDONLY)
        try:
            fcntl.flock(folder, fcntl.LOCK_EX)
            found = file.read_text().strip() if file.exists() else ""
            if len(found) < _SHORTEST_KEY:
                found = secrets.token_urlsafe(50)
                fresh = file.with_name(f"{file.name}.new")
                fresh.write_text(found)
                fresh.replace(file)
            return found
        finally:
            os.close(folder)
    except OSError as error:
        raise ImproperlyConfigured(
            f"The key {file} cannot be read or made ({error.strerror}). Give its folder to whoever "
            "runs this, or set AIM_VAR to another."
        ) from error
