"""The table that throttles count in."""

from typing import Any

from django.core.management import call_command
from django.db import migrations


def make(apps: Any, schema_editor: Any) -> None:
    alias = schema_editor.connection.alias
    call_command("createcachetable", "aim_cache", database=alias, verbosity=0)


class Migration(migrations.Migration):
    initial = True
    dependencies: list[tuple[str, str]] = []
    operations = [migrations.RunPython(make, migrations.RunPython.noop)]
