"""Opening the database: foreign keys on, write-ahead log, transactions begun by hand."""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

BUSY_TIMEOUT_S = 10.0
WRITER_CACHE_KB = 48_000


def connect(path: Path | str, *, read_only: bool = False) -> sqlite3.Connection:
    """A connection in autocommit, so that `transaction` alone decides what belongs together.

    Used by one thread at a time, though not always the one that opened it: web routes run in a
    pool.
    """
    # As a proper URI, so that #, ? and % in a folder's name stay what they are.
    target = _to_read(Path(path).absolute()) if read_only else str(path)
    connection = sqlite3.connect(
        target,
        uri=read_only,
        isolation_level=None,
        timeout=BUSY_TIMEOUT_S,
        check_same_thread=False,
    )
    connection.row_factory = sqlite3.Row
    connection.create_function("folded", 1, _folded, deterministic=True)
    connection.execute("PRAGMA foreign_keys = ON")
    if not read_only:
        connection.execute("PRAGMA journal_mode = WAL")
        connection.execute("PRAGMA synchronous = FULL")
        # Many changes in one transaction touch many pages of the index of words.
        connection.execute(f"PRAGMA cache_size = -{WRITER_CACHE_KB}")
    return connection


def _to_read(path: Path) -> str:
    """A database to be read, as a URI.

    Where its disk is read-only SQLite cannot make the files it reads beside it; nobody writes then.
    """
    is_whole = _size_bytes(path.with_name(f"{path.name}-wal")) == 0
    fixed = "&immutable=1" if is_whole and not os.access(path.parent, os.W_OK) else ""
    return f"{path.as_uri()}?mode=ro{fixed}"


def _size_bytes(path: Path) -> int:
    """Size of a file; 0 where there is none. Asked once: SQLite deletes its log at any moment."""
    try:
        return path.stat().st_size
    except FileNotFoundError:
        return 0


def _folded(words: object) -> str:
    """Words as they are compared in a search, whatever their case; SQL's own folds ASCII alone."""
    return words.casefold() if isinstance(words, str) else ""


@contextmanager
def transaction(connection: sqlite3.Connection) -> Iterator[sqlite3.Connection]:
    """All or nothing: commit at the end, roll back on any error."""
    connection.execute("BEGIN IMMEDIATE")
    try:
        yield connection
        connection.execute("COMMIT")
    except BaseException:
        if connection.in_transaction:  # a full disk ends the transaction by itself
            connection.execute("ROLLBACK")
        raise
