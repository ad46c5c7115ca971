"""Cameras that pages have looked through: what they can do, and their preview's curve."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from oxlen.core.errors import NotFound

FIELDS = "key, name, phone_id, can, curve, curve_plus_minus_stops, curve_at, focus, seen_at"
MOST_CAMERAS = 50
"""Own choice: the browsers of a household; the one seen longest ago goes."""


@dataclass(frozen=True)
class KeptCamera:
    """A phone's camera in one browser; `can`, `curve` and `focus` are JSON text."""

    key: str
    name: str
    phone_id: str
    can: str
    curve: str | None
    curve_plus_minus_stops: float | None
    curve_at: str | None
    focus: str
    seen_at: str


def live_cameras(connection: sqlite3.Connection) -> list[KeptCamera]:
    """Every camera, the one seen last first."""
    rows = connection.execute(f"SELECT {FIELDS} FROM live_camera ORDER BY seen_at DESC, key")
    return [KeptCamera(**row) for row in rows]


def live_camera(connection: sqlite3.Connection, key: str) -> KeptCamera:
    """A camera by its key, or NotFound."""
    row = connection.execute(
        f"SELECT {FIELDS} FROM live_camera WHERE key = ?",
        (key,),
    ).fetchone()
    if row is None:
        raise NotFound("This camera is not known here. Open Live on the phone again.", camera=key)
    return KeptCamera(**row)


def see_camera(
    connection: sqlite3.Connection, key: str, *, name: str, phone_id: str, can: str, now: str
) -> None:
    """Keep what a camera can do now; its curve and focus points stay."""
    connection.execute(
        "INSERT INTO live_camera (key, name, phone_id, can, seen_at) VALUES (?, ?, ?, ?, ?)"
        " ON CONFLICT (key) DO UPDATE SET name = excluded.name, phone_id = excluded.phone_id,"
        " can = excluded.can, seen_at = excluded.seen_at",
        (key, name, phone_id, can, now),
    )
    connection.execute(
        "DELETE FROM live_camera WHERE key NOT IN"
        " (SELECT key FROM live_camera ORDER BY seen_at DESC, key LIMIT ?)",
        (MOST_CAMERAS,),
    )


def keep_curve(
    connection: sqlite3.Connection, key: str, *, curve: str, plus_minus_stops: float, now: str
) -> None:
    """Keep a camera's measured curve. NotFound for a camera that was never seen."""
    live_camera(connection, key)
    connection.execute(
        "UPDATE live_camera SET curve = ?, curve_plus_minus_stops = ?, curve_at = ? WHERE key = ?",
        (curve, plus_minus_stops, now, key),
    )


def keep_focus(connection: sqlite3.Connection, key: str, focus: str) -> None:
    """Keep where a camera is sharp. NotFound for a camera that was never seen."""
    live_camera(connection, key)
    connection.execute("UPDATE live_camera SET focus = ? WHERE key = ?", (focus, key))


def delete_camera(connection: sqlite3.Connection, key: str) -> None:
    """Delete a camera and its curve; NotFound when it is not there."""
    live_camera(connection, key)
    connection.execute("DELETE FROM live_camera WHERE key = ?", (key,))
