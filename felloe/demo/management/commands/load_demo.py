"""Load the demo shop if it is not there yet."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from felloe.demo.loading import is_loaded, load


class Command(BaseCommand):
    help = "Load the demo shop if it is not there yet."

    def handle(self, *args: Any, **options: Any) -> None:
        if not settings.FELLOE_DEMO:
            raise CommandError("The demo is loaded only by `bin/felloe demo`, into a database of its own: this is a shop's.")
        if is_loaded():
            return
        self.stdout.write("· loading the demo shop: virtual wheels are measured and trued, this takes some seconds")
        self.stdout.write(f"· {load()} jobs are on the rail")
