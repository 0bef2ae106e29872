"""Mending rows whose device's clock said a time that PostgreSQL keeps and Python cannot read. Used by migrations."""

from __future__ import annotations

from typing import Any

BAD = "device_at < '1970-01-01 00:00:00+00' OR device_at >= '2200-01-01 00:00:00+00'"


def keep_as_text(table: str) -> Any:
    """Keep what the clock said as text and leave it out as a time; only the owner of the table may."""

    def mend(apps: Any, editor: Any) -> None:
        with editor.connection.cursor() as cursor:
            cursor.execute("SET LOCAL pipette.retention = 'on'")
            cursor.execute(f"UPDATE {table} SET device_said = left(device_at::text, 64), device_at = NULL WHERE {BAD}")  # noqa: S608
            cursor.execute("SET LOCAL pipette.retention = 'off'")

    return mend
