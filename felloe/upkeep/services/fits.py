"""Whether the database is as this version of Felloe needs it."""

from __future__ import annotations

from django.db.migrations.executor import MigrationExecutor

from felloe.places.here import database


def migrations_state() -> str:
    """“ready”; “behind” where migrations wait; “ahead” where a newer version has been here, unknown to this one."""
    plan = MigrationExecutor(database())
    ours = {app for app, _ in plan.loader.disk_migrations}
    if plan.migration_plan(plan.loader.graph.leaf_nodes()):
        return "behind"
    known = set(plan.loader.disk_migrations)
    return "ahead" if any(key[0] in ours and key not in known for key in plan.loader.applied_migrations) else "ready"
