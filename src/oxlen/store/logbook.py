"""The logbook: takes of all outings, by words, filters and order, a page at a time."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from oxlen.core.errors import BadInput

Order = Literal["newest", "oldest", "iso", "shutter", "rating"]
MOST_A_PAGE = 500
EVERY_ONE = -1
"""What SQL takes for no limit."""

SELECT_ENTRY = """
SELECT take.id, take.sheet_id, take.sha256, take.raw_sha256, take.state, take.note, take.rating,
       take.keywords, take.why, take.lens, take.situation, take.iso, take.shutter_s, take.shot_at,
       take.shot_on, sheet.outing_id, sheet.uid AS sheet_uid, outing.title AS outing_title,
       json_extract(revision.body, '$.title') AS sheet_title, picture.file_name
FROM ({found}) AS found
JOIN take ON take.id = found.id
JOIN sheet ON sheet.id = take.sheet_id
JOIN sheet_revision AS revision
  ON revision.sheet_id = sheet.id AND revision.number = sheet.revision
JOIN outing ON outing.id = sheet.outing_id
JOIN picture ON picture.sha256 = take.sha256
ORDER BY {column} {way}, take.id {way}
"""


@dataclass(frozen=True)
class _Order:
    """A column to sort by, its direction, what comes after a place in it, and the index used."""

    column: str
    way: str
    beyond: str
    index: str


ORDERS: Mapping[Order, _Order] = {
    "newest": _Order("take.shot_at", "DESC", "<", index="take_by_time"),
    "oldest": _Order("take.shot_at", "ASC", ">", index="take_by_time"),
    "iso": _Order("take.iso", "ASC", ">", index="take_by_iso"),
    "shutter": _Order("take.shutter_s", "ASC", ">", index="take_by_shutter"),
    "rating": _Order("take.rating", "DESC", "<", index="take_by_rating"),
}
FILTERS: Mapping[str, str] = {
    "outing": "take.sheet_id IN (SELECT id FROM sheet WHERE outing_id = :outing)",
    "sheet": "take.sheet_id = :sheet",
    "lens": "take.lens = :lens",
    "situation": "take.situation = :situation",
    "state": "take.state = :state",
    "rating": "take.rating >= :rating",
    "iso_min": "take.iso >= :iso_min * 0.99",
    "iso_max": "take.iso <= :iso_max * 1.01",
    "shutter_min_s": "take.shutter_s >= :shutter_min_s * 0.99",
    "shutter_max_s": "take.shutter_s <= :shutter_max_s * 1.01",
    "since": "take.shot_at >= :since",
    "until": "take.shot_at < :until || '~'",
}
IN_USE = """take.deleted_at IS NULL AND {column} IS NOT NULL AND take.sheet_id IN (
  SELECT sheet.id FROM sheet JOIN outing ON outing.id = sheet.outing_id
  WHERE sheet.deleted_at IS NULL AND outing.deleted_at IS NULL)"""
WORDS = "take.id IN (SELECT rowid FROM take_words WHERE take_words MATCH :words)"
FEW = 4000
"""So many takes with the words are sorted quickly; more are met soon when all are gone through."""


@dataclass(frozen=True)
class LogEntry:
    """A take in the logbook, with the sheet and the outing it belongs to."""

    id: int
    sheet_id: int
    sha256: str
    raw_sha256: str | None
    state: str
    note: str
    rating: int
    keywords: str
    why: str
    lens: str
    situation: str
    iso: float | None
    shutter_s: float | None
    shot_at: str
    shot_on: str
    outing_id: int
    sheet_uid: str
    outing_title: str
    sheet_title: str
    file_name: str


@dataclass(frozen=True)
class Search:
    """What is looked for: words, filters by name (`FILTERS`), an order, and the place after which.

    `after` is (value of the order's column, id) of the last entry seen.
    """

    words: str = ""
    filters: Mapping[str, Any] | None = None
    order: Order = "newest"
    after: tuple[Any, int] | None = None
    most: int = 60


def log_entries(connection: sqlite3.Connection, search: Search) -> list[LogEntry]:
    """A page of takes in use. BadInput for a filter that is not known."""
    rows = _rows(connection, search, min(search.most, MOST_A_PAGE))
    return [LogEntry(**row) for row in rows]


def every_log_entry(connection: sqlite3.Connection, search: Search) -> Iterator[LogEntry]:
    """All takes of a search, one after another."""
    for row in _rows(connection, search, EVERY_ONE):
        yield LogEntry(**row)


def count_log_entries(connection: sqlite3.Connection, search: Search, *, most: int) -> int:
    """How many takes a search finds, counted no further than `most`."""
    found, values = _found(connection, search, most)
    return int(connection.execute(f"SELECT count(*) FROM ({found})", values).fetchone()[0])


def _rows(connection: sqlite3.Connection, search: Search, most: int) -> sqlite3.Cursor:
    found, values = _found(connection, search, most)
    order = ORDERS[search.order]
    sql = SELECT_ENTRY.format(found=found, column=order.column, way=order.way)
    return connection.execute(sql, values)


def _found(connection: sqlite3.Connection, search: Search, most: int) -> tuple[str, dict[str, Any]]:
    """The statement that finds the takes of a page, and its values."""
    where, values = _where(search)
    order = ORDERS[search.order]
    is_few = "sheet" in (search.filters or {}) or _has_few(connection, values.get("words"))
    by = "" if is_few else f"INDEXED BY {order.index}"
    sql = (
        f"SELECT take.id FROM take {by} WHERE {where}"
        f" ORDER BY {order.column} {order.way}, take.id {order.way} LIMIT :most"
    )
    return sql, {**values, "most": most}


def _has_few(connection: sqlite3.Connection, words: str | None) -> bool:
    """Whether so few takes have the words that they are better sorted than met by going through."""
    if words is None:
        return False
    sql = "SELECT count(*) FROM (SELECT 1 FROM take_words WHERE take_words MATCH ? LIMIT ?)"
    return int(connection.execute(sql, (words, FEW)).fetchone()[0]) < FEW


def lenses_of_takes(connection: sqlite3.Connection) -> list[str]:
    """Names of the lenses that takes were shot through."""
    rows = connection.execute("SELECT DISTINCT lens FROM take WHERE lens <> '' ORDER BY lens")
    return [str(row["lens"]) for row in rows]


def match_words(words: str) -> str:
    """Words as the full-text index takes them: all of them, each from its beginning.

    >>> match_words('grey "paint" -slip')
    '"grey"* AND "paint"* AND "slip"*'
    """
    found = re.findall(r"\w+", words)
    return " AND ".join(f'"{word}"*' for word in found)


def _where(search: Search) -> tuple[str, dict[str, Any]]:
    order = ORDERS[search.order]
    parts, values = [IN_USE.format(column=order.column)], {}
    for name, value in (search.filters or {}).items():
        if name not in FILTERS:
            raise BadInput(f"There is no filter {name}; there are {', '.join(FILTERS)}.", name)
        if value is not None:
            parts.append(FILTERS[name])
            values[name] = value
    words = match_words(search.words)
    if words:
        parts.append(WORDS)
        values["words"] = words
    if search.after is not None:
        parts.append(f"({order.column}, take.id) {order.beyond} (:after, :after_id)")
        values["after"], values["after_id"] = search.after
    return " AND ".join(parts), values
