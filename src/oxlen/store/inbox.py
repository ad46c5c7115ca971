"""The inbox: pictures that came in without a sheet."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from oxlen.core.errors import NotFound

SELECT_INBOX = """
SELECT inbox.id, inbox.sha256, inbox.raw_sha256, inbox.added_at, picture.file_name, picture.report
FROM inbox JOIN picture ON picture.sha256 = inbox.sha256
"""


@dataclass(frozen=True)
class InboxEntry:
    """One picture waiting for a sheet; `report` is its reading as JSON text.

    `raw_sha256` is the same shot as RAW, beside the processed file.
    """

    id: int
    sha256: str
    raw_sha256: str | None
    added_at: str
    file_name: str
    report: str


def add_to_inbox(
    connection: sqlite3.Connection, sha256: str, *, mark: str | None, now: str
) -> int | None:
    """Put a kept picture into the inbox; None where it is there already, or was sent before."""
    cursor = connection.execute(
        "INSERT INTO inbox (sha256, mark, added_at) SELECT ?, ?, ?"
        " WHERE NOT EXISTS (SELECT 1 FROM inbox WHERE sha256 = ?1 OR raw_sha256 = ?1)"
        " ON CONFLICT DO NOTHING",
        (sha256, mark, now),
    )
    return int(cursor.lastrowid or 0) if cursor.rowcount > 0 else None


def inbox(connection: sqlite3.Connection) -> list[InboxEntry]:
    """All that waits, the oldest first."""
    rows = connection.execute(SELECT_INBOX + " ORDER BY inbox.id")
    return [InboxEntry(**row) for row in rows]


def inbox_entry(connection: sqlite3.Connection, entry_id: int) -> InboxEntry:
    """The entry of that id; NotFound otherwise."""
    row = connection.execute(SELECT_INBOX + " WHERE inbox.id = ?", (entry_id,)).fetchone()
    if row is None:
        raise NotFound("This picture is no longer in the inbox.", entry=entry_id)
    return InboxEntry(**row)


def pair_in_inbox(
    connection: sqlite3.Connection, entry_id: int, *, sha256: str, raw_sha256: str
) -> None:
    """Make an entry represent both files of one shot; the other's own entry goes."""
    connection.execute(
        "DELETE FROM inbox WHERE id <> ? AND sha256 IN (?, ?)", (entry_id, sha256, raw_sha256)
    )
    connection.execute(
        "UPDATE inbox SET sha256 = ?, raw_sha256 = ? WHERE id = ?", (sha256, raw_sha256, entry_id)
    )


def leave_inbox(connection: sqlite3.Connection, entry_id: int) -> None:
    """Take an entry out; its pictures stay kept."""
    inbox_entry(connection, entry_id)
    connection.execute("DELETE FROM inbox WHERE id = ?", (entry_id,))


def sheets_with_picture(connection: sqlite3.Connection, sha256: str) -> list[int]:
    """Sheets that have a picture among their takes, processed or RAW, or meter by it."""
    rows = connection.execute(
        "SELECT sheet_id FROM take WHERE (sha256 = ?1 OR raw_sha256 = ?1) AND deleted_at IS NULL"
        " UNION SELECT sheet_id FROM sheet_picture WHERE sha256 = ?1 ORDER BY sheet_id",
        (sha256,),
    )
    return [int(row["sheet_id"]) for row in rows]
