"""Sheets: one intended picture each, kept as a chain of revisions."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass
from uuid import uuid4

from oxlen.core.errors import EditClash, NotFound

MAX_REVISIONS = 500

SELECT_SHEET = """
SELECT sheet.id, sheet.outing_id, sheet.position, sheet.revision, sheet.version,
       sheet.changed_at, sheet.deleted_at, sheet.uid, revision.body, revision.label,
       EXISTS (SELECT 1 FROM sheet_revision AS r
               WHERE r.sheet_id = sheet.id AND r.number < sheet.revision) AS can_undo,
       EXISTS (SELECT 1 FROM sheet_revision AS r
               WHERE r.sheet_id = sheet.id AND r.number > sheet.revision) AS can_redo
FROM sheet
JOIN sheet_revision AS revision
  ON revision.sheet_id = sheet.id AND revision.number = sheet.revision
"""


@dataclass(frozen=True)
class Sheet:
    """A sheet as it is now; `body` is JSON text, `label` names what the last edit did.

    `uid` names it in every Oxlen it is carried to.
    """

    id: int
    outing_id: int
    position: int
    revision: int
    version: int
    changed_at: str
    deleted_at: str | None
    uid: str
    body: str
    label: str
    can_undo: bool
    can_redo: bool


def add_sheet(
    connection: sqlite3.Connection, outing_id: int, body: str, *, now: str, uid: str | None = None
) -> int:
    """Keep a new sheet at the end of an outing; returns its id. One carried here brings its uid."""
    cursor = connection.execute(
        "INSERT INTO sheet (outing_id, position, revision, version, changed_at, uid)"
        " VALUES (?, (SELECT coalesce(max(position), 0) + 1 FROM sheet WHERE outing_id = ?),"
        " 1, 1, ?, ?)",
        (outing_id, outing_id, now, uid or uuid4().hex),
    )
    sheet_id = int(cursor.lastrowid or 0)
    connection.execute(
        "INSERT INTO sheet_revision (sheet_id, number, body, label, made_at)"
        " VALUES (?, 1, ?, 'new sheet', ?)",
        (sheet_id, body, now),
    )
    return sheet_id


def sheet(connection: sqlite3.Connection, sheet_id: int) -> Sheet:
    """The sheet of that id, in the bin or not; NotFound otherwise."""
    row = connection.execute(SELECT_SHEET + " WHERE sheet.id = ?", (sheet_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no sheet {sheet_id}.", sheet=sheet_id)
    return _sheet(row)


def sheet_of_uid(connection: sqlite3.Connection, uid: str) -> Sheet | None:
    """The sheet known by that name wherever it was carried, in the bin or not."""
    row = connection.execute(SELECT_SHEET + " WHERE sheet.uid = ?", (uid,)).fetchone()
    return None if row is None else _sheet(row)


def sheets_of(
    connection: sqlite3.Connection,
    outing_id: int,
    *,
    deleted: bool = False,
    most: int = -1,
    words: str = "",
) -> list[Sheet]:
    """Sheets of an outing in their order: those in use, or those in the bin; at most so many.

    With `words` those that have them in their title.
    """
    rows = connection.execute(
        SELECT_SHEET + " WHERE sheet.outing_id = ? AND (sheet.deleted_at IS NOT NULL) = ?"
        " AND instr(folded(json_extract(revision.body, '$.title')), ?)"
        " ORDER BY sheet.position, sheet.id LIMIT ?",
        (outing_id, deleted, words.casefold(), most),
    )
    return [_sheet(row) for row in rows]


def count_sheets(connection: sqlite3.Connection, outing_id: int) -> int:
    """How many sheets of an outing are in use."""
    found = connection.execute(
        "SELECT count(*) FROM sheet WHERE outing_id = ? AND deleted_at IS NULL", (outing_id,)
    )
    return int(found.fetchone()[0])


def every_sheet(connection: sqlite3.Connection) -> Iterator[Sheet]:
    """All sheets, in the bin or not."""
    for row in connection.execute(SELECT_SHEET + " ORDER BY sheet.id"):
        yield _sheet(row)


def sheet_texts(connection: sqlite3.Connection) -> Iterator[tuple[int, str]]:
    """Number and body of every sheet, as a database of any version has them."""
    for row in connection.execute(
        "SELECT sheet.id, revision.body FROM sheet JOIN sheet_revision AS revision"
        " ON revision.sheet_id = sheet.id AND revision.number = sheet.revision ORDER BY sheet.id"
    ):
        yield row["id"], row["body"]


def edit_sheet(
    connection: sqlite3.Connection,
    sheet_id: int,
    *,
    body: str,
    label: str,
    from_version: int,
    now: str,
) -> None:
    """Add a revision on top of the one in force; what had been undone is deleted.

    EditClash when the sheet has moved on since `from_version`.
    """
    current = sheet(connection, sheet_id)
    if current.version != from_version:
        raise EditClash(
            "This sheet was changed elsewhere. It was reloaded.",
            sheet=sheet_id,
            version=current.version,
        )
    connection.execute(
        "DELETE FROM sheet_revision WHERE sheet_id = ? AND (number > ? OR number <= ?)",
        (sheet_id, current.revision, current.revision + 1 - MAX_REVISIONS),
    )
    connection.execute(
        "INSERT INTO sheet_revision (sheet_id, number, body, label, made_at)"
        " VALUES (?, ?, ?, ?, ?)",
        (sheet_id, current.revision + 1, body, label, now),
    )
    _move_to(connection, sheet_id, current.revision + 1, now=now)


def step_sheet(connection: sqlite3.Connection, sheet_id: int, step: int, *, now: str) -> None:
    """Undo (step −1) or redo (+1); NotFound when there is nothing to go to."""
    target = sheet(connection, sheet_id).revision + step
    found = connection.execute(
        "SELECT 1 FROM sheet_revision WHERE sheet_id = ? AND number = ?", (sheet_id, target)
    ).fetchone()
    if found is None:
        word = "undo" if step < 0 else "redo"
        raise NotFound(f"Nothing to {word} on this sheet.", sheet=sheet_id)
    _move_to(connection, sheet_id, target, now=now)


def earlier_body(connection: sqlite3.Connection, sheet_id: int) -> str | None:
    """The body before the last edit, as JSON text; None where there was none."""
    row = connection.execute(
        "SELECT body FROM sheet_revision WHERE sheet_id = ? AND number <"
        " (SELECT revision FROM sheet WHERE id = ?) ORDER BY number DESC LIMIT 1",
        (sheet_id, sheet_id),
    ).fetchone()
    return None if row is None else str(row["body"])


def set_sheet_deleted(
    connection: sqlite3.Connection, sheet_id: int, deleted_at: str | None
) -> None:
    """Put a sheet in the bin, or take it out again (None)."""
    sheet(connection, sheet_id)
    connection.execute("UPDATE sheet SET deleted_at = ? WHERE id = ?", (deleted_at, sheet_id))


def _move_to(connection: sqlite3.Connection, sheet_id: int, revision: int, *, now: str) -> None:
    connection.execute(
        "UPDATE sheet SET revision = ?, version = version + 1, changed_at = ? WHERE id = ?",
        (revision, now, sheet_id),
    )


def _sheet(row: sqlite3.Row) -> Sheet:
    values = dict(row)
    values["can_undo"], values["can_redo"] = bool(row["can_undo"]), bool(row["can_redo"])
    return Sheet(**values)
