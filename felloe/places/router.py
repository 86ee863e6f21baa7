"""Django's router: every question to the database of the place in force (here.py)."""

from __future__ import annotations

from typing import Any

from felloe.places import here


class Router:
    def db_for_read(self, model: Any, **hints: Any) -> str:
        return here.alias()

    def db_for_write(self, model: Any, **hints: Any) -> str:
        if here.only_reads():
            raise RuntimeError(f"{model.__name__} would be written where it was said that nothing is")
        return here.place()

    def allow_relation(self, one: Any, other: Any, **hints: Any) -> bool:
        """Rows of one shop are in one place; a standby's are the same rows."""
        return True

    def allow_migrate(self, db: str, app_label: str, **hints: Any) -> bool:
        """A migration asks for rows by the router too, so it runs only at the place in force (FELLOE_PLACE)."""
        return db == here.place()
