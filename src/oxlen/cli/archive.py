"""`oxlen backup`, `oxlen restore`, `oxlen outing-file`, `oxlen outing-in` and `oxlen check`."""

from __future__ import annotations

import argparse
import sqlite3
import sys
from collections.abc import Iterator, Sequence
from contextlib import nullcontext, suppress
from datetime import UTC, datetime

from oxlen.core.errors import BadInput, NotFound, UnreadableSheet
from oxlen.core.labels import counted
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.store.backup import Gap, write_backup
from oxlen.store.check import Finding, findings_in, mend
from oxlen.store.library import Library, default_folder, existing_library, hold_lock, open_library
from oxlen.store.migrate import check_not_newer, check_not_older
from oxlen.store.outings import outings
from oxlen.store.restore import restore_backup
from oxlen.store.sheets import sheet_texts
from oxlen.takes.outing_in import NOT_CLEANED, take_in_outing
from oxlen.takes.outing_out import write_outing

FOUND = 1
"""Exit code of a check that found something it did not mend."""
WITH_GAPS = 1
"""Exit code when all was done but some pictures are not there."""


def backup(arguments: argparse.Namespace) -> int:
    """Write everything kept into one zip; exit code 1 when some pictures could not be taken."""
    library = existing_library(arguments.data)
    if library is None:
        raise NotFound(f"There are no data in {arguments.data or default_folder()}.")
    made = write_backup(library, arguments.file)
    print(f"{arguments.file}: the database{_files(made.pictures, made.frames)}.")
    return _report_gaps(made.gaps, "Not in the backup")


def restore(arguments: argparse.Namespace) -> int:
    """Replace everything kept by a backup, once it is verified."""
    folder = arguments.data or default_folder()
    restored = restore_backup(folder, arguments.file)
    held = _files(restored.pictures, restored.frames)
    print(f"{folder}: restored the database{held}.")
    return _report_gaps(restored.gaps, "Not in this backup")


def _files(pictures: int, frames: int) -> str:
    """How many pictures and frames, as the end of a list."""
    if frames == 0:
        return f" and {counted(pictures, 'picture')}"
    return f", {counted(pictures, 'picture')} and {counted(frames, 'frame')} of stacks"


def outing_file(arguments: argparse.Namespace) -> int:
    """Write one outing as a file for another Oxlen."""
    library = existing_library(arguments.data)
    if library is None:
        raise NotFound(f"There are no data in {arguments.data or default_folder()}.")
    with library.reader() as connection:
        check_not_older(connection)
    contents = write_outing(
        library,
        _outing_id(library, arguments.outing),
        arguments.file,
        with_identity=arguments.with_identity,
    )
    sheets = counted(len(contents.sheets), "sheet")
    pictures = counted(len(contents.pictures), "picture")
    clean = "" if arguments.with_identity else " without location, names and serial numbers"
    print(f"{arguments.file}: “{contents.outing.title}”, {sheets}, {pictures}{clean}.")
    for name in contents.left_out:
        print(f"oxlen: {name} {NOT_CLEANED}", file=sys.stderr)
    return WITH_GAPS if contents.left_out else 0


def _outing_id(library: Library, text: str) -> int:
    """The outing of a number or a title; NotFound, or BadInput where several have the title."""
    if text.isdecimal():
        return int(text)
    with library.reader() as connection:
        found = [
            outing.id
            for outing in outings(connection)
            if outing.title.casefold() == text.casefold()
        ]
    if not found:
        raise NotFound(f"There is no outing “{text}”.")
    if len(found) > 1:
        numbers = ", ".join(map(str, found))
        raise BadInput(f"Several outings are called “{text}”. Use its number: {numbers}.", "outing")
    return found[0]


def outing_in(arguments: argparse.Namespace) -> int:
    """Import an outing file; what is here already is not doubled."""
    now = datetime.now(UTC).isoformat(timespec="seconds")
    done = take_in_outing(open_library(arguments.data), arguments.file, now=now)
    for note in done.notes:
        print(f"oxlen: {note}", file=sys.stderr)
    print(
        f"Outing {done.outing_id}: {counted(done.new_sheets, 'new sheet')}, "
        f"{done.changed_sheets} changed, {done.same_sheets} unchanged; "
        f"{counted(done.new_pictures, 'picture')}, {counted(done.new_takes, 'take')}."
    )
    return 0


def check(arguments: argparse.Namespace) -> int:
    """Look everything kept over; with --mend remove what belongs to nothing."""
    folder = arguments.data or default_folder()
    library = existing_library(arguments.data)
    if library is None:
        raise NotFound(f"There are no data in {folder}.")
    # One that cannot be read at all is what the check itself will say.
    with suppress(sqlite3.DatabaseError), library.reader() as connection:
        check_not_newer(connection)
    # Mending while the app runs could take what it is just bringing in.
    with hold_lock(folder) if arguments.mend else nullcontext():
        left = sum(_reported(finding, mending=arguments.mend) for finding in _all_findings(library))
    if left == 0:
        print(f"{folder}: everything is in order.")
    return FOUND if left else 0


def _all_findings(library: Library) -> Iterator[Finding]:
    found = list(findings_in(library))
    yield from found
    if any(not finding.can_be_mended for finding in found) and not _readable(library):
        return
    with library.reader() as connection:
        for number, body in sheet_texts(connection):
            try:
                read_sheet(body)
            except UnreadableSheet as error:
                yield Finding(f"Sheet {number}: {error.message}")


def _readable(library: Library) -> bool:
    try:
        with library.reader() as connection:
            return all(True for _ in sheet_texts(connection))
    except sqlite3.DatabaseError:
        return False


def _reported(finding: Finding, *, mending: bool) -> bool:
    """Say what was found and done; whether it is still so."""
    if mending and finding.can_be_mended:
        mend(finding)
        print(f"{finding.words} Removed.")
        return False
    hint = " --mend removes it." if finding.can_be_mended else ""
    print(finding.words + hint)
    return True


def _report_gaps(gaps: Sequence[Gap], words: str) -> int:
    for gap in gaps:
        print(f"oxlen: {words}: {gap.file_name} ({gap.trouble}).", file=sys.stderr)
    return WITH_GAPS if gaps else 0
