"""Restore: a backup is unpacked and verified beside what is kept, then takes its place whole."""

from __future__ import annotations

import json
import lzma
import shutil
import sqlite3
import tempfile
import zipfile
import zlib
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from oxlen.core.errors import ArchiveError
from oxlen.core.labels import counted
from oxlen.store.backup import FORMAT, KNOWN_FORMATS, MANIFEST, Gap, copied
from oxlen.store.connect import connect
from oxlen.store.kept_files import beside, kept_files
from oxlen.store.library import Library, hold_lock
from oxlen.store.migrate import migrate
from oxlen.store.places import DATABASE, FRAMES, INCOMING, PICTURES, PREVIEWS, STACKS
from oxlen.store.swap import BEFORE, RESTORED, begin_swap, finish_swap, sweep_restores

MOST_ENTRIES = 1_000_000
MANIFEST_BYTES = 200_000_000
SPARE_BYTES = 50_000_000
"""Left free on the disk when a backup is unpacked."""
UNCHANGED = "nothing was changed."


@dataclass(frozen=True)
class Contents:
    """What a backup says it holds: digests by name, and the files it could not take."""

    digests: Mapping[str, str]
    gaps: tuple[Gap, ...]
    has_frames: bool = True

    @property
    def pictures(self) -> int:
        """How many pictures are in it."""
        return sum(name.startswith(f"{PICTURES}/") for name in self.digests)

    @property
    def frames(self) -> int:
        """How many frames of stacks are in it that are no pictures besides."""
        return sum(name.startswith(f"{FRAMES}/") for name in self.digests)


def restore_backup(folder: Path, source: Path) -> Contents:
    """Replace what is kept in a folder by a backup.

    Everything is unpacked and verified beside the old data first: ArchiveError until then leaves
    them as they were. What was replaced stays in a dated folder until the next restore. BadInput
    when Oxlen is running on the folder.
    """
    with hold_lock(folder):
        finish_swap(folder)
        sweep_restores(folder)
        fresh = Path(tempfile.mkdtemp(dir=folder, prefix=RESTORED))
        try:
            contents = _unpack(source, fresh)
            contents = _verify_database(fresh / DATABASE, contents)
            for name in (PICTURES, PREVIEWS, INCOMING, STACKS):
                (fresh / name).mkdir(exist_ok=True)
            _place_frames(Library(fresh))
            begin_swap(folder, fresh, f"{BEFORE}{datetime.now(UTC):%Y-%m-%dT%H-%M-%S-%f}")
        except BaseException:
            shutil.rmtree(fresh, ignore_errors=True)
            raise
        try:
            finish_swap(folder)
        except OSError as error:
            raise ArchiveError(
                f"The backup is complete but not in place yet ({error.strerror}). Oxlen finishes "
                "it at the next start."
            ) from error
    return contents


def _unpack(source: Path, fresh: Path) -> Contents:
    """Unpack what the manifest names, and hold every file to its hash."""
    try:
        with zipfile.ZipFile(source) as archive:
            _check_size(archive, fresh)
            contents = _contents(archive)
            for name, digest in contents.digests.items():
                target = fresh / _place(name, digest)
                target.parent.mkdir(parents=True, exist_ok=True)
                with archive.open(name) as packed, target.open("wb") as file:
                    if copied(packed, file) != digest:
                        raise ArchiveError(f"{source.name}: {name} is damaged; {UNCHANGED}")
    # The zip reader's own: RuntimeError is a locked file, or one packed in a way it does not know;
    # ValueError is an offset before the file's beginning.
    except (
        zipfile.BadZipFile,
        zlib.error,
        lzma.LZMAError,
        KeyError,
        EOFError,
        RuntimeError,
        ValueError,
    ) as error:
        raise ArchiveError(f"{source.name} is not a whole Oxlen backup; {UNCHANGED}") from error
    except OSError as error:
        if error.errno is not None:
            raise
        # bz2 says so of a stream it cannot make out; what the system refuses has a number.
        raise ArchiveError(f"{source.name} is not a whole Oxlen backup; {UNCHANGED}") from error
    return contents


def _check_size(archive: zipfile.ZipFile, fresh: Path) -> None:
    """Refuse what could not be unpacked before a byte of it is written."""
    entries = archive.infolist()
    if len(entries) > MOST_ENTRIES:
        raise ArchiveError(f"The backup holds {len(entries)} files, more than can be; {UNCHANGED}")
    # The reader never gives more of an entry than its header says.
    needed = sum(entry.file_size for entry in entries)
    free = shutil.disk_usage(fresh).free - SPARE_BYTES
    if needed > free:
        raise ArchiveError(
            f"The backup needs {needed / 1e6:.0f} MB and the disk has {max(0, free) / 1e6:.0f} MB "
            f"to spare; {UNCHANGED}"
        )


def _contents(archive: zipfile.ZipFile) -> Contents:
    try:
        if archive.getinfo(MANIFEST).file_size > MANIFEST_BYTES:
            raise ValueError("too long")
        manifest: Any = json.loads(archive.read(MANIFEST))
        digests = {str(name): str(digest) for name, digest in dict(manifest["sha256"]).items()}
        gaps = tuple(Gap(**gap) for gap in manifest.get("gaps", ()))
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError) as error:
        raise ArchiveError(f"The backup's list of contents is broken; {UNCHANGED}") from error
    if manifest.get("format") not in KNOWN_FORMATS or DATABASE not in digests:
        raise ArchiveError(f"This zip is no Oxlen backup; {UNCHANGED}")
    return Contents(digests, gaps, has_frames=manifest["format"] == FORMAT)


def _place(name: str, digest: str) -> Path:
    """Where a file of the backup goes: the database, or what is named by its own hash."""
    if name == DATABASE:
        return Path(DATABASE)
    known = len(digest) == 64 and set(digest) <= set("0123456789abcdef")
    if known and name == f"{PICTURES}/{digest}":
        return Path(PICTURES) / digest[:2] / digest
    if known and name == f"{FRAMES}/{digest}":
        return Path(FRAMES) / digest
    raise ArchiveError(f"The backup holds {name}, which has no place here; {UNCHANGED}")


def _place_frames(fresh: Library) -> None:
    """Put the frames of stacks where each stack looks for them; one that is missing is a gap."""
    with fresh.reader() as connection:
        frames = [file for file in kept_files(connection) if file.stack_id is not None]
    for frame in frames:
        unpacked = fresh.folder / FRAMES / frame.sha256
        source = unpacked if unpacked.exists() else fresh.picture_path(frame.sha256)
        if source.exists():
            beside(source, frame.path(fresh))
    shutil.rmtree(fresh.folder / FRAMES, ignore_errors=True)


def _verify_database(path: Path, contents: Contents) -> Contents:
    """It opens, is whole, is of a known version, and points to no file that is not there.

    Backups of the first format have no frames of stacks: these are gaps then.
    """
    try:
        connection = connect(path)
        try:
            if connection.execute("PRAGMA integrity_check").fetchone()[0] != "ok":
                raise ArchiveError(f"The backup's database is damaged; {UNCHANGED}")
            if connection.execute("PRAGMA foreign_key_check").fetchone() is not None:
                raise ArchiveError(f"The backup's database misses rows; {UNCHANGED}")
            migrate(connection)
            here = {name.rpartition("/")[2] for name in contents.digests}
            named = {gap.sha256 for gap in contents.gaps}
            kept = kept_files(connection)
            lacking = [file for file in kept if file.sha256 not in here | named]
            if not contents.has_frames:
                frames = [file for file in lacking if file.stack_id is not None]
                lacking = [file for file in lacking if file.stack_id is None]
                gaps = tuple(Gap(frame.sha256, frame.name, "missing") for frame in frames)
                contents = replace(contents, gaps=contents.gaps + gaps)
        finally:
            connection.close()
    except sqlite3.DatabaseError as error:
        raise ArchiveError(f"The backup's database cannot be read; {UNCHANGED}") from error
    if lacking:
        misses = counted(len({file.sha256 for file in lacking}), "picture")
        raise ArchiveError(f"The backup misses {misses}; {UNCHANGED}")
    return contents
