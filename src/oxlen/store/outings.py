"""Outings: a place and a time with a list of sheets."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class Outing:
    """One outing; `deleted_at` is set while it lies in the bin."""

    id: int
    title: str
    place: str
    light_window: str
    created_at: str
    deleted_at: str | None


def add_outing(
    connection: sqlite3.Connection, *, title: str, place: str, light_window: str, now: str
) -> int:
    """Keep a new outing; returns its id."""
    cursor = connection.execute(
        "INSERT INTO outing (title, place, light_window, created_at) VALUES (?, ?, ?, ?)",
        (title, place, light_window, now),
    )
    return int(cursor.lastrowid or 0)


def outing(connection: sqlite3.Connection, outing_id: int) -> Outing:
    """The outing of that id, in the bin or not; NotFound otherwise."""
    row = connection.execute(
        "SELECT id, title, place, light_window, created_at, deleted_at FROM outing WHERE id = ?",
        (outing_id,),
    ).fetchone()
    if row is None:
        raise NotFound(f"There is no outing {outing_id}.", outing=outing_id)
    return Outing(**row)


def outings(connection: sqlite3.Connection, *, deleted: bool = False) -> list[Outing]:
    """Outings in use, or those in the bin; newest first."""
    rows = connection.execute(
        "SELECT id, title, place, light_window, created_at, deleted_at FROM outing"
        " WHERE (deleted_at IS NOT NULL) = ? ORDER BY id DESC",
        (deleted,),
    )
    return [Outing(**row) for row in rows]


def change_outing(
    connection: sqlite3.Connection,
    outing_id: int,
    *,
    title: str | None = None,
    place: str | None = None,
    light_window: str | None = None,
) -> None:
    """Rename an outing, or change its place or light window; what is None stays."""
    outing(connection, outing_id)
    connection.execute(
        "UPDATE outing SET title = coalesce(?, title), place = coalesce(?, place),"
        " light_window = coalesce(?, light_window) WHERE id = ?",
        (title, place, light_window, outing_id),
    )


def set_outing_deleted(
    connection: sqlite3.Connection, outing_id: int, deleted_at: str | None
) -> None:
    """Put an outing in the bin, or take it out again (None)."""
    outing(connection, outing_id)
    connection.execute("UPDATE outing SET deleted_at = ? WHERE id = ?", (deleted_at, outing_id))
