"""Back up this installation while it works."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from felloe.upkeep.services import back_up


class Command(BaseCommand):
    help = "Back up the database, the signing keys and the settings into one file, and read it back."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--to", type=Path, required=True)
        parser.add_argument("--second", type=Path)
        parser.add_argument("--passphrase-file", type=Path, required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            passphrase = options["passphrase_file"].read_text(encoding="utf-8").strip()
            run = back_up(options["to"], passphrase, options["second"])
        except (OSError, ValueError, RuntimeError) as error:
            raise CommandError(f"no backup was made: {error}") from error
        self.stdout.write(f"· {run.file}: {run.bytes / 1e6:.1f} MB in {run.seconds:.1f} s, read back whole")
        if options["second"] and not run.copied:
            raise CommandError(f"the backup is good, but its copy is not: {run.reason}")
        if run.copied:
            self.stdout.write(f"· copied to {options['second']}")
