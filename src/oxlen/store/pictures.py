"""Pictures: one row per content hash, tied to the sheets that have shown it."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class KeptPicture:
    """A picture as kept; `report` is its reading as JSON text."""

    sha256: str
    file_name: str
    byte_count: int
    report: str
    imported_at: str


def add_picture(connection: sqlite3.Connection, picture: KeptPicture) -> None:
    """Keep a picture's row; the same content again changes nothing."""
    connection.execute(
        "INSERT INTO picture (sha256, file_name, byte_count, report, imported_at)"
        " VALUES (:sha256, :file_name, :byte_count, :report, :imported_at)"
        " ON CONFLICT (sha256) DO NOTHING",
        vars(picture),
    )


def tie_picture(connection: sqlite3.Connection, sheet_id: int, sha256: str) -> None:
    """Note that a sheet shows a kept picture; NotFound when it is not."""
    kept_picture(connection, sha256)
    connection.execute(
        "INSERT INTO sheet_picture (sheet_id, sha256) VALUES (?, ?) ON CONFLICT DO NOTHING",
        (sheet_id, sha256),
    )


def kept_picture(connection: sqlite3.Connection, sha256: str) -> KeptPicture:
    """The picture of that content; NotFound otherwise."""
    row = connection.execute(
        "SELECT sha256, file_name, byte_count, report, imported_at FROM picture WHERE sha256 = ?",
        (sha256,),
    ).fetchone()
    if row is None:
        raise NotFound("This picture is not here.", picture=sha256)
    return KeptPicture(**row)


def is_kept_picture(connection: sqlite3.Connection, sha256: str) -> bool:
    """Whether a picture of that content is kept."""
    found = connection.execute("SELECT 1 FROM picture WHERE sha256 = ?", (sha256,))
    return found.fetchone() is not None


def note_clean_copies(connection: sqlite3.Connection, cleaned: Mapping[str, str]) -> None:
    """Note which picture (the value) each copy without identity (the key) was made from."""
    connection.executemany(
        "INSERT INTO clean_copy (clean_sha256, sha256) VALUES (?, ?) ON CONFLICT DO NOTHING",
        [(clean, sha256) for clean, sha256 in cleaned.items()],
    )


def original_of(connection: sqlite3.Connection, sha256: str) -> str | None:
    """The kept picture that a copy without identity was made from; None for others."""
    row = connection.execute(
        "SELECT sha256 FROM clean_copy WHERE clean_sha256 = ?", (sha256,)
    ).fetchone()
    return None if row is None else str(row["sha256"])
