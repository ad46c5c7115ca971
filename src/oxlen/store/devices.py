"""Phones paired over the network: their names, what they may do, digests of their tokens."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class Device:
    """A paired phone; times are ISO 8601 in UTC."""

    id: int
    name: str
    may_change_kit: bool
    paired_at: str
    last_seen_at: str
    expires_at: str


FIELDS = "id, name, may_change_kit, paired_at, last_seen_at, expires_at"


def add_device(
    connection: sqlite3.Connection, name: str, token_sha256: str, *, now: str, expires_at: str
) -> Device:
    """Keep a phone that was paired."""
    made = connection.execute(
        "INSERT INTO device (name, token_sha256, paired_at, last_seen_at, expires_at)"
        " VALUES (:name, :token_sha256, :now, :now, :expires_at)",
        {"name": name, "token_sha256": token_sha256, "now": now, "expires_at": expires_at},
    )
    return Device(
        int(made.lastrowid or 0),
        name,
        may_change_kit=False,
        paired_at=now,
        last_seen_at=now,
        expires_at=expires_at,
    )


def device_of_token(connection: sqlite3.Connection, token_sha256: str, now: str) -> Device | None:
    """The phone that a token is of; None where it was revoked or has run out."""
    row = connection.execute(
        f"SELECT {FIELDS} FROM device WHERE token_sha256 = ? AND expires_at > ?",
        (token_sha256, now),
    ).fetchone()
    return None if row is None else _device(row)


def devices(connection: sqlite3.Connection) -> list[Device]:
    """All paired phones, the one seen last first."""
    rows = connection.execute(f"SELECT {FIELDS} FROM device ORDER BY last_seen_at DESC, id DESC")
    return [_device(row) for row in rows]


def seen_device(connection: sqlite3.Connection, device_id: int, now: str) -> None:
    """Note that a phone was here."""
    connection.execute("UPDATE device SET last_seen_at = ? WHERE id = ?", (now, device_id))


def change_device(
    connection: sqlite3.Connection, device_id: int, *, name: str, may_change_kit: bool
) -> None:
    """Rename a phone, or let it change the kit; NotFound where there is none."""
    changed = connection.execute(
        "UPDATE device SET name = ?, may_change_kit = ? WHERE id = ?",
        (name, int(may_change_kit), device_id),
    )
    if changed.rowcount == 0:
        raise NotFound("There is no such phone.", device=device_id)


def revoke_device(connection: sqlite3.Connection, device_id: int) -> None:
    """Let a phone in no more; NotFound where there is none."""
    if connection.execute("DELETE FROM device WHERE id = ?", (device_id,)).rowcount == 0:
        raise NotFound("There is no such phone.", device=device_id)


def revoke_all_devices(connection: sqlite3.Connection) -> None:
    """Let no phone in that was paired before."""
    connection.execute("DELETE FROM device")


def _device(row: sqlite3.Row) -> Device:
    return Device(**{**row, "may_change_kit": bool(row["may_change_kit"])})
