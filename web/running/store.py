"""The database file of an installation: whether it can be used, and what to do where not."""

from __future__ import annotations

import os
import shutil
import sqlite3
from pathlib import Path
from typing import Any

from django.conf import settings

LEAST_ROOM = 50_000_000
"""Bytes free on the disk, below which it is time to do something."""


def path() -> Path | None:
    """Where the database lies; None where it is no file."""
    database: dict[str, Any] = settings.DATABASES["default"]
    return Path(database["NAME"]) if database["ENGINE"].endswith("sqlite3") else None


def fault() -> str:
    """What is wrong with the place where things are kept, and what to do; empty where nothing is.

    A database that is not there yet is no fault.
    """
    file = path()
    if file is None:
        return ""
    folder = file.parent
    if not folder.is_dir():
        return f"The folder {folder} is not there. Make it, or set AIM_VAR to one that is."
    if not os.access(folder, os.W_OK | os.X_OK):
        return f"The folder {folder} cannot be written to. Give it to whoever runs this."
    if file.exists() and not os.access(file, os.R_OK | os.W_OK):
        return f"The database {file} cannot be written to. Give it to whoever runs this."
    free = shutil.disk_usage(folder).free
    if free < 1_000_000:
        return f"There is no room left in {folder}: {free} bytes. Make some, then start again."
    return _damage(file) if file.exists() else ""


def _damage(file: Path) -> str:
    again = "Bring back a backup with ./aim restore FILE, or move the file away to begin anew."
    try:
        with sqlite3.connect(file, timeout=10) as opened:
            found = opened.execute("PRAGMA quick_check(1)").fetchone()[0]
        opened.close()
    except sqlite3.DatabaseError as error:
        return f"The database {file} cannot be read: {error}. {again}"
    return "" if found == "ok" else f"The database {file} is damaged. {again}"


def keep_private() -> None:
    """Database and keys are nobody else's to read: 0600."""
    file = path()
    if file is None:
        return
    wanted: list[Any] = [*file.parent.glob(f"{file.name}*"), *file.parent.glob("*-key")]
    for one in wanted:
        if one.is_file() and one.stat().st_mode & 0o077:
            one.chmod(0o600)
