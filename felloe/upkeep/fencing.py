"""Puts the fence of felloe/accounts/fence.py under every table that belongs to a shop: PostgreSQL's row-level security.

Runs after every migration and looks at the tables that are there, so that a new one is fenced without anybody's thinking of it.
"""

from __future__ import annotations

from typing import Any

from django.db import connections
from django.db.utils import ProgrammingError

from felloe.accounts.fence import ROLE, SETTING

#: The shop that is set. As a query of its own it is worked out once for a statement, not once for a row.
SHOP = f"(SELECT nullif(current_setting('{SETTING}', true), '')::uuid)"
#: Whose rows are found by another column than the shop's.
OTHERWISE = {
    "accounts_shop": f"id = {SHOP}",
    "accounts_signedin": "person_id IN (SELECT id FROM accounts_user)",
    "accounts_secondfactor": "person_id IN (SELECT id FROM accounts_user)",
    "accounts_passwordletter": "person_id IN (SELECT id FROM accounts_user)",
    "accounts_pintry": "person_id IN (SELECT id FROM accounts_user)",
    "api_writekey": "user_id IN (SELECT id FROM accounts_user)",
    "links_linkvisit": "link_id IN (SELECT id FROM links_customerlink)",
}
_TABLES = """
    SELECT c.relname, max(a.attname) FILTER (WHERE a.attname IN ('shop_id', 'shop_pk')),
        c.relrowsecurity AND EXISTS (SELECT 1 FROM pg_policy WHERE polrelid = c.oid AND polname = 'of_one_shop')
    FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped
    WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p') GROUP BY c.oid ORDER BY 1
"""
_UNGRANTED = """
    SELECT count(*) FROM pg_class c WHERE c.relnamespace = 'public'::regnamespace
        AND c.relkind IN ('r', 'p') AND NOT has_table_privilege(%s, c.oid, 'INSERT')
        OR c.relnamespace = 'public'::regnamespace AND c.relkind = 'S' AND NOT has_sequence_privilege(%s, c.oid, 'USAGE')
"""


def make_role(cursor: Any) -> None:
    """By a cursor of Django's or psycopg's: the role and this user's way into it, which belong to the whole server.

    Raises RuntimeError where it may make none.
    """
    cursor.execute("SELECT 1 FROM pg_roles WHERE rolname = %s", [ROLE])
    if cursor.fetchone() is None:
        try:
            cursor.execute(f"CREATE ROLE {ROLE} NOLOGIN")
        except ProgrammingError as error:
            raise RuntimeError(
                f"this database's user may make no roles: let its administrator say CREATE ROLE {ROLE} NOLOGIN and "
                f"GRANT {ROLE} TO that user; then migrate again"
            ) from error
    cursor.execute("SELECT pg_has_role(current_user, %s, 'MEMBER')", [ROLE])
    if not cursor.fetchone()[0]:
        cursor.execute(f"GRANT {ROLE} TO CURRENT_USER")


def put_up(cursor: Any) -> None:
    """Fence what is not fenced yet; asks two questions where nothing is to be done."""
    make_role(cursor)
    cursor.execute(_UNGRANTED, [ROLE, ROLE])
    if cursor.fetchone()[0]:
        cursor.execute(
            f"GRANT USAGE ON SCHEMA public TO {ROLE};"
            f"GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO {ROLE};"
            f"GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO {ROLE};"
        )
    cursor.execute(_TABLES)
    for table, column, fenced in cursor.fetchall():
        # Rows of no shop, such as mail that was caught, are nobody's in here.
        inside = OTHERWISE.get(table) or (f"{column} = {SHOP}" if column else "")
        if inside and not fenced:
            cursor.execute(
                f"ALTER TABLE {table} ENABLE ROW LEVEL SECURITY;"
                f"DROP POLICY IF EXISTS of_one_shop ON {table};"
                f"CREATE POLICY of_one_shop ON {table} TO {ROLE} USING ({inside}) WITH CHECK ({inside});"
            )


def after_migrating(sender: Any, using: str, **_more: Any) -> None:
    with connections[using].cursor() as cursor:
        put_up(cursor)
