"""A whole shop among others on a server: taken out as a file, put in elsewhere, erased; by whoever runs the server.

Which rows are a shop's is asked of the fence (felloe/accounts/fence.py): in its role a table shows nothing else.
"""

from __future__ import annotations

import hashlib
import json
import zipfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import asdict, dataclass
from pathlib import Path
from uuid import UUID

import psycopg
from django.db.migrations.recorder import MigrationRecorder
from psycopg import sql

from felloe.accounts.fence import ROLE, SETTING
from felloe.upkeep.archive import Damaged, Table
from felloe.upkeep.services.database import AS_TEXT, Place

FORMAT, VERSION, MANIFEST = "felloe-shop", 1, "manifest.json"
_PIECE = 1 << 20
#: Tables that are fenced, with their columns. A number that only counts rows up is another one elsewhere.
_COLUMNS = sql.SQL("""
    SELECT c.relname, array_agg(a.attname::text ORDER BY a.attnum)
    FROM pg_policy p JOIN pg_class c ON c.oid = p.polrelid
    JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped AND a.attgenerated = ''
    WHERE p.polname = 'of_one_shop' AND NOT (a.attname = 'id' AND a.atttypid IN ('int8'::regtype, 'int4'::regtype))
    GROUP BY c.relname ORDER BY 1
""")
#: Numbered by the transactions of the database that they were made in, so that they would be told again and again elsewhere.
_PASSING = ("live_liveevent",)
_FOREIGN = sql.SQL("""
    SELECT conrelid::regclass::text, a.attname, confrelid::regclass::text, b.attname
    FROM pg_constraint
    JOIN pg_attribute a ON a.attrelid = conrelid AND a.attnum = conkey[1]
    JOIN pg_attribute b ON b.attrelid = confrelid AND b.attnum = confkey[1]
    WHERE contype = 'f' AND conrelid::regclass::text = ANY(%s)
""")


class There(Exception):
    """The shop, or one of its code, is in this database already."""


@dataclass(frozen=True)
class ShopFile:
    """What a file says of itself: the shop, its tables with their columns, how many rows each has and what they add up to."""

    shop: str
    code: str
    name: str
    migrations: int
    columns: Mapping[str, list[str]]
    tables: Mapping[str, Table]
    sha256: Mapping[str, str]
    format: str = FORMAT
    version: int = VERSION


@contextmanager
def _fenced(at: psycopg.Connection, shop: UUID) -> Iterator[None]:
    """Only this shop's rows are there."""
    at.execute(sql.SQL("SET ROLE {}").format(sql.Identifier(ROLE)))
    at.execute("SELECT set_config(%s, %s, false)", [SETTING, str(shop)])
    try:
        yield
    finally:
        at.execute("RESET ROLE")


def _columns(at: psycopg.Connection, passing: bool = False) -> dict[str, list[str]]:
    """The columns of every table of a shop's; of those that only tell open pages what has just changed where `passing`."""
    found = {str(name): list(columns) for name, columns in at.execute(_COLUMNS).fetchall()}
    return found if passing else {name: columns for name, columns in found.items() if name not in _PASSING}


def _list(columns: list[str]) -> sql.Composable:
    return sql.SQL(", ").join(map(sql.Identifier, columns))


def _held(at: psycopg.Connection, columns: Mapping[str, list[str]]) -> dict[str, Table]:
    """Every fenced table's rows, in the fence, and the sum of their hashes: equal for equal rows in any order."""
    found = {}
    for name, names in columns.items():
        asked = sql.SQL("SELECT count(*), coalesce(sum(hashtextextended(ROW({})::text, 0)::numeric), 0) FROM {}")
        row = at.execute(asked.format(_list(names), sql.Identifier(name))).fetchone()
        assert row is not None
        found[name] = Table(int(row[0]), str(row[1]))
    return found


def export_shop(place: Place, code: str, to: Path) -> ShopFile:
    """All rows of a shop as of one moment into a new file, readable by its owner only; whatever is written meanwhile.

    Raises LookupError where there is no such shop, FileExistsError where the file is there.
    """
    with place.connect() as at:
        at.execute(AS_TEXT)
        at.execute("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY")
        found = at.execute("SELECT id, code, name FROM accounts_shop WHERE code = %s", [code]).fetchone()
        if found is None:
            raise LookupError(code)
        columns, hashes = _columns(at), {}
        to.touch(mode=0o600, exist_ok=False)
        with _fenced(at, found[0]), zipfile.ZipFile(to, "w", zipfile.ZIP_DEFLATED) as out:
            for name, names in columns.items():
                digest = hashlib.sha256()
                asked = sql.SQL("COPY (SELECT {} FROM {}) TO STDOUT").format(_list(names), sql.Identifier(name))
                with out.open(name, "w", force_zip64=True) as member, at.cursor().copy(asked) as rows:
                    for part in rows:
                        member.write(part)
                        digest.update(part)
                hashes[name] = digest.hexdigest()
            file = ShopFile(
                str(found[0]),
                found[1],
                found[2],
                MigrationRecorder.Migration.objects.count(),
                columns,
                _held(at, columns),
                hashes,
            )
            out.writestr(MANIFEST, json.dumps(asdict(file)))
        at.execute("ROLLBACK")
    return file


def sums_of(place: Place, code: str) -> Mapping[str, Table]:
    """What a shop's rows add up to in each table. Raises LookupError."""
    with place.connect() as at:
        at.execute(AS_TEXT)
        found = at.execute("SELECT id FROM accounts_shop WHERE code = %s", [code]).fetchone()
        if found is None:
            raise LookupError(code)
        with _fenced(at, found[0]):
            return _held(at, _columns(at))


def opened(file: Path) -> ShopFile:
    """What a file says, once every member's hash is right. Raises Damaged."""
    try:
        with zipfile.ZipFile(file) as inside:
            said = json.loads(inside.read(MANIFEST))
            if (said.get("format"), said.get("version")) != (FORMAT, VERSION):
                raise Damaged("this is no file of a shop, or of a newer Felloe")
            said["tables"] = {name: Table(**held) for name, held in said["tables"].items()}
            found = ShopFile(**said)
            for name in found.columns:
                digest = hashlib.sha256()
                with inside.open(name) as member:
                    while part := member.read(_PIECE):
                        digest.update(part)
                if digest.hexdigest() != found.sha256[name]:
                    raise Damaged(f"{name} is not as it was written")
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, AttributeError, OSError) as error:
        raise Damaged(f"the file cannot be read: {error}") from None
    return found


def import_shop(place: Place, file: Path) -> ShopFile:
    """Put a shop in: all of it or nothing, beside the others, and held against what the file says of every table.

    Triggers do not run: what they wrote came along. Raises Damaged before anything is touched or where a row would belong
    nowhere; There where the shop or its code is in this database.
    """
    found = opened(file)
    with place.connect() as at, zipfile.ZipFile(file) as inside:
        at.execute(AS_TEXT)
        if found.migrations != MigrationRecorder.Migration.objects.count() or found.columns != _columns(at):
            raise Damaged("the file is of another version of Felloe: upgrade the older one first")
        shop = UUID(found.shop)
        with at.transaction():
            at.execute("SELECT pg_advisory_xact_lock(hashtext('felloe shops'))")
            if at.execute("SELECT 1 FROM accounts_shop WHERE id = %s OR code = %s", [shop, found.code]).fetchone():
                raise There(found.code)
            _without_triggers(at)
            for name, names in found.columns.items():
                into = sql.SQL("COPY {} ({}) FROM STDIN").format(sql.Identifier(name), _list(names))
                with inside.open(name) as member, at.cursor().copy(into) as rows:
                    while part := member.read(_PIECE):
                        rows.write(part)
            with _fenced(at, shop):
                now = _held(at, found.columns)
            wrong = sorted(name for name in found.tables if now[name] != found.tables[name])
            wrong += _astray(at, list(found.columns), shop)
            if wrong:
                raise Damaged(f"not equal row for row, or rows that belong nowhere: {', '.join(wrong[:5])}")
    return found


def erase_shop(place: Place, code: str) -> dict[str, int]:
    """Every row of a shop goes, also from what is only added to, and its sessions. Returns how many of each table.

    Raises LookupError where there is no such shop, There where it is not suspended: somebody may be at work in it.
    """
    with place.connect() as at, at.transaction():
        found = at.execute("SELECT id, suspended_at FROM accounts_shop WHERE code = %s FOR UPDATE", [code]).fetchone()
        if found is None:
            raise LookupError(code)
        if found[1] is None:
            raise There(code)
        _without_triggers(at)
        gone = {}
        at.execute(
            "DELETE FROM django_session WHERE session_key IN (SELECT session_key FROM accounts_signedin s"
            " JOIN accounts_user u ON u.id = s.person_id WHERE u.shop_id = %s)",
            [found[0]],
        )
        # What is found by another table's rows goes before those.
        columns = _columns(at, passing=True)
        by_other = [name for name in columns if "shop_id" not in columns[name] and name != "accounts_shop"]
        last = ["accounts_user", "accounts_shop"]
        with _fenced(at, found[0]):
            middle = [name for name in columns if name not in by_other and name not in last]
            for name in [*by_other, *middle, *last]:
                gone[name] = at.execute(sql.SQL("DELETE FROM {}").format(sql.Identifier(name))).rowcount
        return gone


def _without_triggers(at: psycopg.Connection) -> None:
    """For the rest of the transaction. Raises PermissionError where this database's user may not."""
    try:
        with at.transaction():
            at.execute("SET LOCAL session_replication_role = replica")
    except psycopg.errors.InsufficientPrivilege as error:
        raise PermissionError(
            "this database's user may not do that: let its administrator say "
            "GRANT SET ON PARAMETER session_replication_role TO that user"
        ) from error


def _astray(at: psycopg.Connection, tables: list[str], shop: UUID) -> list[str]:
    """Tables with rows that point at nothing, which no trigger has looked for."""
    wrong = []
    for table, column, other, key in at.execute(_FOREIGN, [tables]).fetchall():
        asked = sql.SQL("SELECT 1 FROM {} t WHERE {} IS NOT NULL AND NOT EXISTS (SELECT 1 FROM {} o WHERE o.{} = t.{}) LIMIT 1")
        names = [sql.Identifier(name) for name in (table, column, other, key, column)]
        with _fenced(at, shop):
            if at.execute(asked.format(*names)).fetchone():
                wrong.append(f"{table}.{column}")
    return wrong
