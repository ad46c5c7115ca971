"""Filters of the kit."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class KeptFilter:
    """A filter: its name, the factor it takes the light down by, and what was noted of it."""

    id: str
    name: str
    factor: float
    note: str


def save_filter(connection: sqlite3.Connection, kept: KeptFilter, now: str) -> None:
    """Keep a filter under its id, over an earlier one."""
    connection.execute(
        "INSERT INTO glass (id, name, factor, note, changed_at)"
        " VALUES (:id, :name, :factor, :note, :now)"
        " ON CONFLICT (id) DO UPDATE SET name = excluded.name, factor = excluded.factor,"
        " note = excluded.note, changed_at = excluded.changed_at",
        {**vars(kept), "now": now},
    )


def kept_filters(connection: sqlite3.Connection) -> list[KeptFilter]:
    """All filters, the lightest first."""
    rows = connection.execute("SELECT id, name, factor, note FROM glass ORDER BY factor, id")
    return [KeptFilter(**row) for row in rows]


def delete_filter(connection: sqlite3.Connection, glass_id: str) -> None:
    """Remove a filter; NotFound when there is none. Sheets keep what they were given."""
    if connection.execute("DELETE FROM glass WHERE id = ?", (glass_id,)).rowcount == 0:
        raise NotFound(f"Your kit has no filter named {glass_id}.", glass=glass_id)
