"""Outings: a place and a time with a list of sheets."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass
from uuid import uuid4

from oxlen.core.errors import NotFound

SELECT_OUTING = """
SELECT id, title, place, light_window, latitude_deg, longitude_deg, date, time_zone,
       created_at, deleted_at, uid, place_id
FROM outing
"""
# A page of them: older than one, and with the words in its title, its place or a sheet's title.
SELECT_PAGE = (
    SELECT_OUTING
    + """
WHERE (deleted_at IS NOT NULL) = :deleted AND (:before IS NULL OR id < :before)
  AND (:words = '' OR instr(folded(title || ' ' || place), :words) OR EXISTS (
    SELECT 1 FROM sheet
    JOIN sheet_revision AS revision
      ON revision.sheet_id = sheet.id AND revision.number = sheet.revision
    WHERE sheet.outing_id = outing.id AND sheet.deleted_at IS NULL
      AND instr(folded(json_extract(revision.body, '$.title')), :words)))
ORDER BY id DESC LIMIT :most
"""
)
EVERY_ONE = -1
"""What SQL takes for no limit."""
UPDATE_OUTING = """
UPDATE outing SET title = :title, place = :place, light_window = :light_window,
       latitude_deg = :latitude_deg, longitude_deg = :longitude_deg, date = :date,
       time_zone = :time_zone, place_id = :place_id
WHERE id = :id
"""


@dataclass(frozen=True)
class Outing:
    """One outing; `deleted_at` is set while it is in the bin.

    Position, date (YYYY-MM-DD) and time zone (a name of the IANA database) may be unknown. `uid`
    names it in every Oxlen it is carried to.
    """

    id: int
    title: str
    place: str
    light_window: str
    created_at: str
    deleted_at: str | None
    latitude_deg: float | None = None
    longitude_deg: float | None = None
    date: str | None = None
    time_zone: str | None = None
    uid: str = ""
    place_id: int | None = None

    def says(self, words: str) -> bool:
        """Whether its own title or place has the words, whatever their case."""
        return words.casefold() in f"{self.title} {self.place}".casefold()


def newest_outing_id(connection: sqlite3.Connection, *, now: str) -> int:
    """The newest outing that is not in the bin; a first one is started where there is none."""
    row = connection.execute("SELECT max(id) AS id FROM outing WHERE deleted_at IS NULL").fetchone()
    newest: int | None = row["id"]
    return newest if newest is not None else add_outing(connection, title="First outing", now=now)


def add_outing(
    connection: sqlite3.Connection,
    *,
    title: str,
    now: str,
    place: str = "",
    light_window: str = "",
    latitude_deg: float | None = None,
    longitude_deg: float | None = None,
    date: str | None = None,
    time_zone: str | None = None,
    uid: str | None = None,
) -> int:
    """Keep a new outing; returns its id. One that was carried here brings its `uid`."""
    cursor = connection.execute(
        "INSERT INTO outing (title, place, light_window, latitude_deg, longitude_deg, date,"
        " time_zone, created_at, uid) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            *(title, place, light_window, latitude_deg, longitude_deg, date, time_zone, now),
            uid or uuid4().hex,
        ),
    )
    return int(cursor.lastrowid or 0)


def outing_of_uid(connection: sqlite3.Connection, uid: str) -> Outing | None:
    """The outing known by that name wherever it was carried, in the bin or not."""
    row = connection.execute(SELECT_OUTING + " WHERE uid = ?", (uid,)).fetchone()
    return None if row is None else Outing(**row)


def outing(connection: sqlite3.Connection, outing_id: int) -> Outing:
    """The outing of that id, in the bin or not; NotFound otherwise."""
    row = connection.execute(SELECT_OUTING + " WHERE id = ?", (outing_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no outing {outing_id}.", outing=outing_id)
    return Outing(**row)


def outings(
    connection: sqlite3.Connection,
    *,
    deleted: bool = False,
    before: int | None = None,
    most: int = EVERY_ONE,
    words: str = "",
) -> list[Outing]:
    """Outings in use, or those in the bin; newest first, at most so many from before one.

    With `words` those that have them in their title or place, or in a sheet's title.
    """
    page = {"deleted": deleted, "before": before, "most": most, "words": words.casefold()}
    return [Outing(**row) for row in connection.execute(SELECT_PAGE, page)]


def change_outing(
    connection: sqlite3.Connection, outing_id: int, changed: Mapping[str, str | float | int | None]
) -> None:
    """Change an outing's fields by name; what is not named stays."""
    current = vars(outing(connection, outing_id))
    connection.execute(UPDATE_OUTING, {**current, **changed, "id": outing_id})


def set_outing_deleted(
    connection: sqlite3.Connection, outing_id: int, deleted_at: str | None
) -> None:
    """Put an outing in the bin, or take it out again (None)."""
    outing(connection, outing_id)
    connection.execute("UPDATE outing SET deleted_at = ? WHERE id = ?", (deleted_at, outing_id))
