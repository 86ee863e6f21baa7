"""An empty database gets all tables at once; here they are made the long way, and are the same."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.db import connection
from django.test import SimpleTestCase, TestCase

import felloe
from felloe.upkeep import schema
from felloe.upkeep.services.database import Place


class EmptyDatabase(SimpleTestCase):
    databases = {"default"}
    name = "test_the_long_way"

    def setUp(self) -> None:
        self.at = Place.of_settings().connect()
        self.addCleanup(self.at.close)
        self.at.execute(f"DROP DATABASE IF EXISTS {self.name} WITH (FORCE)")
        self.at.execute(f"CREATE DATABASE {self.name} TEMPLATE template0")
        self.addCleanup(self.at.execute, f"DROP DATABASE {self.name} WITH (FORCE)")

    def manage(self, *words: str) -> str:
        env = {**os.environ, "FELLOE_DB_NAME": self.name, "DJANGO_SETTINGS_MODULE": "felloe.config.settings.demo"}
        run = [sys.executable, "manage.py", *words]
        done = subprocess.run(run, cwd=Path(felloe.__file__).parents[1], env=env, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])
        return done.stdout

    def test_one_migration_after_the_other_leads_to_the_same_tables(self) -> None:
        with TemporaryDirectory() as scratch:
            self.manage("schema", "--to", f"{scratch}/schema.sql")
            made = Path(scratch, "schema.sql").read_text()
        self.assertEqual(made.splitlines(), schema.SNAPSHOT.read_text().splitlines())


class NotEmpty(TestCase):
    def test_a_database_that_holds_anything_is_left_alone(self) -> None:
        self.assertFalse(schema.make_at_once(connection))

    def test_a_file_of_other_migrations_is_not_used(self) -> None:
        loader = schema.MigrationLoader(None)
        self.assertTrue(schema.is_current(loader))
        loader.disk_migrations.pop(("bench", "0001_initial"))
        self.assertFalse(schema.is_current(loader))
        with patch.object(schema, "SNAPSHOT", Path("nowhere")):
            self.assertFalse(schema.is_current(schema.MigrationLoader(None)))

    def test_what_functions_say_stays_as_it_is(self) -> None:
        dump = "-- said\nSET a = 1;\nCREATE FUNCTION f() AS $$\n-- why\nSET x\n\n$$;\n\\restrict k\nCREATE TABLE t ();\n"
        self.assertEqual(schema.plain(dump), "CREATE FUNCTION f() AS $$\n-- why\nSET x\n\n$$;\nCREATE TABLE t ();\n")
