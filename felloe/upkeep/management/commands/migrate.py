"""Django's, but for an empty database, which gets all tables at once (felloe/upkeep/schema.py)."""

from __future__ import annotations

from typing import Any

from django.core.management.base import CommandParser
from django.core.management.commands.migrate import Command as DjangosMigrate
from django.db import connections

from felloe.upkeep.schema import make_at_once


class Command(DjangosMigrate):
    def add_arguments(self, parser: CommandParser) -> None:
        super().add_arguments(parser)
        parser.add_argument("--one-by-one", action="store_true", help="Go through the migrations in an empty database too.")

    def handle(self, *args: Any, one_by_one: bool = False, **options: Any) -> None:
        other = ("app_label", "migration_name", "plan", "check_unapplied", "fake", "fake_initial", "prune")
        if not one_by_one and not any(options.get(name) for name in other):
            make_at_once(connections[options["database"]])
        super().handle(*args, **options)
