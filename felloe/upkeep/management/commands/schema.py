"""Write felloe/upkeep/schema.sql anew: `bin/felloe schema`. The database in force is empty, and nobody's."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db.migrations.loader import MigrationLoader
from django.db.models.signals import post_migrate, pre_migrate

from felloe.upkeep.schema import SNAPSHOT, dumped, is_current, written


class Command(BaseCommand):
    help = "Write down all tables as the migrations make them, for databases that are empty."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--to", type=Path, default=SNAPSHOT)
        parser.add_argument("--check", action="store_true", help="Only say whether what is written is of these migrations.")

    def handle(self, *args: Any, to: Path = SNAPSHOT, check: bool = False, **options: Any) -> None:
        loader = MigrationLoader(None)
        if check:
            if not is_current(loader):
                raise CommandError("felloe/upkeep/schema.sql is of other migrations: bin/felloe schema writes it anew.")
            return
        # What follows the migrations, the fence above all, follows in each database by itself.
        post_migrate.receivers, pre_migrate.receivers = [], []
        call_command("migrate", one_by_one=True, interactive=False, verbosity=0)
        with TemporaryDirectory() as scratch:
            dump = dumped(Path(scratch, "dump.sql"))
        to.write_text(written(dump, loader))
