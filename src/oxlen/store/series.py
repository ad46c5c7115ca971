"""Series: sheets of an outing that are shot alike, one of which leads."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from uuid import uuid4

from oxlen.core.errors import NotFound

SELECT_SERIES = """
SELECT id, uid, outing_id, lead_id, title, locked, pattern, changed_at,
       (SELECT json_group_array(json_array(sheet.id != series.lead_id, sheet.position, sheet.id))
        FROM series_sheet JOIN sheet ON sheet.id = series_sheet.sheet_id
        WHERE series_sheet.series_id = series.id AND sheet.deleted_at IS NULL) AS sheets
FROM series
"""


@dataclass(frozen=True)
class Series:
    """A series: its leading sheet, the parts that are locked, and that sheet as it was locked.

    `sheet_ids` are its sheets that are in use, the leading one first.
    """

    id: int
    uid: str
    outing_id: int
    lead_id: int
    title: str
    locked: tuple[str, ...]
    pattern: str
    changed_at: str
    sheet_ids: tuple[int, ...]


@dataclass(frozen=True)
class NewSeries:
    """What a series begins with; one carried here brings its uid."""

    lead_id: int
    title: str
    locked: Sequence[str]
    pattern: str
    uid: str | None = None


def add_series(
    connection: sqlite3.Connection, outing_id: int, new: NewSeries, *, now: str
) -> Series:
    """Start a series with its leading sheet."""
    cursor = connection.execute(
        "INSERT INTO series (uid, outing_id, lead_id, title, locked, pattern, changed_at)"
        " VALUES (?, ?, ?, ?, ?, ?, ?)",
        (
            new.uid or uuid4().hex,
            outing_id,
            new.lead_id,
            new.title,
            json.dumps(list(new.locked)),
            new.pattern,
            now,
        ),
    )
    series_id = int(cursor.lastrowid or 0)
    join_series(connection, series_id, [new.lead_id])
    return series(connection, series_id)


def series(connection: sqlite3.Connection, series_id: int) -> Series:
    """The series of that id; NotFound otherwise."""
    row = connection.execute(SELECT_SERIES + " WHERE id = ?", (series_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no series {series_id}.", series=series_id)
    return _series(row)


def series_of_uid(connection: sqlite3.Connection, uid: str) -> Series | None:
    """The series known by that name wherever it was carried."""
    row = connection.execute(SELECT_SERIES + " WHERE uid = ?", (uid,)).fetchone()
    return None if row is None else _series(row)


def series_of_sheet(connection: sqlite3.Connection, sheet_id: int) -> Series | None:
    """The series a sheet belongs to; None without one."""
    row = connection.execute(
        SELECT_SERIES + " WHERE id = (SELECT series_id FROM series_sheet WHERE sheet_id = ?)",
        (sheet_id,),
    ).fetchone()
    return None if row is None else _series(row)


def series_of_outing(connection: sqlite3.Connection, outing_id: int) -> list[Series]:
    """The series of an outing, the oldest first."""
    rows = connection.execute(SELECT_SERIES + " WHERE outing_id = ? ORDER BY id", (outing_id,))
    return [_series(row) for row in rows]


def join_series(connection: sqlite3.Connection, series_id: int, sheet_ids: Iterable[int]) -> None:
    """Sheets become part of a series, and of no other."""
    connection.executemany(
        "INSERT INTO series_sheet (sheet_id, series_id) VALUES (?, ?)"
        " ON CONFLICT (sheet_id) DO UPDATE SET series_id = excluded.series_id",
        [(sheet_id, series_id) for sheet_id in sheet_ids],
    )


def leave_series(connection: sqlite3.Connection, sheet_id: int) -> None:
    """A sheet is part of no series any more."""
    connection.execute("DELETE FROM series_sheet WHERE sheet_id = ?", (sheet_id,))


def change_series(connection: sqlite3.Connection, changed: Series, *, now: str) -> None:
    """Keep a series' title, locked parts and pattern."""
    connection.execute(
        "UPDATE series SET title = ?, locked = ?, pattern = ?, changed_at = ? WHERE id = ?",
        (changed.title, json.dumps(list(changed.locked)), changed.pattern, now, changed.id),
    )


def end_series(connection: sqlite3.Connection, series_id: int) -> None:
    """A series is no more; its sheets stay as they are."""
    series(connection, series_id)
    connection.execute("DELETE FROM series WHERE id = ?", (series_id,))


def _series(row: sqlite3.Row) -> Series:
    values = dict(row)
    values["locked"] = tuple(json.loads(values["locked"]))
    in_order = sorted(json.loads(values.pop("sheets")))
    return Series(**values, sheet_ids=tuple(sheet_id for *_, sheet_id in in_order))
