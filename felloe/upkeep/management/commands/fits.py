"""Say whether the database is as this version needs it; exit 1 where it is not."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from felloe.upkeep.services.fits import migrations_state


class Command(BaseCommand):
    help = "Whether the database is as this version needs it."
    requires_migrations_checks = False

    def handle(self, *args: Any, **options: Any) -> None:
        state = migrations_state()
        if state != "ready":
            raise CommandError(f"the database is {state}")
