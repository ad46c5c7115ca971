"""Sets of frames that are stacked, and the result."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from oxlen.core.errors import NotFound

COLUMNS = (
    "stack.id, sheet_id, name, combine, align, ending, mixed, state, problem, result,"
    " result_sha256, made_at, horizon, dark, close_gaps, land, land_lift_stops"
)


@dataclass(frozen=True)
class KeptStack:
    """A set as kept: how it is stacked, how far it is, and the result once there is one."""

    id: int
    sheet_id: int | None
    name: str
    combine: str
    align: str
    ending: str
    mixed: bool
    state: str
    problem: str
    result: str | None
    result_sha256: str | None
    made_at: str
    frames: int
    horizon: str = "[]"
    dark: str | None = None
    close_gaps: bool = False
    land: str = "[]"
    land_lift_stops: float = 0.0


@dataclass(frozen=True)
class FrameFacts:
    """What a frame's file is; no pixels where it cannot be read."""

    width_px: int
    height_px: int
    is_raw: bool
    byte_count: int


@dataclass(frozen=True)
class KeptFrame:
    """A frame of a set: its place, the name it came by, its content, and what it is if known."""

    position: int
    name: str
    sha256: str
    facts: FrameFacts | None = None


def add_stack(connection: sqlite3.Connection, sheet_id: int | None, name: str, *, now: str) -> int:
    """Begin a set; its id."""
    row = connection.execute(
        "INSERT INTO stack (sheet_id, name, made_at) VALUES (?, ?, ?) RETURNING id",
        (sheet_id, name, now),
    ).fetchone()
    return int(row["id"])


def start_as_median(connection: sqlite3.Connection, stack_id: int) -> None:
    """Begin with a median: for a sheet whose movers are to vanish."""
    connection.execute("UPDATE stack SET combine = 'median' WHERE id = ?", (stack_id,))


def stack(connection: sqlite3.Connection, stack_id: int) -> KeptStack:
    """The set of that id; NotFound otherwise."""
    row = connection.execute(_SELECT + " WHERE stack.id = ?", (stack_id,)).fetchone()
    if row is None:
        raise NotFound("This stack no longer exists.", stack=stack_id)
    return _stack(row)


def stacks(connection: sqlite3.Connection, sheet_id: int | None = None) -> list[KeptStack]:
    """All sets, the newest first, or those of a sheet."""
    found = connection.execute(
        _SELECT + " WHERE ?1 IS NULL OR sheet_id = ?1 ORDER BY stack.id DESC", (sheet_id,)
    )
    return [_stack(row) for row in found]


def working_stacks(connection: sqlite3.Connection) -> list[KeptStack]:
    """Sets that were being stacked when the app last ended, the oldest first."""
    found = connection.execute(_SELECT + " WHERE state = 'working' ORDER BY stack.id")
    return [_stack(row) for row in found]


def ask_of_stack(
    connection: sqlite3.Connection,
    stack_id: int,
    *,
    combine: str,
    align: str,
    ending: str,
    mixed: bool,
    horizon: str = "[]",
    dark: str | None = None,
    close_gaps: bool = False,
    land: str = "[]",
    land_lift_stops: float = 0.0,
) -> None:
    """Say how a set is stacked; `horizon` and `land` are JSON."""
    connection.execute(
        "UPDATE stack SET combine = ?, align = ?, ending = ?, mixed = ?, horizon = ?, dark = ?,"
        " close_gaps = ?, land = ?, land_lift_stops = ? WHERE id = ?",
        (
            combine,
            align,
            ending,
            int(mixed),
            horizon,
            dark,
            int(close_gaps),
            land,
            land_lift_stops,
            stack_id,
        ),
    )


def mark_stack(
    connection: sqlite3.Connection, stack_id: int, state: str, *, problem: str = ""
) -> None:
    """Say how far a set is."""
    connection.execute(
        "UPDATE stack SET state = ?, problem = ? WHERE id = ?", (state, problem, stack_id)
    )


def end_stack(connection: sqlite3.Connection, stack_id: int, *, result: str, sha256: str) -> None:
    """Keep what came of a set."""
    connection.execute(
        "UPDATE stack SET state = 'done', problem = '', result = ?, result_sha256 = ? WHERE id = ?",
        (result, sha256, stack_id),
    )


def delete_stack(connection: sqlite3.Connection, stack_id: int) -> None:
    """Delete a stack; its result stays where it is."""
    connection.execute("DELETE FROM stack WHERE id = ?", (stack_id,))


def add_frame(
    connection: sqlite3.Connection, stack_id: int, name: str, *, sha256: str, facts: FrameFacts
) -> bool:
    """Add a frame to a set; False where it has that very content already."""
    added = connection.execute(
        "INSERT INTO stack_frame (stack_id, position, name, sha256,"
        " width_px, height_px, is_raw, byte_count)"
        " SELECT :stack_id, coalesce(max(position), 0) + 1, :name, :sha256,"
        " :width_px, :height_px, :is_raw, :byte_count FROM stack_frame WHERE stack_id = :stack_id"
        " ON CONFLICT DO NOTHING",
        {"stack_id": stack_id, "name": name, "sha256": sha256, **_fields(facts)},
    )
    return added.rowcount > 0


def note_frame(
    connection: sqlite3.Connection, stack_id: int, *, sha256: str, facts: FrameFacts
) -> None:
    """Note what a frame of a set is."""
    connection.execute(
        "UPDATE stack_frame SET width_px = :width_px, height_px = :height_px, is_raw = :is_raw,"
        " byte_count = :byte_count WHERE stack_id = :stack_id AND sha256 = :sha256",
        {"stack_id": stack_id, "sha256": sha256, **_fields(facts)},
    )


def frames_without_facts(connection: sqlite3.Connection) -> list[tuple[int, str, str]]:
    """Stack, name and content of frames that an earlier Oxlen kept."""
    found = connection.execute(
        "SELECT stack_id, name, sha256 FROM stack_frame WHERE byte_count IS NULL"
    )
    return [(row["stack_id"], row["name"], row["sha256"]) for row in found]


def _fields(facts: FrameFacts) -> dict[str, int]:
    return {**vars(facts), "is_raw": int(facts.is_raw)}


def frames_of_stack(connection: sqlite3.Connection, stack_id: int) -> list[KeptFrame]:
    """The frames of a set, by name as a phone counts them."""
    found = connection.execute(
        "SELECT position, name, sha256, width_px, height_px, is_raw, byte_count"
        " FROM stack_frame WHERE stack_id = ? ORDER BY name, position",
        (stack_id,),
    )
    return [_frame(row) for row in found]


def _frame(row: sqlite3.Row) -> KeptFrame:
    facts = None
    if row["byte_count"] is not None:
        size = row["width_px"], row["height_px"]
        facts = FrameFacts(*size, is_raw=bool(row["is_raw"]), byte_count=row["byte_count"])
    return KeptFrame(row["position"], row["name"], row["sha256"], facts=facts)


_SELECT = (
    f"SELECT {COLUMNS}, (SELECT count(*) FROM stack_frame WHERE stack_id = stack.id) AS frames"
    " FROM stack"
)


def _stack(row: sqlite3.Row) -> KeptStack:
    yes = {name: bool(row[name]) for name in ("mixed", "close_gaps")}
    return KeptStack(**{**dict(row), **yes})
