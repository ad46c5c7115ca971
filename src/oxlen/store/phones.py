"""Phones the photographer has added or edited, as open profiles."""

from __future__ import annotations

import sqlite3

from oxlen.core.errors import NotFound
from oxlen.formats.phone_profile import PhoneProfile


def keep_profile(connection: sqlite3.Connection, profile: PhoneProfile, now: str) -> None:
    """Keep a profile under its id, over an earlier or a removed one."""
    connection.execute(
        "INSERT INTO phone (id, profile, changed_at) VALUES (?, ?, ?)"
        " ON CONFLICT (id) DO UPDATE SET profile = excluded.profile,"
        " changed_at = excluded.changed_at, removed_at = NULL",
        (profile.id, profile.model_dump_json(), now),
    )


def kept_profile(connection: sqlite3.Connection, phone_id: str) -> PhoneProfile:
    """The profile of that id, removed from the kit or not; NotFound otherwise."""
    row = connection.execute("SELECT profile FROM phone WHERE id = ?", (phone_id,)).fetchone()
    if row is None:
        raise NotFound(f"Your kit has no phone named {phone_id}.", phone=phone_id)
    return PhoneProfile.model_validate_json(row["profile"])


def kept_profiles(connection: sqlite3.Connection) -> dict[str, PhoneProfile]:
    """The profiles of the kit by id."""
    return _profiles(connection, "SELECT profile FROM phone WHERE removed_at IS NULL ORDER BY id")


def removed_profiles(connection: sqlite3.Connection) -> dict[str, PhoneProfile]:
    """Profiles taken out of the kit, by id: for the sheets that name them."""
    return _profiles(
        connection, "SELECT profile FROM phone WHERE removed_at IS NOT NULL ORDER BY id"
    )


def _profiles(connection: sqlite3.Connection, query: str) -> dict[str, PhoneProfile]:
    rows = connection.execute(query)
    profiles = (PhoneProfile.model_validate_json(row["profile"]) for row in rows)
    return {profile.id: profile for profile in profiles}


def drop_profile(connection: sqlite3.Connection, phone_id: str, now: str) -> None:
    """Take a profile out of the kit; sheets that name it keep it. NotFound when it is not there."""
    if phone_id not in kept_profiles(connection):
        raise NotFound(f"Your kit has no phone named {phone_id}.", phone=phone_id)
    connection.execute("UPDATE phone SET removed_at = ? WHERE id = ?", (now, phone_id))
