"""Backup: everything kept in one zip, every picture held to its name on the way."""

from __future__ import annotations

import hashlib
import json
import sqlite3
import zipfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Literal

from oxlen.store.devices import revoke_all_devices
from oxlen.store.library import Library
from oxlen.store.pictures import kept_names
from oxlen.store.places import DATABASE, PICTURES

FORMAT = "oxlen-backup/1"
MANIFEST = "manifest.json"
BLOCK_BYTES = 1 << 20

Trouble = Literal["missing", "damaged"]


@dataclass(frozen=True)
class Gap:
    """A picture that could not be saved: its hash, the file's name as it came, and why."""

    sha256: str
    file_name: str
    trouble: Trouble


@dataclass(frozen=True)
class Backup:
    """What a backup holds: how many pictures, and those it could not take."""

    pictures: int
    gaps: tuple[Gap, ...]


def write_backup(library: Library, target: Path) -> Backup:
    """Write database and pictures to a zip file.

    The database comes through SQLite's own backup, so the app may be running. A picture that is
    missing, or whose content is no longer what its name says, is listed as a gap and the rest is
    saved. The file appears under its name only when it is complete; everything is written beside
    it, so that the library's own disk may be full.
    """
    unfinished = target.with_name(target.name + ".unfinished")
    with _copy_of_database(library, target) as (copy, names):
        troubles = {sha: trouble_with(library.picture_path(sha), sha) for sha in names}
        gaps = tuple(Gap(sha, names[sha], why) for sha, why in troubles.items() if why)
        sound = [sha for sha, why in troubles.items() if why is None]
        files = {DATABASE: copy, **{f"{PICTURES}/{h}": library.picture_path(h) for h in sound}}
        try:
            _write(unfinished, files, gaps)
            unfinished.replace(target)
        finally:
            unfinished.unlink(missing_ok=True)
    return Backup(len(sound), gaps)


def _write(path: Path, files: Mapping[str, Path], gaps: tuple[Gap, ...]) -> None:
    with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
        digests = {name: _add(archive, name, file) for name, file in files.items()}
        manifest = {"format": FORMAT, "sha256": digests, "gaps": [vars(gap) for gap in gaps]}
        archive.writestr(MANIFEST, json.dumps(manifest, indent=1))


@contextmanager
def _copy_of_database(library: Library, target: Path) -> Iterator[tuple[Path, dict[str, str]]]:
    """A copy beside the target, and the pictures it speaks of with their names.

    Of the copy, not of what has come in since. A killed backup leaves it under a name that the
    next one to the same place takes over.
    """
    copy = target.with_name(target.name + ".unfinished.db")
    copy.unlink(missing_ok=True)
    try:
        with library.reader() as connection:
            kept = sqlite3.connect(copy)
            try:
                connection.backup(kept)
                kept.execute("PRAGMA journal_mode = DELETE")
                kept.row_factory = sqlite3.Row
                # A phone let in here is not let in wherever the backup is taken to.
                revoke_all_devices(kept)
                kept.commit()
                names = kept_names(kept)
            finally:
                kept.close()
        yield copy, names
    finally:
        copy.unlink(missing_ok=True)


def trouble_with(path: Path, sha256: str) -> Trouble | None:
    """What is wrong with a kept picture's file, if anything: gone, or not what its name says."""
    try:
        with path.open("rb") as file:
            return None if copied(file, None) == sha256 else "damaged"
    except FileNotFoundError:
        return "missing"
    except OSError:
        return "damaged"


def _add(archive: zipfile.ZipFile, name: str, path: Path) -> str:
    with path.open("rb") as source, archive.open(name, "w", force_zip64=True) as target:
        return copied(source, target)


def copied(source: IO[bytes], target: IO[bytes] | None) -> str:
    """Read to the end, write it on where there is a target; SHA-256 of it all."""
    digest = hashlib.sha256()
    while block := source.read(BLOCK_BYTES):
        digest.update(block)
        if target is not None:
            target.write(block)
    return digest.hexdigest()
