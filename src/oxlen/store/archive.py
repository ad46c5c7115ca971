"""Backup and restore: everything kept in one zip, verified before it replaces anything."""

from __future__ import annotations

import hashlib
import json
import shutil
import sqlite3
import tempfile
import zipfile
from collections.abc import Mapping
from pathlib import Path
from typing import IO, Any

from oxlen.core.errors import ArchiveError
from oxlen.store.connect import connect
from oxlen.store.library import DATABASE, INCOMING, PICTURES, PREVIEWS, Library, hold_lock
from oxlen.store.migrate import migrate
from oxlen.store.pictures import kept_hashes

FORMAT = "oxlen-backup/1"
MANIFEST = "manifest.json"
BLOCK_BYTES = 1 << 20


def write_backup(library: Library, target: Path) -> int:
    """Write database and pictures to a zip file; returns the number of pictures in it.

    The database comes through SQLite's own backup, so the app may be running. The file appears
    under its name only when it is complete.
    """
    unfinished = target.with_name(target.name + ".unfinished")
    with tempfile.TemporaryDirectory(dir=library.folder) as folder:
        copy = Path(folder) / DATABASE
        hashes = _copy_database(library, copy)
        files = {DATABASE: copy, **{f"{PICTURES}/{h}": library.picture_path(h) for h in hashes}}
        try:
            with zipfile.ZipFile(unfinished, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
                digests = {name: _add(archive, name, path) for name, path in files.items()}
                manifest = {"format": FORMAT, "sha256": digests}
                archive.writestr(MANIFEST, json.dumps(manifest, indent=1))
            unfinished.replace(target)
        finally:
            unfinished.unlink(missing_ok=True)
    return len(hashes)


def restore_backup(folder: Path, source: Path) -> int:
    """Replace what is kept in a folder by a backup; returns the number of pictures restored.

    Everything is unpacked and verified beside the old data first. ArchiveError leaves the old
    data as they were. BadInput when Oxlen is running on the folder.
    """
    with hold_lock(folder), tempfile.TemporaryDirectory(dir=folder) as fresh_name:
        fresh = Path(fresh_name)
        hashes = _unpack(source, fresh)
        _verify_database(fresh / DATABASE, hashes)
        _swap(folder, fresh)
    return len(hashes)


def _copy_database(library: Library, copy: Path) -> list[str]:
    with library.reader() as connection:
        target = sqlite3.connect(copy)
        try:
            connection.backup(target)
            target.execute("PRAGMA journal_mode = DELETE")
            # Of the copy, not of what has come in since.
            target.row_factory = sqlite3.Row
            return kept_hashes(target)
        finally:
            target.close()


def _add(archive: zipfile.ZipFile, name: str, path: Path) -> str:
    with path.open("rb") as source, archive.open(name, "w", force_zip64=True) as target:
        return _copy(source, target)


def _unpack(source: Path, fresh: Path) -> list[str]:
    """Unpack what the manifest names and hold every file to its hash; returns picture hashes."""
    try:
        with zipfile.ZipFile(source) as archive:
            digests = _manifest(archive)
            for name, digest in digests.items():
                target = fresh / _place(name, digest)
                target.parent.mkdir(parents=True, exist_ok=True)
                with archive.open(name) as packed, target.open("wb") as file:
                    if _copy(packed, file) != digest:
                        raise ArchiveError(
                            f"{source.name}: {name} is damaged; nothing was changed."
                        )
    # The zip reader's own: a packing it does not know is NotImplementedError, a locked file
    # RuntimeError, which includes it.
    except (zipfile.BadZipFile, KeyError, EOFError, RuntimeError) as error:
        raise ArchiveError(
            f"{source.name} is not a whole Oxlen backup; nothing was changed."
        ) from error
    return [name.removeprefix(f"{PICTURES}/") for name in digests if name != DATABASE]


def _manifest(archive: zipfile.ZipFile) -> Mapping[str, str]:
    try:
        manifest: Any = json.loads(archive.read(MANIFEST))
        digests: dict[str, str] = dict(manifest["sha256"])
    except (ValueError, KeyError, TypeError) as error:
        raise ArchiveError(
            "The backup's list of contents is broken; nothing was changed."
        ) from error
    if manifest.get("format") != FORMAT or DATABASE not in digests:
        raise ArchiveError("This zip is no Oxlen backup; nothing was changed.")
    return digests


def _place(name: str, digest: str) -> Path:
    """Where a file of the backup goes; only the database and pictures named by their own hash."""
    if name == DATABASE:
        return Path(DATABASE)
    if name != f"{PICTURES}/{digest}" or len(digest) != 64 or not digest.isalnum():
        raise ArchiveError(
            f"The backup holds {name}, which has no place here; nothing was changed."
        )
    return Path(PICTURES) / digest[:2] / digest


def _verify_database(path: Path, hashes: list[str]) -> None:
    try:
        connection = connect(path)
        try:
            if connection.execute("PRAGMA integrity_check").fetchone()[0] != "ok":
                raise ArchiveError("The backup's database is damaged; nothing was changed.")
            if connection.execute("PRAGMA foreign_key_check").fetchone() is not None:
                raise ArchiveError("The backup's database misses rows; nothing was changed.")
            migrate(connection)
            missing = set(kept_hashes(connection)) - set(hashes)
        finally:
            connection.close()
    except sqlite3.DatabaseError as error:
        raise ArchiveError("The backup's database cannot be read; nothing was changed.") from error
    if missing:
        raise ArchiveError(f"The backup misses {len(missing)} pictures; nothing was changed.")


def _swap(folder: Path, fresh: Path) -> None:
    """Put the fresh data in place of the old; a failure half-way puts the old back."""
    for name in (PICTURES, PREVIEWS, INCOMING):
        (fresh / name).mkdir(exist_ok=True)
    names = (PICTURES, PREVIEWS, INCOMING, f"{DATABASE}-wal", f"{DATABASE}-shm", DATABASE)
    with tempfile.TemporaryDirectory(dir=folder) as old_name:
        old, moved = Path(old_name), []
        try:
            for name in names:
                if (folder / name).exists():
                    (folder / name).replace(old / name)
                    moved.append(name)
            for name in names:
                if (fresh / name).exists():
                    (fresh / name).replace(folder / name)
        except OSError:
            for name in moved:
                if (folder / name).is_dir():
                    shutil.rmtree(folder / name)
                (old / name).replace(folder / name)
            raise


def _copy(source: IO[bytes], target: IO[bytes]) -> str:
    digest = hashlib.sha256()
    while block := source.read(BLOCK_BYTES):
        digest.update(block)
        target.write(block)
    return digest.hexdigest()
