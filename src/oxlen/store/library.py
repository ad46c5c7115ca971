"""The folder where everything is kept, and the only door to its database."""

from __future__ import annotations

import fcntl
import os
import shutil
import sqlite3
import tempfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from threading import Lock
from typing import IO

from platformdirs import user_data_path

from oxlen.core.errors import BadInput
from oxlen.store.connect import connect, transaction
from oxlen.store.migrate import check_not_newer, migrate, schema_version
from oxlen.store.places import DATABASE, FRAMES, INCOMING, LOCK, PICTURES, PREVIEWS, STACKS
from oxlen.store.swap import finish_swap, is_swapping, sweep_restores

WRITE_TURN_S = 40.0
"""Longest wait for the writers before; a disk that needs longer for them is as good as away."""
_turns: dict[str, Lock] = {}


@contextmanager
def _turn(database: Path) -> Iterator[None]:
    lock = _turns.setdefault(str(database), Lock())
    if not lock.acquire(timeout=WRITE_TURN_S):
        raise sqlite3.OperationalError("database is locked by others of this process")
    try:
        yield
    finally:
        lock.release()


class Library:
    """One folder of data: a database, pictures by content hash, previews that can be remade."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.database = folder / DATABASE

    @contextmanager
    def reader(self) -> Iterator[sqlite3.Connection]:
        """A connection for reading, with one consistent view."""
        connection = connect(self.database, read_only=True)
        try:
            connection.execute("BEGIN")
            yield connection
        finally:
            connection.close()

    @contextmanager
    def writer(self) -> Iterator[sqlite3.Connection]:
        """A transaction: all that is done in it is kept, or none.

        Writers of one process wait in turn. SQLite favours whoever looks at the right
        moment, and on a slow disk the others would be refused.
        """
        with _turn(self.database):
            connection = connect(self.database)
            try:
                with transaction(connection):
                    yield connection
            finally:
                connection.close()

    @contextmanager
    def held_open(self) -> Iterator[None]:
        """Keep the database's own files in place: SQLite removes them when its last reader goes.

        On a disk that has filled up meanwhile they could not be made again, and nothing be read.
        """
        connection = connect(self.database)
        try:
            schema_version(connection)
            yield
        finally:
            connection.close()

    def picture_path(self, sha256: str) -> Path:
        """Where a picture of that content is."""
        return self.folder / PICTURES / sha256[:2] / sha256

    def frame_path(self, stack_id: int, sha256: str) -> Path:
        """Where a frame of a stack is kept, by its content."""
        return self.folder / STACKS / str(stack_id) / FRAMES / sha256

    def preview_path(self, sha256: str) -> Path:
        """Where the preview of a picture is."""
        return self.folder / PREVIEWS / f"{sha256}.jpg"

    def incoming_path(self) -> Path:
        """A fresh file for a picture on its way in; swept at the next start if left behind."""
        handle, name = tempfile.mkstemp(dir=self.folder / INCOMING)
        os.close(handle)
        return Path(name)

    def shop_zip_path(self, sheet_id: int) -> Path:
        """Where the zip of a shop series is, until the next one or the next start."""
        return self.folder / INCOMING / f"shop-{sheet_id}.zip"

    @contextmanager
    def incoming(self) -> Iterator[Path]:
        """A fresh file for a picture on its way in; what is left of it at the end is removed."""
        path = self.incoming_path()
        try:
            yield path
        finally:
            path.unlink(missing_ok=True)

    def keep_picture(self, incoming: Path, sha256: str) -> Path:
        """Move an incoming file to its place, durably; an equal picture already there is kept."""
        target = self.picture_path(sha256)
        target.parent.mkdir(parents=True, exist_ok=True)
        with incoming.open("rb") as file:
            os.fsync(file.fileno())
        incoming.replace(target)
        return target


def default_folder() -> Path:
    """The platform's place for a user's application data."""
    return user_data_path("oxlen", appauthor=False)


def existing_library(folder: Path | None) -> Library | None:
    """The library in a folder (the default one when None) if anything is kept there."""
    library = Library(folder or default_folder())
    if is_swapping(library.folder):
        with hold_lock(library.folder):
            finish_swap(library.folder)
    return library if library.database.is_file() else None


def open_library(folder: Path | None) -> Library:
    """The library in a folder, made or brought up to date, and swept of half-finished imports."""
    library = Library(folder or default_folder())
    finish_swap(library.folder)
    if library.database.is_file():
        with library.reader() as connection:
            # Before anything is written: a newer Oxlen's data stay as they are.
            check_not_newer(connection)
    for name in (PICTURES, PREVIEWS, INCOMING):
        (library.folder / name).mkdir(parents=True, exist_ok=True)
    connection = connect(library.database)
    try:
        migrate(connection)
        known = {row["sha256"] for row in connection.execute("SELECT sha256 FROM picture")}
        stacks: dict[str, set[str]] = {
            str(row["id"]): set() for row in connection.execute("SELECT id FROM stack")
        }
        for row in connection.execute("SELECT stack_id, sha256 FROM stack_frame"):
            stacks[str(row["stack_id"])].add(row["sha256"])
    finally:
        connection.close()
    _sweep(library, known)
    _sweep_stacks(library, stacks)
    return library


def _sweep(library: Library, known: set[str]) -> None:
    """Remove what interrupted restores and imports left, and pictures no row speaks of."""
    sweep_restores(library.folder)
    # Folders are none of Oxlen's own: they are left alone, and named by a check.
    for leftover in (library.folder / INCOMING).iterdir():
        if not leftover.is_dir():
            leftover.unlink()
    for picture in (library.folder / PICTURES).glob("??/*"):
        if picture.name not in known and not picture.is_dir():
            picture.unlink()
    for preview in (library.folder / PREVIEWS).iterdir():
        if preview.stem not in known and not preview.is_dir():
            preview.unlink()


def _sweep_stacks(library: Library, known: Mapping[str, set[str]]) -> None:
    """Remove stacks, and frames of stacks, that no row speaks of: their upload was stopped."""
    for folder in (library.folder / STACKS).glob("*"):
        if folder.name in known:
            for frame in (folder / FRAMES).glob("*"):
                if frame.name not in known[folder.name]:
                    frame.unlink()
        elif folder.name.isdigit():
            shutil.rmtree(folder, ignore_errors=True)


@contextmanager
def hold_lock(folder: Path) -> Iterator[IO[str]]:
    """Hold a folder for one process; BadInput when another Oxlen is running on it."""
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / LOCK).open("w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise BadInput(f"Another Oxlen is running on {folder}. Stop it first.") from None
        yield file
