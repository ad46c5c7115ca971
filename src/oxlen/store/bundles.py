"""Slips saved with all they were decided by."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class KeptBundle:
    """A saved slip; `bundle` is its file as JSON text."""

    id: int
    sheet_id: int
    name: str
    bundle: str
    made_at: str


def add_bundle(
    connection: sqlite3.Connection, sheet_id: int, *, name: str, bundle: str, now: str
) -> int:
    """Keep a slip; returns its id."""
    cursor = connection.execute(
        "INSERT INTO bundle (sheet_id, name, bundle, made_at) VALUES (?, ?, ?, ?)",
        (sheet_id, name, bundle, now),
    )
    return int(cursor.lastrowid or 0)


def bundles_of(connection: sqlite3.Connection, sheet_id: int) -> list[KeptBundle]:
    """Saved slips of a sheet, the newest first."""
    rows = connection.execute(
        "SELECT id, sheet_id, name, bundle, made_at FROM bundle WHERE sheet_id = ?"
        " ORDER BY id DESC",
        (sheet_id,),
    )
    return [KeptBundle(**row) for row in rows]


def bundle(connection: sqlite3.Connection, bundle_id: int) -> KeptBundle:
    """The saved slip of that id; NotFound otherwise."""
    row = connection.execute(
        "SELECT id, sheet_id, name, bundle, made_at FROM bundle WHERE id = ?", (bundle_id,)
    ).fetchone()
    if row is None:
        raise NotFound(f"There is no saved slip {bundle_id}.", bundle=bundle_id)
    return KeptBundle(**row)


def delete_bundle(connection: sqlite3.Connection, bundle_id: int) -> None:
    """Delete a saved slip."""
    bundle(connection, bundle_id)
    connection.execute("DELETE FROM bundle WHERE id = ?", (bundle_id,))
