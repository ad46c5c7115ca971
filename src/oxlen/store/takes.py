"""Takes: pictures shot for a sheet, with the plan they were shot by and what became of them."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from typing import Literal

from oxlen.core.errors import NotFound
from oxlen.store.pictures import kept_picture

ShotOn = Literal["slip", "auto", "unknown"]
TakeState = Literal["new", "kept", "rejected"]

SELECT_TAKE = """
SELECT take.id, take.sheet_id, take.sha256, take.raw_sha256, take.plan_id, take.sequence_id,
       take.sequence_place, take.shot_on, take.settings, take.glass_stops, take.state, take.note,
       take.taken_at, take.added_at, take.deleted_at, take.rating, take.keywords, take.why,
       take.lens, take.situation, take.recipe, take.finding, sequence.frames AS sequence_frames
FROM take LEFT JOIN sequence ON sequence.id = take.sequence_id
"""


@dataclass(frozen=True)
class NewTake:
    """A take to be kept.

    `settings` is JSON text of what was found in the file, `glass_stops` what the filter took;
    `sequence_place` counts the frames of a sequence from 0.
    """

    sheet_id: int
    shot_on: ShotOn
    sha256: str = ""
    settings: str = "{}"
    taken_at: str | None = None
    glass_stops: float = 0.0
    raw_sha256: str | None = None
    plan_id: int | None = None
    sequence_id: int | None = None
    sequence_place: int | None = None
    lens: str = ""
    situation: str = ""


@dataclass(frozen=True)
class Take(NewTake):
    """A take as it is kept; `sequence_frames` is how many frames its sequence has.

    `rating` is 0 to 5, `keywords` are set off by commas, `why` says why it was kept or dropped.
    `recipe` (how it was developed) and `finding` (compared with its plan) are JSON text.
    """

    id: int = 0
    sequence_frames: int | None = None
    state: TakeState = "new"
    note: str = ""
    rating: int = 0
    keywords: str = ""
    why: str = ""
    recipe: str | None = None
    finding: str | None = None
    added_at: str = ""
    deleted_at: str | None = None


def add_plan(
    connection: sqlite3.Connection, *, sheet_id: int, sheet_version: int, plan: str, now: str
) -> int:
    """Keep the plan that something is shot by, as JSON text; returns its id."""
    cursor = connection.execute(
        "INSERT INTO plan (sheet_id, sheet_version, plan, made_at) VALUES (?, ?, ?, ?)",
        (sheet_id, sheet_version, plan, now),
    )
    return int(cursor.lastrowid or 0)


def add_sequence(connection: sqlite3.Connection, *, plan_id: int, frames: int, now: str) -> int:
    """Keep a sequence of frames that belong together; returns its id."""
    cursor = connection.execute(
        "INSERT INTO sequence (plan_id, frames, made_at) VALUES (?, ?, ?)", (plan_id, frames, now)
    )
    return int(cursor.lastrowid or 0)


def add_take(connection: sqlite3.Connection, take: NewTake, now: str) -> int:
    """Keep a take; returns its id. NotFound when a picture of it is not kept."""
    for sha256 in (take.sha256, take.raw_sha256):
        if sha256 is not None:
            kept_picture(connection, sha256)
    cursor = connection.execute(
        "INSERT INTO take (sheet_id, sha256, raw_sha256, plan_id, sequence_id, sequence_place,"
        " shot_on, settings, glass_stops, taken_at, lens, situation, added_at)"
        " VALUES (:sheet_id, :sha256, :raw_sha256, :plan_id, :sequence_id, :sequence_place,"
        " :shot_on, :settings, :glass_stops, :taken_at, :lens, :situation, :now)",
        {**vars(take), "now": now},
    )
    return int(cursor.lastrowid or 0)


def pair_raw(
    connection: sqlite3.Connection, sheet_id: int, *, processed_sha256: str, raw_sha256: str
) -> None:
    """Put a kept RAW beside the take of a sheet whose processed file is named."""
    connection.execute(
        "UPDATE take SET raw_sha256 = ? WHERE raw_sha256 IS NULL AND id ="
        " (SELECT max(id) FROM take WHERE sheet_id = ? AND sha256 = ?)",
        (raw_sha256, sheet_id, processed_sha256),
    )


def pair_files(
    connection: sqlite3.Connection, take_id: int, *, processed_sha256: str, raw_sha256: str
) -> None:
    """Make a take represent both files of one shot."""
    connection.execute(
        "UPDATE take SET sha256 = ?, raw_sha256 = ? WHERE id = ?",
        (processed_sha256, raw_sha256, take_id),
    )


def take(connection: sqlite3.Connection, take_id: int) -> Take:
    """The take of that id, in the bin or not; NotFound otherwise."""
    row = connection.execute(SELECT_TAKE + " WHERE take.id = ?", (take_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no take {take_id}.", take=take_id)
    return Take(**row)


def takes_of(connection: sqlite3.Connection, sheet_id: int) -> list[Take]:
    """Takes of a sheet that are not in the bin, in the order they came."""
    rows = connection.execute(
        SELECT_TAKE + " WHERE take.sheet_id = ? AND take.deleted_at IS NULL ORDER BY take.id",
        (sheet_id,),
    )
    return [Take(**row) for row in rows]


def takes_with_picture(connection: sqlite3.Connection, sha256: str) -> list[Take]:
    """Takes in use that have a picture, processed or RAW."""
    # Each half by its own index: as one condition all takes would be gone through.
    rows = connection.execute(
        SELECT_TAKE + " WHERE take.id IN (SELECT id FROM take WHERE sha256 = ?1"
        " UNION SELECT id FROM take WHERE raw_sha256 = ?1) AND take.deleted_at IS NULL"
        " ORDER BY take.id",
        (sha256,),
    )
    return [Take(**row) for row in rows]


@dataclass(frozen=True)
class Judgement:
    """What changes of a take; None leaves it."""

    state: TakeState | None = None
    note: str | None = None
    rating: int | None = None
    keywords: str | None = None
    why: str | None = None


def change_take(connection: sqlite3.Connection, take_id: int, judgement: Judgement) -> None:
    """Say what becomes of a take; NotFound for one that is not there."""
    take(connection, take_id)
    judge_take(connection, take_id, judgement)


def judge_take(connection: sqlite3.Connection, take_id: int, judgement: Judgement) -> None:
    """Say what becomes of a take that is known to be there."""
    connection.execute(
        "UPDATE take SET state = coalesce(:state, state), note = coalesce(:note, note),"
        " rating = coalesce(:rating, rating), keywords = coalesce(:keywords, keywords),"
        " why = coalesce(:why, why) WHERE id = :id",
        {**vars(judgement), "id": take_id},
    )


def keep_finding(connection: sqlite3.Connection, take_id: int, finding: str) -> None:
    """Keep what was found when a take was compared with its plan, as JSON text."""
    connection.execute("UPDATE take SET finding = ? WHERE id = ?", (finding, take_id))


def judged_takes(connection: sqlite3.Connection, phone_id: str) -> list[Take]:
    """Takes in use by a phone that were compared with their plan, in the order they came."""
    rows = connection.execute(
        SELECT_TAKE + " WHERE take.finding IS NOT NULL AND take.deleted_at IS NULL"
        " AND json_extract(take.finding, '$.phone') = ? ORDER BY take.id",
        (phone_id,),
    )
    return [Take(**row) for row in rows]


def phones_of_findings(connection: sqlite3.Connection) -> list[str]:
    """Phones whose takes were compared with a plan, the one with most first."""
    rows = connection.execute(
        "SELECT json_extract(finding, '$.phone') AS phone, count(*) AS takes FROM take"
        " WHERE finding IS NOT NULL AND deleted_at IS NULL GROUP BY phone ORDER BY takes DESC"
    )
    return [str(row["phone"]) for row in rows]


def recipes(connection: sqlite3.Connection, most: int = 50) -> list[tuple[int, str, str]]:
    """Recipes of takes in use, the newest first: take, its sheet's title, and the JSON text."""
    rows = connection.execute(
        "SELECT take.id, json_extract(revision.body, '$.title') AS title, take.recipe FROM take"
        " JOIN sheet ON sheet.id = take.sheet_id"
        " JOIN sheet_revision AS revision"
        "   ON revision.sheet_id = sheet.id AND revision.number = sheet.revision"
        " WHERE take.recipe IS NOT NULL AND take.deleted_at IS NULL ORDER BY take.id DESC LIMIT ?",
        (most,),
    )
    return [(int(row["id"]), str(row["title"]), str(row["recipe"])) for row in rows]


def keep_recipe(connection: sqlite3.Connection, take_id: int, recipe: str | None) -> None:
    """Keep how a take is developed, as JSON text; None forgets it."""
    take(connection, take_id)
    connection.execute("UPDATE take SET recipe = ? WHERE id = ?", (recipe, take_id))


def set_take_deleted(connection: sqlite3.Connection, take_id: int, deleted_at: str | None) -> None:
    """Put a take in the bin, or take it out again (None)."""
    take(connection, take_id)
    connection.execute("UPDATE take SET deleted_at = ? WHERE id = ?", (deleted_at, take_id))


def plan_of(connection: sqlite3.Connection, plan_id: int) -> str:
    """A kept plan as JSON text; NotFound otherwise."""
    row = connection.execute("SELECT plan FROM plan WHERE id = ?", (plan_id,)).fetchone()
    if row is None:
        raise NotFound(f"There is no plan {plan_id}.", plan=plan_id)
    return str(row["plan"])
