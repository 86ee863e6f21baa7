"""Restoring into an empty database: looked at first, all or nothing, and held against what the backup says of every table."""

from __future__ import annotations

import tempfile
from pathlib import Path

from felloe.upkeep.archive import DUMP, SECRETS, Damaged, Manifest, checked, read_member, take_out, unseal
from felloe.upkeep.fencing import make_role
from felloe.upkeep.services.database import Place, tables_in


class NotEmpty(Exception):
    """There is something in the database already: nothing is ever restored over it."""


def restore(file: Path, passphrase: str, into: Place) -> tuple[Manifest, dict[str, str]]:
    """Restore a backup; returns its manifest and the settings that belong to it.

    Raises Damaged before anything is touched, NotEmpty where the database holds tables, RuntimeError where PostgreSQL
    refuses; afterwards Damaged where a table does not hold what was backed up.
    """
    manifest = checked(file)
    settings = unseal(read_member(file, SECRETS), passphrase)
    with into.connect() as at:
        if at.execute("SELECT 1 FROM pg_tables WHERE schemaname = 'public' LIMIT 1").fetchone():
            raise NotEmpty(f"the database {into.name} is not empty")
        # Roles are the server's, and no database carries them along.
        make_role(at.cursor())
    with tempfile.TemporaryDirectory() as folder:
        dump = Path(folder, DUMP)
        take_out(file, DUMP, dump)
        into.run("pg_restore", ["--no-owner", "--single-transaction", "--exit-on-error", str(dump)])
    with into.connect() as at:
        now = tables_in(at)
    wrong = sorted(name for name in {*now, *manifest.tables} if now.get(name) != manifest.tables.get(name))
    if wrong:
        raise Damaged(f"restored, but not equal row for row: {', '.join(wrong[:5])}")
    return manifest, settings
