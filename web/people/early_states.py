"""Databases from the first days, when two migrations were changed after they had been applied.

They lack two columns that later migrations count on. They get these just before anything else is
migrated; every other database has them, and is left as it is.
"""

from __future__ import annotations

from typing import Any

from django.db import connections
from django.utils import timezone

LACKING = {
    "people_owner": ("used_on", "date NOT NULL DEFAULT '{today}'"),
    "bag_inhand": ("attachment_id", "bigint NULL REFERENCES bag_attachment (id)"),
}
"""By table: a column that may lack, and what it is."""


def mend(using: str, **_: Any) -> None:
    """Add what lacks. A receiver of ``pre_migrate``."""
    connection = connections[using]
    with connection.cursor() as cursor:
        tables = set(connection.introspection.table_names(cursor))
        for table, (column, kind) in LACKING.items():
            if table not in tables:
                continue
            has = {
                found.name
                for found in connection.introspection.get_table_description(cursor, table)
            }
            if column not in has:
                told = kind.format(today=timezone.localdate().isoformat())
                cursor.execute(f"ALTER TABLE {table} ADD COLUMN {column} {told}")
