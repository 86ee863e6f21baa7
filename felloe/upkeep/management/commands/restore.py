"""Restore a backup into this installation's empty database."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from felloe.upkeep.archive import Damaged
from felloe.upkeep.services import restore
from felloe.upkeep.services.database import Place
from felloe.upkeep.services.restore import NotEmpty


class Command(BaseCommand):
    help = "Check a backup, restore it into an empty database, and compare every table with what was backed up."
    # The database is empty: its migrations come with the backup.
    requires_migrations_checks = False

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--passphrase-file", type=Path, required=True)
        parser.add_argument("--settings-to", type=Path, required=True, help="Where the settings of the backup are written")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            passphrase = options["passphrase_file"].read_text(encoding="utf-8").strip()
            manifest, settings = restore(options["file"], passphrase, Place.of_settings())
        except (OSError, Damaged, NotEmpty, RuntimeError) as error:
            raise CommandError(f"not restored: {error}") from error
        lines = "".join(f"{key}={value}\n" for key, value in sorted(settings.items()))
        with open(os.open(options["settings_to"], os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w", encoding="utf-8") as out:
            out.write(lines)
        rows = sum(table.rows for table in manifest.tables.values())
        self.stdout.write(
            f"· restored {len(manifest.tables)} tables with {rows} rows, all equal to the backup of {manifest.made_at}"
        )
        self.stdout.write(f"· its settings are in {options['settings_to']}")
