"""What pages send from their queues, each under a mark of its own, so that it is done once."""

from __future__ import annotations

import sqlite3
from datetime import datetime, timedelta

KEPT_DAYS = 90
"""Longer than a phone is likely to be away with something to send."""


def is_delivered(connection: sqlite3.Connection, mark: str | None) -> bool:
    """Whether what bears the mark was done before; what bears none never was."""
    found = connection.execute("SELECT 1 FROM delivery WHERE mark = ?", (mark,)).fetchone()
    return found is not None


def delivered_to(connection: sqlite3.Connection, mark: str | None) -> int | None:
    """The sheet for which what bears the mark was done before; None where it was not."""
    found = connection.execute("SELECT sheet_id FROM delivery WHERE mark = ?", (mark,)).fetchone()
    return None if found is None else int(found[0])


def note_delivery(
    connection: sqlite3.Connection, mark: str | None, sheet_id: int, *, now: str
) -> None:
    """Note that what bears the mark is done for a sheet; long past ones are deleted."""
    if mark is None:
        return
    connection.execute(
        "INSERT INTO delivery (mark, sheet_id, delivered_at) VALUES (?, ?, ?)",
        (mark, sheet_id, now),
    )
    past = datetime.fromisoformat(now) - timedelta(days=KEPT_DAYS)
    connection.execute(
        "DELETE FROM delivery WHERE delivered_at < ?", (past.isoformat(timespec="seconds"),)
    )
