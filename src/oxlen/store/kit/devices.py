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
    is_confirmed: bool = True
    paired_from: str = ""


FIELDS = "id, name, may_change_kit, paired_at, last_seen_at, expires_at, is_confirmed, paired_from"


@dataclass(frozen=True)
class NewDevice:
    """A phone that knew the words: its name, the digest of its token, and the address it came from.

    Until the computer confirms it, it is paired nowhere; `confirm_by` is how long it waits.
    """

    name: str
    token_sha256: str
    paired_from: str
    now: str
    confirm_by: str


def add_device(connection: sqlite3.Connection, new: NewDevice) -> Device:
    """Keep a phone that waits to be confirmed; those that waited in vain are forgotten."""
    connection.execute("DELETE FROM device WHERE is_confirmed = 0 AND expires_at <= ?", (new.now,))
    made = connection.execute(
        "INSERT INTO device (name, token_sha256, paired_at, last_seen_at, expires_at,"
        " is_confirmed, paired_from)"
        " VALUES (:name, :token_sha256, :now, :now, :confirm_by, 0, :paired_from)",
        vars(new),
    )
    return Device(
        int(made.lastrowid or 0),
        new.name,
        may_change_kit=False,
        paired_at=new.now,
        last_seen_at=new.now,
        expires_at=new.confirm_by,
        is_confirmed=False,
        paired_from=new.paired_from,
    )


def confirm_device(
    connection: sqlite3.Connection, device_id: int, *, now: str, expires_at: str
) -> None:
    """Pair a phone that knew the words; NotFound where it waits no longer."""
    confirmed = connection.execute(
        "UPDATE device SET is_confirmed = 1, expires_at = :expires_at"
        " WHERE id = :id AND (is_confirmed = 1 OR expires_at > :now)",
        {"id": device_id, "now": now, "expires_at": expires_at},
    )
    if confirmed.rowcount == 0:
        raise NotFound("That phone no longer waits. Pair it again.", device=device_id)


def waiting_devices(connection: sqlite3.Connection, now: str) -> int:
    """How many phones wait to be confirmed."""
    found = connection.execute(
        "SELECT count(*) FROM device WHERE is_confirmed = 0 AND expires_at > ?", (now,)
    )
    return int(found.fetchone()[0])


def device_of_token(connection: sqlite3.Connection, token_sha256: str, now: str) -> Device | None:
    """The phone that a token is of; None where it was revoked or has run out."""
    row = connection.execute(
        f"SELECT {FIELDS} FROM device WHERE token_sha256 = ? AND expires_at > ?",
        (token_sha256, now),
    ).fetchone()
    return None if row is None else _device(row)


def devices(connection: sqlite3.Connection, now: str = "") -> list[Device]:
    """All phones, paired or waiting at `now` to be confirmed, the one seen last first."""
    rows = connection.execute(
        f"SELECT {FIELDS} FROM device WHERE is_confirmed = 1 OR expires_at > ?"
        " ORDER BY is_confirmed, last_seen_at DESC, id DESC",
        (now,),
    )
    return [_device(row) for row in rows]


def seen_device(connection: sqlite3.Connection, device_id: int, now: str) -> None:
    """Note that a phone was here."""
    connection.execute("UPDATE device SET last_seen_at = ? WHERE id = ?", (now, device_id))


def change_device(
    connection: sqlite3.Connection, device_id: int, *, name: str, may_change_kit: bool
) -> None:
    """Rename a phone, or allow it to change the kit; NotFound where there is none."""
    changed = connection.execute(
        "UPDATE device SET name = ?, may_change_kit = ? WHERE id = ?",
        (name, int(may_change_kit), device_id),
    )
    if changed.rowcount == 0:
        raise NotFound("This phone no longer exists.", device=device_id)


def revoke_device(connection: sqlite3.Connection, device_id: int) -> None:
    """Unpair a phone; NotFound where there is none."""
    if connection.execute("DELETE FROM device WHERE id = ?", (device_id,)).rowcount == 0:
        raise NotFound("This phone no longer exists.", device=device_id)


def revoke_all_devices(connection: sqlite3.Connection) -> None:
    """Unpair all phones."""
    connection.execute("DELETE FROM device")


def _device(row: sqlite3.Row) -> Device:
    yes = {name: bool(row[name]) for name in ("may_change_kit", "is_confirmed")}
    return Device(**{**row, **yes})
