"""Guided measurements: those under way with what was read of their pictures, and those ended."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass
from typing import Any, Literal

from oxlen.core.errors import NotFound

MOST_PICTURES = 120
MeasurementState = Literal["open", "kept", "left"]


@dataclass(frozen=True)
class KeptMeasurement:
    """A measurement of a phone's lens and mode; `outcome` once it has ended."""

    id: int
    phone_id: str
    kind: str
    lens: str
    mode: str
    given: dict[str, float]
    state: MeasurementState
    outcome: dict[str, Any] | None
    begun_at: str
    ended_at: str | None


@dataclass(frozen=True)
class KeptSample:
    """What is kept of a picture of an open measurement."""

    id: int
    name: str
    sample: dict[str, Any]


@dataclass(frozen=True)
class NewMeasurement:
    """A measurement to begin."""

    phone_id: str
    kind: str
    lens: str
    mode: str


def begin_measurement(connection: sqlite3.Connection, new: NewMeasurement, now: str) -> int:
    """Begin a measurement, or take up the open one of the same kind; its id."""
    row = connection.execute(
        "SELECT id FROM measurement WHERE phone_id = :phone_id AND kind = :kind AND lens = :lens"
        " AND mode = :mode AND state = 'open'",
        vars(new),
    ).fetchone()
    if row is not None:
        return int(row["id"])
    made = connection.execute(
        "INSERT INTO measurement (phone_id, kind, lens, mode, begun_at)"
        " VALUES (:phone_id, :kind, :lens, :mode, :now)",
        {**vars(new), "now": now},
    )
    return int(made.lastrowid or 0)


def measurement_of(connection: sqlite3.Connection, measurement_id: int) -> KeptMeasurement:
    """The measurement of that id; NotFound otherwise."""
    row = connection.execute("SELECT * FROM measurement WHERE id = ?", (measurement_id,)).fetchone()
    if row is None:
        raise NotFound("This measurement no longer exists.", measurement=measurement_id)
    return _measurement(row)


def measurements_of(connection: sqlite3.Connection, phone_id: str) -> list[KeptMeasurement]:
    """All measurements of a phone, the newest first."""
    rows = connection.execute(
        "SELECT * FROM measurement WHERE phone_id = ? ORDER BY id DESC LIMIT 200", (phone_id,)
    )
    return [_measurement(row) for row in rows]


def _measurement(row: sqlite3.Row) -> KeptMeasurement:
    found = dict(row)
    outcome = found.pop("outcome")
    return KeptMeasurement(
        **{**found, "given": json.loads(found["given"])},
        outcome=None if outcome is None else json.loads(outcome),
    )


def say_given(connection: sqlite3.Connection, measurement_id: int, given: dict[str, float]) -> None:
    """Keep the answers of an open measurement."""
    connection.execute(
        "UPDATE measurement SET given = ? WHERE id = ? AND state = 'open'",
        (json.dumps(given), measurement_id),
    )


def add_sample(
    connection: sqlite3.Connection,
    measurement_id: int,
    sha256: str,
    *,
    name: str,
    sample: dict[str, Any],
) -> bool:
    """Keep what was read of a picture; False where the same picture is there already."""
    done = connection.execute(
        "INSERT INTO measurement_picture (measurement_id, sha256, name, sample)"
        " VALUES (?, ?, ?, ?) ON CONFLICT (measurement_id, sha256) DO NOTHING",
        (measurement_id, sha256, name, json.dumps(sample)),
    )
    return done.rowcount > 0


def samples_of(connection: sqlite3.Connection, measurement_id: int) -> list[KeptSample]:
    """What is kept of a measurement's pictures, in the order they came."""
    rows = connection.execute(
        "SELECT id, name, sample FROM measurement_picture WHERE measurement_id = ? ORDER BY id",
        (measurement_id,),
    )
    return [KeptSample(row["id"], row["name"], json.loads(row["sample"])) for row in rows]


def count_samples(connection: sqlite3.Connection, measurement_id: int) -> int:
    """How many pictures a measurement has."""
    row = connection.execute(
        "SELECT COUNT(*) FROM measurement_picture WHERE measurement_id = ?", (measurement_id,)
    ).fetchone()
    return int(row[0])


def drop_sample(connection: sqlite3.Connection, measurement_id: int, picture_id: int) -> None:
    """Leave a picture out of a measurement; NotFound when it is not there."""
    done = connection.execute(
        "DELETE FROM measurement_picture WHERE id = ? AND measurement_id = ?",
        (picture_id, measurement_id),
    )
    if done.rowcount == 0:
        raise NotFound("That picture is not part of this measurement.", picture=picture_id)


@dataclass(frozen=True)
class Ending:
    """How a measurement ended: kept or left, for which phone, and what it came to."""

    state: MeasurementState
    phone_id: str
    outcome: dict[str, Any] | None


def end_measurement(
    connection: sqlite3.Connection, measurement_id: int, ending: Ending, *, now: str
) -> None:
    """End a measurement; what was read of its pictures is deleted."""
    connection.execute(
        "UPDATE measurement SET state = ?, phone_id = ?, outcome = ?, ended_at = ? WHERE id = ?",
        (
            ending.state,
            ending.phone_id,
            None if ending.outcome is None else json.dumps(ending.outcome),
            now,
            measurement_id,
        ),
    )
    connection.execute(
        "DELETE FROM measurement_picture WHERE measurement_id = ?", (measurement_id,)
    )
