"""Phones the photographer has added or edited, as open profiles."""

from __future__ import annotations

import sqlite3
from contextlib import suppress
from dataclasses import dataclass

from pydantic import ValidationError

from oxlen.core.errors import BadInput, NotFound
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.refusal import refusal

FIRST_PHONE = "wherry-3"
IN_USE = "SELECT id, profile FROM phone WHERE removed_at IS NULL ORDER BY id"


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
    return _read(phone_id, row["profile"])


@dataclass(frozen=True)
class UnreadablePhone:
    """A phone of the kit that cannot be read: its id, why, and the text that is kept of it."""

    id: str
    why: str
    text: str


def unreadable_phones(connection: sqlite3.Connection) -> list[UnreadablePhone]:
    """Phones of the kit that cannot be read."""
    found = []
    for row in connection.execute(IN_USE):
        try:
            _read(row["id"], row["profile"])
        except BadInput as error:
            found.append(UnreadablePhone(row["id"], error.message, row["profile"]))
    return found


def _read(phone_id: str, text: str) -> PhoneProfile:
    """BadInput, which names the phone, for a profile that cannot be read."""
    try:
        return PhoneProfile.model_validate_json(text)
    except ValidationError as error:
        raise refusal(error, f"The phone {phone_id} of your kit cannot be read") from None


def kept_profiles(connection: sqlite3.Connection) -> dict[str, PhoneProfile]:
    """The profiles of the kit by id."""
    return _profiles(connection, IN_USE)


def removed_profiles(connection: sqlite3.Connection) -> dict[str, PhoneProfile]:
    """Profiles taken out of the kit, by id: for the sheets that name them."""
    return _profiles(
        connection, "SELECT id, profile FROM phone WHERE removed_at IS NOT NULL ORDER BY id"
    )


def _profiles(connection: sqlite3.Connection, query: str) -> dict[str, PhoneProfile]:
    """Those that can be read; one odd phone does not take the others along."""
    profiles = {}
    for row in connection.execute(query):
        with suppress(BadInput):
            profiles[row["id"]] = _read(row["id"], row["profile"])
    return profiles


def usual_phone_id(connection: sqlite3.Connection) -> str:
    """The phone of one's own that was kept last; the first that ships with Oxlen without any.

    A phone for practice is nobody's: it is never the usual one.
    """
    row = connection.execute(
        "SELECT id FROM phone WHERE removed_at IS NULL AND id NOT GLOB 'mystery-[0-9]*'"
        " ORDER BY changed_at DESC, id LIMIT 1"
    ).fetchone()
    return FIRST_PHONE if row is None else str(row["id"])


def drop_profile(connection: sqlite3.Connection, phone_id: str, now: str) -> None:
    """Take a profile out of the kit; sheets that name it keep it. NotFound when it is not there."""
    in_use = "SELECT 1 FROM phone WHERE id = ? AND removed_at IS NULL"
    if connection.execute(in_use, (phone_id,)).fetchone() is None:
        raise NotFound(f"Your kit has no phone named {phone_id}.", phone=phone_id)
    connection.execute("UPDATE phone SET removed_at = ? WHERE id = ?", (now, phone_id))
