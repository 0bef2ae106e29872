"""The database role the server runs as: it may do what the server does and nothing else.

Tables belong to the role that runs migrations and retention. The server's role neither owns them nor is a superuser: it
cannot change or remove what is append-only, empty or drop a table, shut a trigger off, or use the retention switch, which
the triggers heed only for the owner of the table.
"""

from __future__ import annotations

from django.db import connection
from psycopg import sql

ROLE = "pipette_server"
NEVER_REMOVED = ("labs_lab", "people_teacher", "people_deed", "labs_ownmaterial", "bench_askedagain")
NEVER_CHANGED = ("people_deed", "bench_askedagain")
NEVER_TOUCHED = ("django_migrations",)
_GUARDED = """
SELECT DISTINCT c.relname FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid JOIN pg_proc p ON p.oid = t.tgfoid
WHERE p.proname = 'bench_keep' AND c.relnamespace = 'public'::regnamespace
"""


def grant(password: str, role: str = ROLE) -> None:
    """Make the server's role if there is none, and give it just its rights in this database. Runs as the owner."""
    name = sql.Identifier(role)

    with connection.cursor() as cursor:

        def do(text: str, *names: sql.Composable) -> None:
            cursor.execute(sql.SQL(text).format(*names))

        def on(tables: list[str]) -> sql.Composable:
            return sql.SQL(", ").join(sql.Identifier(table) for table in tables)

        cursor.execute("SELECT 1 FROM pg_roles WHERE rolname = %s", [role])
        if cursor.fetchone() is None:
            do("CREATE ROLE {}", name)
        do(
            "ALTER ROLE {} LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE NOREPLICATION NOBYPASSRLS PASSWORD {}",
            name,
            sql.Literal(password),
        )
        do("REVOKE ALL ON ALL TABLES IN SCHEMA public FROM {}", name)
        do("REVOKE CREATE ON SCHEMA public FROM PUBLIC")
        do("GRANT USAGE ON SCHEMA public TO {}", name)
        do("GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO {}", name)
        do("GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO {}", name)
        cursor.execute(_GUARDED)
        kept = [table for (table,) in cursor.fetchall()]
        do("REVOKE UPDATE, DELETE ON {} FROM {}", on([*kept, *NEVER_CHANGED]), name)
        do("REVOKE DELETE ON {} FROM {}", on(list(NEVER_REMOVED)), name)
        do("REVOKE INSERT, UPDATE, DELETE ON {} FROM {}", on(list(NEVER_TOUCHED)), name)
