"""Phones the photographer has added or edited, as open profiles."""

from __future__ import annotations

import sqlite3

from oxlen.core.errors import NotFound
from oxlen.formats.phone_profile import PhoneProfile


def keep_profile(connection: sqlite3.Connection, profile: PhoneProfile, now: str) -> None:
    """Keep a profile under its id, over an earlier one."""
    connection.execute(
        "INSERT INTO phone (id, profile, changed_at) VALUES (?, ?, ?)"
        " ON CONFLICT (id) DO UPDATE SET profile = excluded.profile,"
        " changed_at = excluded.changed_at",
        (profile.id, profile.model_dump_json(), now),
    )


def kept_profile(connection: sqlite3.Connection, phone_id: str) -> PhoneProfile:
    """The kept profile of that id; NotFound otherwise."""
    row = connection.execute("SELECT profile FROM phone WHERE id = ?", (phone_id,)).fetchone()
    if row is None:
        raise NotFound(f"Your kit has no phone named {phone_id}.", phone=phone_id)
    return PhoneProfile.model_validate_json(row["profile"])


def kept_profiles(connection: sqlite3.Connection) -> dict[str, PhoneProfile]:
    """All kept profiles by id."""
    rows = connection.execute("SELECT profile FROM phone ORDER BY id")
    profiles = (PhoneProfile.model_validate_json(row["profile"]) for row in rows)
    return {profile.id: profile for profile in profiles}


def drop_profile(connection: sqlite3.Connection, phone_id: str) -> None:
    """Remove a kept profile; NotFound when there is none."""
    kept_profile(connection, phone_id)
    connection.execute("DELETE FROM phone WHERE id = ?", (phone_id,))
