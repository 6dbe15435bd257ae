"""A backup: everything that an installation keeps, in one file; and bringing one back.

The file is a zip with the database as SQLite's own copy, made while others write, and a manifest:
which release's migrations it has, and a checksum. Bringing one back goes through SQLite's own copy
again, in one transaction: it is there whole, or what was there before still is.
"""

from __future__ import annotations

import hashlib
import json
import os
import sqlite3
import tempfile
import zipfile
import zlib
from contextlib import closing
from datetime import datetime
from pathlib import Path
from typing import Any

from django.db import connections
from django.db.migrations.loader import MigrationLoader

from web.running import store

FORMAT, VERSION = "aim-still-backup", 1
_DATABASE, _MANIFEST = "database.sqlite3", "manifest.json"


class NotCopied(Exception):
    """Nothing was written, or nothing changed. Says why, and what to do."""


def back_up(file: Path, now: datetime) -> int:
    """Write a backup; its size in bytes. Raises NotCopied."""
    source = _database()
    if file.exists():
        raise NotCopied(f"{file} is there already. Choose another name.")
    try:
        with tempfile.TemporaryDirectory(dir=file.parent) as folder:
            copy = Path(folder) / _DATABASE
            _copied(source, copy)
            manifest = {
                "format": FORMAT,
                "version": VERSION,
                "made": now.isoformat(timespec="seconds"),
                "migrations": _applied(copy),
                "files": {_DATABASE: {"sha256": _sum(copy), "bytes": copy.stat().st_size}},
            }
            made = Path(folder) / "backup"
            with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as packed:
                packed.writestr(_MANIFEST, json.dumps(manifest, indent=1))
                packed.write(copy, _DATABASE)
            with made.open("rb") as written:
                os.fsync(written.fileno())
            made.chmod(0o600)
            os.link(made, file)  # there whole, or not there
    except (OSError, sqlite3.DatabaseError) as error:
        raise NotCopied(f"The backup could not be written: {error}.") from error
    return file.stat().st_size


def bring_back(file: Path, now: datetime) -> Path | None:
    """Put a backup in the place of what is kept; where that was put, if there was any. Raises
    NotCopied, with nothing changed."""
    target = _database(must_be=False)
    with tempfile.TemporaryDirectory(dir=target.parent) as folder:
        copy = Path(folder) / _DATABASE
        _unpacked(file, copy)
        before = None
        if target.exists():
            before = target.with_name(f"before-restore-{now:%Y%m%d-%H%M%S}.aim")
            try:
                back_up(before, now)
            except NotCopied as error:
                if store.fault():  # what is there is damaged: it is kept as it is
                    before = target.with_name(f"{target.name}.damaged-{now:%Y%m%d-%H%M%S}")
                    target.rename(before)
                    for beside in ("-wal", "-shm"):
                        target.with_name(f"{target.name}{beside}").unlink(missing_ok=True)
                else:
                    raise NotCopied(f"What is kept now could not be put aside. {error}") from error
        try:
            _copied(copy, target)
        except (OSError, sqlite3.DatabaseError) as error:
            raise NotCopied(f"Nothing was changed: {error}.") from error
    store.keep_private()
    return before


def _unpacked(file: Path, copy: Path) -> None:
    """The database of a backup, once everything about it is found to be right."""
    try:
        with zipfile.ZipFile(file) as packed:
            manifest = json.loads(packed.read(_MANIFEST))
            if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
                raise NotCopied(f"{file} is no backup of Aim Still.")
            if manifest.get("version") != VERSION:
                raise NotCopied(f"{file} was made by a newer release. Install that one first.")
            with packed.open(_DATABASE) as source, copy.open("wb") as target:
                while piece := source.read(1 << 20):
                    target.write(piece)
        said = manifest["files"][_DATABASE]["sha256"]
        known = {tuple(one) for one in manifest["migrations"]}
    except FileNotFoundError as error:
        raise NotCopied(f"There is no file {file}.") from error
    except (
        OSError, KeyError, TypeError, ValueError, EOFError, NotImplementedError, RuntimeError,
        zipfile.BadZipFile, zlib.error,
    ) as error:  # fmt: skip
        raise NotCopied(f"{file} is damaged or no backup: {error}. Nothing was changed.") from error
    if _sum(copy) != said:
        raise NotCopied(f"{file} is damaged: its checksum is another. Nothing was changed.")
    there = MigrationLoader(None).disk_migrations
    ours = {app for app, _ in there}
    if newer := sorted(one for one in known if one[0] in ours and one not in there):
        raise NotCopied(
            f"{file} was made by a newer release: it has {'.'.join(newer[0])}. Install that first."
        )
    with closing(sqlite3.connect(copy)) as opened:
        try:
            found = opened.execute("PRAGMA integrity_check(1)").fetchone()[0]
        except sqlite3.DatabaseError as error:
            found = str(error)
    if found != "ok":
        raise NotCopied(f"The database in {file} is damaged: {found}. Nothing was changed.")


def _database(must_be: bool = True) -> Path:
    path = store.path()
    if path is None:
        raise NotCopied(
            "This installation keeps its things in PostgreSQL: use pg_dump and pg_restore, as "
            "docs/running.md tells."
        )
    if must_be and not path.exists():
        raise NotCopied(f"There is no database {path} yet.")
    if not path.parent.is_dir():
        raise NotCopied(f"The folder {path.parent} is not there. Make it first.")
    connections.close_all()
    return path


def _copied(source: Path, target: Path) -> None:
    with (
        closing(sqlite3.connect(source, timeout=30)) as one,
        closing(sqlite3.connect(target, timeout=30)) as other,
    ):
        one.backup(other)


def _applied(copy: Path) -> list[Any]:
    with closing(sqlite3.connect(copy)) as opened:
        return [list(row) for row in opened.execute("SELECT app, name FROM django_migrations")]


def _sum(file: Path) -> str:
    with file.open("rb") as opened:
        return hashlib.file_digest(opened, "sha256").hexdigest()
