"""Shop series: the things of a sheet, which take shows which, and what was measured of them."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import uuid4

from oxlen.core.errors import NotFound
from oxlen.core.series.assigning import Assigned, Slot, TakeSlot

SELECT_SERIES = """
SELECT id, sheet_id, reference_take_id, options, aim_thing_id, aim_view, changed_at
FROM shop_series
"""
SELECT_THINGS = """
SELECT id, uid, position, name, number, width_cm, height_cm, depth_cm, skipped
FROM shop_thing WHERE series_id = ? ORDER BY position, id
"""


@dataclass(frozen=True)
class ShopSeries:
    """A shop series; `options` is JSON text, the aim what is shot next although other is open."""

    id: int
    sheet_id: int
    reference_take_id: int | None
    options: str
    aim_thing_id: int | None
    aim_view: str | None
    changed_at: str


@dataclass(frozen=True)
class ShopThing:
    """A thing of a series with its size in cm; `skipped` is 1 for one that is not shot."""

    id: int
    uid: str
    position: int
    name: str
    number: str
    width_cm: float | None
    height_cm: float | None
    depth_cm: float | None
    skipped: int


@dataclass(frozen=True)
class ShopTake:
    """A take in its series: what it shows, by which way; None for a code or a spare frame."""

    take_id: int
    thing_id: int | None
    view: str | None
    how: Assigned


def shop_series_of(connection: sqlite3.Connection, sheet_id: int) -> ShopSeries | None:
    """The shop series of a sheet; None without one."""
    row = connection.execute(SELECT_SERIES + " WHERE sheet_id = ?", (sheet_id,)).fetchone()
    return None if row is None else ShopSeries(**row)


def the_shop_series(connection: sqlite3.Connection, sheet_id: int) -> ShopSeries:
    """The shop series of a sheet; NotFound without one."""
    found = shop_series_of(connection, sheet_id)
    if found is None:
        raise NotFound("This sheet has no shop series yet.", sheet=sheet_id)
    return found


def begin_shop_series(
    connection: sqlite3.Connection, sheet_id: int, options: str, *, now: str
) -> ShopSeries:
    """Make a sheet a shop series, or give the one it has other options."""
    connection.execute(
        "INSERT INTO shop_series (sheet_id, options, changed_at) VALUES (?, ?, ?)"
        " ON CONFLICT (sheet_id) DO UPDATE SET options = excluded.options,"
        " changed_at = excluded.changed_at",
        (sheet_id, options, now),
    )
    return the_shop_series(connection, sheet_id)


def end_shop_series(connection: sqlite3.Connection, sheet_id: int) -> None:
    """A sheet is no shop series any more; its takes stay. NotFound without one."""
    known = the_shop_series(connection, sheet_id)
    connection.execute("DELETE FROM shop_series WHERE id = ?", (known.id,))


def things_of(connection: sqlite3.Connection, series_id: int) -> list[ShopThing]:
    """The things of a series in their order."""
    return [ShopThing(**row) for row in connection.execute(SELECT_THINGS, (series_id,))]


def add_things(
    connection: sqlite3.Connection, series_id: int, things: Sequence[Mapping[str, Any]]
) -> None:
    """Put things (name, number, width_cm, height_cm, depth_cm) at the end of a series."""
    row = connection.execute(
        "SELECT coalesce(max(position), 0) AS last FROM shop_thing WHERE series_id = ?",
        (series_id,),
    ).fetchone()
    connection.executemany(
        "INSERT INTO shop_thing"
        " (uid, series_id, position, name, number, width_cm, height_cm, depth_cm)"
        " VALUES (:uid, :series_id, :position, :name, :number, :width_cm, :height_cm, :depth_cm)",
        [
            {**thing, "uid": uuid4().hex[:12], "series_id": series_id, "position": position}
            for position, thing in enumerate(things, start=int(row["last"]) + 1)
        ],
    )


def change_thing(
    connection: sqlite3.Connection, series_id: int, thing_id: int, *, changed: Mapping[str, Any]
) -> None:
    """Change a thing's name, number, size or whether it is skipped; NotFound for none of these."""
    known = next((t for t in things_of(connection, series_id) if t.id == thing_id), None)
    if known is None:
        raise NotFound("This thing is not in the series.", thing=thing_id)
    connection.execute(
        "UPDATE shop_thing SET name = :name, number = :number, width_cm = :width_cm,"
        " height_cm = :height_cm, depth_cm = :depth_cm, skipped = :skipped WHERE id = :id",
        {**vars(known), **changed},
    )


def delete_thing(connection: sqlite3.Connection, series_id: int, thing_id: int) -> None:
    """Take a thing off the list; its takes stay with the sheet. NotFound for none of these."""
    change_thing(connection, series_id, thing_id, changed={})
    connection.execute("DELETE FROM shop_thing WHERE id = ?", (thing_id,))
    connection.execute(
        "UPDATE shop_take SET how = 'spare', view = NULL"
        " WHERE series_id = ? AND thing_id IS NULL AND how != 'code'",
        (series_id,),
    )


def shop_takes(connection: sqlite3.Connection, series_id: int) -> list[ShopTake]:
    """The takes that are in a series and not in the bin, in the order they came."""
    rows = connection.execute(
        "SELECT shop_take.take_id, shop_take.thing_id, shop_take.view, shop_take.how"
        " FROM shop_take JOIN take ON take.id = shop_take.take_id"
        " WHERE shop_take.series_id = ? AND take.deleted_at IS NULL ORDER BY shop_take.take_id",
        (series_id,),
    )
    return [ShopTake(**row) for row in rows]


def keep_slots(connection: sqlite3.Connection, series_id: int, slots: Iterable[TakeSlot]) -> None:
    """Keep which take shows what."""
    connection.executemany(
        "INSERT INTO shop_take (take_id, series_id, thing_id, view, how) VALUES (?, ?, ?, ?, ?)"
        " ON CONFLICT (take_id) DO UPDATE SET thing_id = excluded.thing_id,"
        " view = excluded.view, how = excluded.how",
        [
            (
                each.take,
                series_id,
                None if each.slot is None else each.slot.thing,
                None if each.slot is None else each.slot.view,
                each.how,
            )
            for each in slots
        ],
    )


def aim_at(connection: sqlite3.Connection, series_id: int, aim: Slot | None) -> None:
    """What is shot next; None for the next one that is open."""
    thing_id, view = (None, None) if aim is None else (aim.thing, aim.view)
    connection.execute(
        "UPDATE shop_series SET aim_thing_id = ?, aim_view = ? WHERE id = ?",
        (thing_id, view, series_id),
    )


def refer_to(connection: sqlite3.Connection, series_id: int, take_id: int | None) -> None:
    """Compare everything with this take."""
    connection.execute(
        "UPDATE shop_series SET reference_take_id = ? WHERE id = ?", (take_id, series_id)
    )


def kept_checks(connection: sqlite3.Connection, series_id: int) -> dict[int, tuple[str, str]]:
    """What was measured, by take: the key it was measured under, and JSON text."""
    rows = connection.execute(
        "SELECT shop_check.take_id, shop_check.key, shop_check.found FROM shop_check"
        " JOIN shop_take ON shop_take.take_id = shop_check.take_id WHERE shop_take.series_id = ?",
        (series_id,),
    )
    return {int(row["take_id"]): (str(row["key"]), str(row["found"])) for row in rows}


def keep_check(connection: sqlite3.Connection, take_id: int, *, key: str, found: str) -> None:
    """Keep what was measured of a take; the last measurement replaces others."""
    connection.execute(
        "INSERT INTO shop_check (take_id, key, found) VALUES (?, ?, ?)"
        " ON CONFLICT (take_id) DO UPDATE SET key = excluded.key, found = excluded.found",
        (take_id, key, found),
    )
