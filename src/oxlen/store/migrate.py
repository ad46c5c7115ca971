"""Numbered migrations in plain SQL, each applied once and whole."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator, Mapping
from importlib.resources import files

from oxlen.core.errors import ArchiveError
from oxlen.store.connect import transaction


def shipped_migrations() -> dict[int, str]:
    """The SQL of every numbered file in `schema/`, by its number."""
    folder = files("oxlen.store") / "schema"
    entries = (entry for entry in folder.iterdir() if entry.name.endswith(".sql"))
    return {int(entry.name[:4]): entry.read_text("utf-8") for entry in entries}


def schema_version(connection: sqlite3.Connection) -> int:
    """Number of the last migration applied; 0 for an empty database."""
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def migrate(connection: sqlite3.Connection, migrations: Mapping[int, str] | None = None) -> int:
    """Apply what is missing, in order; returns the version reached.

    A migration that fails leaves nothing behind. ArchiveError when the database comes from a
    newer Oxlen.
    """
    migrations = shipped_migrations() if migrations is None else migrations
    check_not_newer(connection, migrations)
    for number in sorted(migrations):
        if number > schema_version(connection):
            with transaction(connection):
                # executescript would commit first: the statements run one by one.
                for statement in _statements(migrations[number]):
                    connection.execute(statement)
                connection.execute(f"PRAGMA user_version = {number:d}")
    return schema_version(connection)


def check_not_newer(
    connection: sqlite3.Connection, migrations: Mapping[int, str] | None = None
) -> None:
    """ArchiveError when a database comes from a newer Oxlen; reads only."""
    known = max(shipped_migrations() if migrations is None else migrations)
    if schema_version(connection) > known:
        raise ArchiveError(
            "A newer Oxlen saved these data. Start the newer version. Nothing was changed."
        )


def check_not_older(connection: sqlite3.Connection) -> None:
    """ArchiveError when a database waits for its upgrade; reads only."""
    if schema_version(connection) < max(shipped_migrations()):
        raise ArchiveError(
            "An earlier Oxlen saved these data. Start Oxlen once to update them. `oxlen backup` "
            "works before that."
        )


def _statements(sql: str) -> Iterator[str]:
    """Whole statements of a script, separated by SQLite itself."""
    pending = ""
    for line in sql.splitlines(keepends=True):
        pending += line
        if sqlite3.complete_statement(pending):
            yield pending
            pending = ""
    if pending.strip():
        yield pending
