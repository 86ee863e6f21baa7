"""The database as a backup sees it: PostgreSQL's own programs, and what every table holds, by rows and hashes."""

from __future__ import annotations

import os
import subprocess
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

import psycopg
from psycopg import sql

from felloe.places.here import database
from felloe.upkeep.archive import Table

#: What a row reads as must not depend on how a server or a client likes to write.
AS_TEXT = sql.SQL(
    "SET TimeZone TO 'UTC'; SET extra_float_digits TO 1; SET bytea_output TO 'hex'; SET IntervalStyle TO 'postgres'"
)


@dataclass(frozen=True)
class Place:
    """Where a database is."""

    host: str
    port: str
    user: str
    password: str
    name: str

    @classmethod
    def of_settings(cls) -> Place:
        """The one that Django works on."""
        values = database().settings_dict
        return cls(*(str(values[key]) for key in ("HOST", "PORT", "USER", "PASSWORD", "NAME")))

    def connect(self) -> psycopg.Connection:
        return psycopg.connect(
            host=self.host, port=self.port, user=self.user, password=self.password, dbname=self.name, autocommit=True
        )

    def run(self, program: str, arguments: Sequence[str]) -> None:
        """One of PostgreSQL's programs on this database. Raises RuntimeError with its last lines where it fails."""
        bin_dir = os.environ.get("FELLOE_PG_BIN") or newest_bin()
        # PostgreSQL's own programs, with arguments of ours alone.
        done = subprocess.run(  # noqa: S603
            [str(Path(bin_dir, program)), "-h", self.host, "-p", self.port, "-U", self.user, "-d", self.name, *arguments],
            env={**os.environ, "PGPASSWORD": self.password},
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode:
            raise RuntimeError(f"{program}: {' '.join(done.stderr.split())[-250:]}")


def newest_bin() -> str:
    """Where Debian keeps PostgreSQL's programs; the newest version reads every older one's."""
    places = sorted(Path("/usr/lib/postgresql").glob("*/bin"), key=lambda place: float(place.parent.name))
    return str(places[-1]) if places else ""


def tables_in(at: psycopg.Connection) -> Mapping[str, Table]:
    """Every table of the public schema with its rows and the sum of their hashes, as this connection's snapshot shows it."""
    at.execute(AS_TEXT)
    names = [row[0] for row in at.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY 1").fetchall()]
    found = {}
    for name in names:
        asked = sql.SQL("SELECT count(*), coalesce(sum(hashtextextended(t::text, 0)::numeric), 0) FROM {} t")
        row = at.execute(asked.format(sql.Identifier("public", name))).fetchone()
        assert row is not None
        found[name] = Table(int(row[0]), str(row[1]))
    return found
