"""Looking a library over: its database, its pictures, and files that belong to nothing."""

from __future__ import annotations

import shutil
import sqlite3
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from oxlen.store.backup import trouble_with
from oxlen.store.kept_files import KeptFile, kept_files
from oxlen.store.library import Library
from oxlen.store.places import FRAMES, INCOMING, PICTURES, PREVIEWS, STACKS
from oxlen.store.swap import RESTORED

ENOUGH = 20
"""Faults of a database that are reported; more say nothing new."""


@dataclass(frozen=True)
class Finding:
    """Something that is not as it should be; `spare` is what may be removed to mend it."""

    words: str
    spare: Path | None = None

    @property
    def can_be_mended(self) -> bool:
        """Whether removing something mends it."""
        return self.spare is not None


def findings_in(library: Library) -> Iterator[Finding]:
    """All that is wrong with a library's database and files; changes nothing."""
    with library.reader() as connection:
        faults = list(_faults_of(connection))
        kept = [] if faults else kept_files(connection)
    yield from faults
    if faults:
        # What pictures there should be is not to be known from a damaged database.
        return
    for file in kept:
        trouble = trouble_with(file.path(library), file.sha256)
        if trouble is not None:
            yield Finding(f"{_named(file)} is {trouble} ({file.sha256}).")
    yield from _left_over(library, kept)


def _named(file: KeptFile) -> str:
    if file.stack_id is None:
        return f"The picture {file.name}"
    return f"The frame {file.name} of stack {file.stack_id}"


def mend(finding: Finding) -> None:
    """Remove what a finding names as spare."""
    if finding.spare is None:
        return
    if finding.spare.is_dir():
        shutil.rmtree(finding.spare)
    else:
        finding.spare.unlink(missing_ok=True)


def _faults_of(connection: sqlite3.Connection) -> Iterator[Finding]:
    try:
        for (words,) in connection.execute(f"PRAGMA integrity_check({ENOUGH})"):
            if words != "ok":
                yield Finding(f"The database is damaged: {words}.")
        for row in connection.execute("PRAGMA foreign_key_check").fetchmany(ENOUGH):
            yield Finding(f"A row of {row[0]} belongs to a {row[2]} that is not there.")
    except sqlite3.DatabaseError as error:
        yield Finding(f"The database cannot be read: {error}.")


def _left_over(library: Library, kept: Sequence[KeptFile]) -> Iterator[Finding]:
    pictures = {file.sha256 for file in kept if file.stack_id is None}
    for finding in (*_spare_files(library, pictures), *_spare_frames(library, kept)):
        if finding.spare is None or not finding.spare.is_dir():
            yield finding
        else:
            words = f"The folder {finding.spare} is not from Oxlen. It was not changed."
            yield Finding(words)
    for folder in sorted(library.folder.glob(f"{RESTORED}*")):
        yield Finding(f"{folder.name} is left over from a stopped restore.", folder)


def _spare_files(library: Library, known: set[str]) -> Iterator[Finding]:
    for picture in sorted((library.folder / PICTURES).glob("*/*")):
        if picture.name not in known:
            yield Finding(f"The file {picture.name} belongs to no picture.", picture)
    for preview in sorted((library.folder / PREVIEWS).glob("*")):
        if preview.stem not in known:
            yield Finding(f"The preview {preview.name} belongs to no picture.", preview)
    for incoming in sorted((library.folder / INCOMING).glob("*")):
        yield Finding(f"{incoming.name} is left over from a stopped import.", incoming)


def _spare_frames(library: Library, kept: Sequence[KeptFile]) -> Iterator[Finding]:
    known = {(str(file.stack_id), file.sha256) for file in kept if file.stack_id is not None}
    for frame in sorted((library.folder / STACKS).glob(f"*/{FRAMES}/*")):
        stack_id = frame.parent.parent.name
        if (stack_id, frame.name) not in known:
            yield Finding(f"The file {frame.name} belongs to no frame of stack {stack_id}.", frame)
