"""Filters of the kit."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class KeptGlass:
    """A filter: its name, the factor it takes the light down by, and what was noted of it."""

    id: str
    name: str
    factor: float
    note: str


def keep_glass(connection: sqlite3.Connection, glass: KeptGlass, now: str) -> None:
    """Keep a filter under its id, over an earlier one."""
    connection.execute(
        "INSERT INTO glass (id, name, factor, note, changed_at)"
        " VALUES (:id, :name, :factor, :note, :now)"
        " ON CONFLICT (id) DO UPDATE SET name = excluded.name, factor = excluded.factor,"
        " note = excluded.note, changed_at = excluded.changed_at",
        {**vars(glass), "now": now},
    )


def kept_glass(connection: sqlite3.Connection) -> list[KeptGlass]:
    """All filters, the lightest first."""
    rows = connection.execute("SELECT id, name, factor, note FROM glass ORDER BY factor, id")
    return [KeptGlass(**row) for row in rows]


def drop_glass(connection: sqlite3.Connection, glass_id: str) -> None:
    """Remove a filter; NotFound when there is none. Sheets keep what they were given."""
    if connection.execute("DELETE FROM glass WHERE id = ?", (glass_id,)).rowcount == 0:
        raise NotFound(f"Your kit has no filter named {glass_id}.", glass=glass_id)
