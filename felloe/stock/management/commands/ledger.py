"""Go through the ledger of every part, and say where what is kept of it differs; exit 1 where it does."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from felloe.stock.services.ledger import differences, parts_looked_at


class Command(BaseCommand):
    help = "Whether what is in the bins and claimed is what the ledger leaves."

    def handle(self, *args: Any, **options: Any) -> None:
        wrong = differences()
        if wrong:
            raise CommandError("\n".join(f"part {one.part}: kept {one.kept}, the ledger leaves {one.found}" for one in wrong))
        self.stdout.write(f"· {parts_looked_at()} parts: what is kept of each is what its ledger leaves")
