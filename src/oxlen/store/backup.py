"""Backup: everything kept in one zip, every picture and frame held to its digest on the way."""

from __future__ import annotations

import hashlib
import json
import sqlite3
import zipfile
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Literal

from oxlen.store.kept_files import KeptFile, has_table, kept_files
from oxlen.store.kit.devices import revoke_all_devices
from oxlen.store.library import Library
from oxlen.store.places import DATABASE, FRAMES, PICTURES

FORMAT = "oxlen-backup/2"
KNOWN_FORMATS = ("oxlen-backup/1", FORMAT)
"""The first had no frames of stacks."""
MANIFEST = "manifest.json"
BLOCK_BYTES = 1 << 20

Trouble = Literal["missing", "damaged"]


@dataclass(frozen=True)
class Gap:
    """A picture or frame that could not be saved: its hash, the name it came under, and why."""

    sha256: str
    file_name: str
    trouble: Trouble


@dataclass(frozen=True)
class Backup:
    """What a backup holds: how many pictures and frames of stacks, and those it could not take."""

    pictures: int
    frames: int
    gaps: tuple[Gap, ...]


def write_backup(library: Library, target: Path) -> Backup:
    """Write database, pictures and frames of stacks to a zip file.

    The database comes through SQLite's own backup, so the app may be running. It keeps its version
    of the schema: a backup made before an upgrade opens in the Oxlen it came from. A file that is
    missing, or whose content is no longer what its name says, is listed as a gap and the rest is
    saved. What is both a picture and a frame is in it once. The zip appears under its name only
    when it is complete; everything is written beside it, so the library's own disk may be full.
    """
    unfinished = target.with_name(target.name + ".unfinished")
    with _copy_of_database(library, target) as (copy, kept):
        sound, gaps = _sorted_out(library, kept)
        try:
            _write(unfinished, {DATABASE: copy, **sound}, gaps)
            unfinished.replace(target)
        finally:
            unfinished.unlink(missing_ok=True)
    frames = sum(name.startswith(f"{FRAMES}/") for name in sound)
    return Backup(len(sound) - frames, frames, gaps)


def _sorted_out(
    library: Library, kept: Sequence[KeptFile]
) -> tuple[dict[str, Path], tuple[Gap, ...]]:
    """Sound files by their names in the backup, and what is missing or damaged everywhere."""
    sound: dict[str, Path] = {}
    bad: dict[str, Gap] = {}
    here: set[str] = set()
    for file in kept:
        if file.sha256 in here:
            continue
        path = file.path(library)
        trouble = trouble_with(path, file.sha256)
        if trouble is not None:
            bad.setdefault(file.sha256, Gap(file.sha256, file.name, trouble))
            continue
        here.add(file.sha256)
        sound[f"{PICTURES if file.stack_id is None else FRAMES}/{file.sha256}"] = path
    return sound, tuple(gap for sha256, gap in bad.items() if sha256 not in here)


def _write(path: Path, files: Mapping[str, Path], gaps: tuple[Gap, ...]) -> None:
    with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
        digests = {name: _add(archive, name, file) for name, file in files.items()}
        manifest = {"format": FORMAT, "sha256": digests, "gaps": [vars(gap) for gap in gaps]}
        archive.writestr(MANIFEST, json.dumps(manifest, indent=1))


@contextmanager
def _copy_of_database(library: Library, target: Path) -> Iterator[tuple[Path, list[KeptFile]]]:
    """A copy beside the target, and the files it points to.

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
                # A phone paired here is not paired wherever the backup is taken to.
                if has_table(kept, "device"):
                    revoke_all_devices(kept)
                kept.commit()
                files = kept_files(kept)
            finally:
                kept.close()
        yield copy, files
    finally:
        copy.unlink(missing_ok=True)


def trouble_with(path: Path, sha256: str) -> Trouble | None:
    """What is wrong with a kept file, if anything: gone, or not what its name says."""
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
