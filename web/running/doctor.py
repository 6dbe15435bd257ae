"""What is wrong with an installation, in plain lines: each with what to do."""

from __future__ import annotations

import ctypes.util
import shutil
import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings
from django.core.checks import Warning as Warned
from django.core.checks import run_checks
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor

from web.people.models import Owner
from web.running import store
from web.ui import storing


@dataclass(frozen=True, slots=True)
class Finding:
    """Something looked at. ``wrong``: what is, and what to do; ``note``: worth knowing; both empty
    where all is well."""

    about: str
    wrong: str = ""
    note: str = ""


def findings() -> Iterator[Finding]:
    """Everything there is to look at, in an order in which one depends on those before."""
    for look in _LOOKS:
        yield look()


def to_serve() -> str:
    """What stands in the way of serving; empty where nothing does."""
    for look in (_place, _static, _database, _migrated):
        if wrong := look().wrong:
            return wrong
    return ""


def _python() -> Finding:
    now = sys.version.split()[0]
    wrong = "" if sys.version_info >= (3, 11) else f"It is {now}: 3.11 or newer is needed."
    return Finding(f"Python {now}", wrong)


def _place() -> Finding:
    return Finding("The place where things are kept", store.fault())


def _room() -> Finding:
    file = store.path()
    if file is None or not file.parent.is_dir():
        return Finding("Room on the disk")
    free = shutil.disk_usage(file.parent).free
    note = "" if free > store.LEAST_ROOM else f"only {free // 1_000_000} MB are left: make some"
    return Finding(f"Room on the disk, {free // 1_000_000} MB", note=note)


def _private() -> Finding:
    file = store.path()
    if file is None:
        return Finding("Files are private")
    open_ones = [
        str(one)
        for one in (*file.parent.glob(f"{file.name}*"), *file.parent.glob("*-key"))
        if one.is_file() and one.stat().st_mode & 0o077
    ]
    wrong = f"Others can read {open_ones[0]}: chmod 600 it." if open_ones else ""
    return Finding("Files are private", wrong)


def _database() -> Finding:
    about = f"The database ({connection.vendor})"
    if store.fault():
        return Finding(about, "It cannot be asked: see the place above.")
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError as error:
        return Finding(about, f"{storing.why(error)} ({error})")
    return Finding(about)


def _migrated() -> Finding:
    about = "The database is of this release"
    try:
        executor = MigrationExecutor(connection)
        waiting = executor.migration_plan(executor.loader.graph.leaf_nodes())
    except DatabaseError as error:
        return Finding(about, storing.why(error))
    wrong = f"{len(waiting)} changes wait: run ./aim prepare." if waiting else ""
    return Finding(about, wrong)


def _sample() -> Finding:
    about = "The sample world"
    try:
        there = Owner.objects.filter(is_sample=True).exists()
    except DatabaseError:
        return Finding(about, "It cannot be looked for: see the database above.")
    return Finding(about, note="" if there else "it is made at the first visit")


def _static() -> Finding:
    backend = settings.STORAGES["staticfiles"]["BACKEND"]
    if "Manifest" not in backend:
        return Finding("Static files, from the source folders")
    manifest = Path(settings.STATIC_ROOT) / "staticfiles.json"
    wrong = "" if manifest.exists() else "They are not collected: run ./aim prepare."
    return Finding("Static files", wrong)


def _printing() -> Finding:
    there = ctypes.util.find_library("pango-1.0") is not None
    note = "without Pango there are none; on Debian: apt-get install libpango-1.0-0 "
    note += "libpangoft2-1.0-0 libharfbuzz-subset0"
    return Finding("PDFs", note="" if there else note)


def _mail() -> Finding:
    note = "" if settings.MAIL_IS_SET_UP else "not set up: passwords cannot be reset by mail"
    return Finding("Mail", note=note)


def _proxies() -> Finding:
    count = settings.PROXIES
    return Finding(f"Proxies in front: {count}")


def _deployed() -> Finding:
    warned = [one for one in run_checks(include_deployment_checks=True) if isinstance(one, Warned)]
    wanted = [one for one in warned if not one.is_silenced()]
    secure = settings.DEBUG or settings.SETTINGS_MODULE.endswith("production")
    if not wanted or not secure:
        return Finding("Settings for a server")
    return Finding("Settings for a server", f"{wanted[0].msg} {wanted[0].hint or ''}".strip())


_LOOKS: tuple[Callable[[], Finding], ...] = (
    _python, _place, _room, _private, _database, _migrated, _sample, _static, _printing, _mail,
    _proxies, _deployed,
)  # fmt: skip
