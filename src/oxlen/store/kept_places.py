"""Places, each as its open JSON."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class KeptPlace:
    """A place: its id and its JSON."""

    id: int
    body: str


def add_place(connection: sqlite3.Connection, body: str, *, now: str) -> int:
    """Keep a new place; its id."""
    row = connection.execute(
        "INSERT INTO place (body, changed_at) VALUES (?, ?) RETURNING id", (body, now)
    ).fetchone()
    return int(row["id"])


def change_place(connection: sqlite3.Connection, place_id: int, body: str, *, now: str) -> None:
    """Keep a place anew; NotFound when there is none of that id."""
    kept_place(connection, place_id)
    connection.execute(
        "UPDATE place SET body = ?, changed_at = ? WHERE id = ?", (body, now, place_id)
    )


def kept_place(connection: sqlite3.Connection, place_id: int) -> KeptPlace:
    """The place of that id; NotFound otherwise."""
    row = connection.execute("SELECT id, body FROM place WHERE id = ?", (place_id,)).fetchone()
    if row is None:
        raise NotFound("This place no longer exists.", place=place_id)
    return KeptPlace(**row)


def kept_places(connection: sqlite3.Connection) -> list[KeptPlace]:
    """All places, by name."""
    rows = connection.execute(
        "SELECT id, body FROM place ORDER BY folded(json_extract(body, '$.name')), id"
    )
    return [KeptPlace(**row) for row in rows]


def drop_place(connection: sqlite3.Connection, place_id: int) -> None:
    """Delete a place; outings keep its name and position. NotFound when there is none."""
    kept_place(connection, place_id)
    connection.execute("DELETE FROM place WHERE id = ?", (place_id,))


def outings_at(connection: sqlite3.Connection, place_id: int) -> list[int]:
    """Ids of the outings in use that belong to a place."""
    rows = connection.execute(
        "SELECT id FROM outing WHERE place_id = ? AND deleted_at IS NULL ORDER BY id", (place_id,)
    )
    return [int(row["id"]) for row in rows]
