"""Every file that the database points to: pictures, and frames of stacks."""

from __future__ import annotations

import os
import shutil
import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from oxlen.store.library import Library


@dataclass(frozen=True)
class KeptFile:
    """A file by its content and the name it came under; a frame of `stack_id`, else a picture."""

    sha256: str
    name: str
    stack_id: int | None = None

    def path(self, library: Library) -> Path:
        """Where it is kept."""
        if self.stack_id is None:
            return library.picture_path(self.sha256)
        return library.frame_path(self.stack_id, self.sha256)


def kept_files(connection: sqlite3.Connection) -> list[KeptFile]:
    """All files the database points to, each once per place; of any version of the schema."""
    return [*_pictures(connection), *_frames(connection)]


def has_table(connection: sqlite3.Connection, name: str) -> bool:
    """Whether the database has a table: one of an earlier Oxlen lacks some."""
    found = connection.execute(
        "SELECT 1 FROM sqlite_schema WHERE type = 'table' AND name = ?", (name,)
    )
    return found.fetchone() is not None


def beside(source: Path, target: Path) -> None:
    """Keep a file under a second name, or copied where the disk knows no second names."""
    target.parent.mkdir(parents=True, exist_ok=True)
    try:
        os.link(source, target)
    except OSError:
        shutil.copyfile(source, target)


def _pictures(connection: sqlite3.Connection) -> Iterator[KeptFile]:
    if not has_table(connection, "picture"):
        return
    for row in connection.execute("SELECT sha256, file_name FROM picture ORDER BY sha256"):
        yield KeptFile(row["sha256"], row["file_name"])
    if not has_table(connection, "stack"):
        return
    # The result of a stack is a picture like others; no key of the table says so.
    for row in connection.execute(
        "SELECT result_sha256, name FROM stack WHERE result_sha256 IS NOT NULL"
        " AND result_sha256 NOT IN (SELECT sha256 FROM picture) ORDER BY id"
    ):
        yield KeptFile(row["result_sha256"], f"result of the stack {row['name']}")


def _frames(connection: sqlite3.Connection) -> Iterator[KeptFile]:
    if not has_table(connection, "stack_frame"):
        return
    for row in connection.execute(
        "SELECT stack_id, name, sha256 FROM stack_frame ORDER BY stack_id, position"
    ):
        yield KeptFile(row["sha256"], row["name"], row["stack_id"])
