"""The database as all migrations leave it, in one file, for databases that are empty: going through the migrations one by one
takes the better part of a minute, since Django makes all models anew for each.

The file says which migrations it stands for, by their names and text. Where that is not what is there, or anything is in the
database already, nothing is done with it and the migrations run. `bin/felloe schema` writes it; a test goes the long way.
"""

from __future__ import annotations

import hashlib
import re
import sys
from pathlib import Path

from django.db import transaction
from django.db.backends.base.base import BaseDatabaseWrapper
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.recorder import MigrationRecorder

from felloe.upkeep.services.database import Place

SNAPSHOT = Path(__file__).with_name("schema.sql")
_FIRST = "-- All migrations of "
_DOLLARS = re.compile(r"\$\w*\$")
_PASSING = re.compile(r"--|SET |SELECT pg_catalog\.set_config|\\|CREATE SCHEMA public|COMMENT ON (SCHEMA|EXTENSION)")
_EMPTY = """
    SELECT NOT EXISTS (SELECT FROM pg_class WHERE relnamespace = 'public'::regnamespace)
"""


def print_of_migrations(loader: MigrationLoader) -> str:
    """What names and text of all migrations come to."""
    found = hashlib.sha256()
    for (app, name), migration in sorted(loader.disk_migrations.items()):
        source = Path(sys.modules[migration.__module__].__file__ or "")
        found.update(f"{app} {name} ".encode())
        found.update(source.read_bytes())
    return found.hexdigest()


def dumped(to: Path) -> str:
    """What pg_dump says of the database in force: its tables, and what migrations put into them but their own list."""
    leave_out = "--exclude-table-data=public.django_migrations"
    Place.of_settings().run("pg_dump", ["--no-owner", "--no-privileges", "--inserts", leave_out, "--file", str(to)])
    return to.read_text()


def plain(dump: str) -> str:
    """A dump without what only one version of PostgreSQL, or only psql, understands; functions are left as they are."""
    lines, inside = [], False
    for line in dump.splitlines():
        if not inside and (not line.strip() or _PASSING.match(line)):
            continue
        inside ^= len(_DOLLARS.findall(line)) % 2 == 1
        lines.append(line)
    return "\n".join([*lines, ""])


def written(dump: str, loader: MigrationLoader) -> str:
    """The file's text from the dump of a database that every migration was applied to, and nothing else was done in."""
    return f"{_FIRST}{print_of_migrations(loader)}\n{plain(dump)}"


def is_current(loader: MigrationLoader) -> bool:
    """Whether the file is of these very migrations."""
    return SNAPSHOT.exists() and SNAPSHOT.read_text().partition("\n")[0] == _FIRST + print_of_migrations(loader)


def make_at_once(connection: BaseDatabaseWrapper) -> bool:
    """Put everything into an empty database by the file; False where it is not empty, or the file is of other migrations."""
    loader = MigrationLoader(None)
    with connection.cursor() as cursor:
        cursor.execute(_EMPTY)
        if not cursor.fetchone()[0] or not is_current(loader):
            return False
    with transaction.atomic(using=connection.alias), connection.cursor() as cursor:
        # A function may be there before the table that it asks.
        cursor.execute("SET LOCAL check_function_bodies = false")
        cursor.execute(SNAPSHOT.read_text())
        recorder = MigrationRecorder(connection)
        for app, name in loader.disk_migrations:
            recorder.record_applied(app, name)
    return True
