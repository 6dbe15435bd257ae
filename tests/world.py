"""What every test finds: a database with all tables and the sample world, and the files of ours.

A test that runs in a transaction leaves the database as it was. One that cannot (it has a server
beside it) has what it left put back: on SQLite by copying the file's pages, which takes a hundredth
of emptying every table and making the world anew; elsewhere by that.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from unittest.mock import patch

from django.db import connection
from django.test import TransactionTestCase
from whitenoise.middleware import WhiteNoiseMiddleware

_create = type(connection.creation).create_test_db
_flush = TransactionTestCase._fixture_teardown  # type: ignore[attr-defined]
_find = WhiteNoiseMiddleware.add_files_from_finders
_pages: dict[str, bytes] = {}
"""What the database was, on SQLite."""
_files: dict[str, Any] = {}


@contextmanager
def kept() -> Iterator[None]:
    """Test databases are made with the sample world in them, and put back to that; our files are
    found once, not by each client that a test makes."""
    with (
        patch.object(type(connection.creation), "create_test_db", _created),
        patch.object(TransactionTestCase, "_fixture_teardown", _put_back),
        patch.object(WhiteNoiseMiddleware, "add_files_from_finders", _known),
    ):
        yield


def _created(self: Any, *words: Any, **named: Any) -> str:
    from web.demo.world import load

    name: str = _create(self, *words, **named)
    load()
    if connection.vendor == "sqlite":
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        pages = bytearray(connection.connection.serialize())
        pages[18:20] = b"\1\1"  # that it has a log beside it: not where it is only in memory
        _pages["as made"] = bytes(pages)
    return name


def _put_back(self: Any) -> None:
    from web.demo.world import load

    if not _pages:
        _flush(self)
        load()
        return
    connection.ensure_connection()
    as_made = sqlite3.connect(":memory:")
    as_made.deserialize(_pages["as made"])
    as_made.backup(connection.connection)
    as_made.close()


def _known(self: WhiteNoiseMiddleware) -> None:
    if not _files:
        _find(self)
        _files.update(self.files)
    self.files.update(_files)
