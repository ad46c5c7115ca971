"""Lamps and clip-on lenses of the kit, each as its open JSON."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from typing import Literal

from oxlen.core.errors import NotFound

ItemKind = Literal["lamp", "clip-on"]


@dataclass(frozen=True)
class KeptItem:
    """A lamp or clip-on: its id and its JSON."""

    id: str
    body: str


def keep_item(connection: sqlite3.Connection, kind: ItemKind, item: KeptItem, *, now: str) -> None:
    """Keep an item under its id, over an earlier one."""
    connection.execute(
        "INSERT INTO kit_item (kind, id, body, changed_at) VALUES (:kind, :id, :body, :now)"
        " ON CONFLICT (kind, id) DO UPDATE SET body = excluded.body,"
        " changed_at = excluded.changed_at",
        {"kind": kind, **vars(item), "now": now},
    )


def kept_items(connection: sqlite3.Connection, kind: ItemKind) -> list[KeptItem]:
    """All items of a kind, by id."""
    rows = connection.execute("SELECT id, body FROM kit_item WHERE kind = ? ORDER BY id", (kind,))
    return [KeptItem(**row) for row in rows]


def drop_item(connection: sqlite3.Connection, kind: ItemKind, item_id: str) -> None:
    """Remove an item; NotFound when there is none. Sheets keep what they were given."""
    done = connection.execute("DELETE FROM kit_item WHERE kind = ? AND id = ?", (kind, item_id))
    if done.rowcount == 0:
        words = "lamp" if kind == "lamp" else "clip-on"
        raise NotFound(f"Your kit has no {words} named {item_id}.", item=item_id)
