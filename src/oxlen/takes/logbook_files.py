"""The logbook as files: CSV, JSON and XMP sidecars out, JSON and sidecars in again."""

from __future__ import annotations

import csv
import io
import json
import re
import sqlite3
import zipfile
import zlib
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from itertools import islice
from pathlib import Path, PurePath
from typing import Any

from oxlen.core.errors import BadInput, OxlenError
from oxlen.formats.json_stream import JsonList
from oxlen.formats.take.xmp_sidecar import REJECTED, Sidecar, in_xml, read_sidecar, write_sidecar
from oxlen.formats.unpacking import unpacked
from oxlen.store.library import Library
from oxlen.store.logbook import LogEntry
from oxlen.store.long_work import ProgressReporter
from oxlen.store.takes import Judgement, Take, judge_take, takes_with_picture

WRITTEN_AS = "oxlen-logbook/1"
COLUMNS = (
    "shot_at",
    "outing_title",
    "sheet_title",
    "file_name",
    "iso",
    "shutter_s",
    "lens",
    "situation",
    "state",
    "rating",
    "keywords",
    "note",
    "why",
    "sha256",
)
MOST_SIDECARS = 200_000
SIDECAR_BYTES, MOST_UNPACKED_BYTES = 1_000_000, 1_000_000_000
HALF_A_PAIR = re.compile("[\ud800-\udfff]")
AT_ONCE = 4000
"""So many takes are judged in one transaction."""
DAMAGED_ZIP = (zipfile.BadZipFile, zlib.error, EOFError, ValueError, RuntimeError, OSError)


@dataclass
class Taken:
    """What came of files of a logbook: takes changed, takes as they were, and what is not here."""

    changed: int = 0
    same: int = 0
    unknown: int = 0


def csv_lines(entries: Iterable[LogEntry]) -> Iterator[str]:
    """The logbook as CSV, line by line, its header first."""
    yield _csv_row(COLUMNS)
    for entry in entries:
        yield _csv_row([_plain(getattr(entry, name)) for name in COLUMNS])


def _plain(value: object) -> object:
    """A cell no table program takes for a formula."""
    return f"'{value}" if isinstance(value, str) and value[:1] in "=+-@\t\r" and value else value


def _csv_row(cells: Iterable[object]) -> str:
    line = io.StringIO()
    csv.writer(line).writerow(cells)
    return line.getvalue()


def json_parts(entries: Iterable[LogEntry]) -> Iterator[str]:
    """The logbook as JSON, entry by entry."""
    yield f'{{"written_as": "{WRITTEN_AS}", "takes": ['
    for place, entry in enumerate(entries):
        yield ("" if place == 0 else ",") + "\n" + json.dumps(vars(entry), ensure_ascii=False)
    yield "\n]}\n"


def sidecars_zip(entries: Iterable[LogEntry]) -> bytes:
    """A sidecar for every take, named after its file, in one archive."""
    packed, named = io.BytesIO(), set()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for entry in entries:
            name = f"{PurePath(entry.file_name).stem}.xmp"
            if name in named:  # two phones count their pictures alike
                name = f"{PurePath(entry.file_name).stem}-{entry.sha256[:8]}.xmp"
            if name not in named:
                named.add(name)
                archive.writestr(name, write_sidecar(_sidecar(entry)))
    return packed.getvalue()


def _sidecar(entry: LogEntry) -> Sidecar:
    rating = REJECTED if entry.state == "rejected" else entry.rating
    return Sidecar(
        entry.sha256,
        rating,
        entry.note,
        keywords=_words(entry.keywords),
        title=entry.sheet_title,
        why=entry.why,
    )


def _words(keywords: str) -> tuple[str, ...]:
    return tuple(word.strip() for word in keywords.split(",") if word.strip())


def import_logbook(folder: Path, source: Path) -> dict[str, Any]:
    """Import a logbook file into the library of a folder, reporting progress; for a worker."""
    return vars(take_in_logbook(Library(folder), source, tell=ProgressReporter(source).tell))


def take_in_logbook(
    library: Library, source: Path, *, tell: Callable[[int, int], None] = lambda _done, _all: None
) -> Taken:
    """Import what another logbook, or another program's sidecars, say of pictures kept here.

    Nothing is added: facts of a picture are added to its takes. BadInput for what is neither;
    what came before a broken entry is kept. `tell` hears how much of all is done.
    """
    done = Taken()
    judgements = _judgements(source)
    while some := list(islice(judgements, AT_ONCE)):
        # Others may write between: a logbook of years would keep them waiting for a minute.
        with library.writer() as connection:
            for _, judged in some:
                _judge(connection, judged, done)
        tell(*some[-1][0])
    return done


def _judge(connection: sqlite3.Connection, judged: tuple[str, Judgement], done: Taken) -> None:
    sha256, judgement = judged
    takes = takes_with_picture(connection, sha256)
    done.unknown += not takes
    for take in takes:
        if _says_nothing_new(judgement, take):
            done.same += 1
            continue
        judge_take(connection, take.id, judgement)
        done.changed += 1


def _says_nothing_new(judgement: Judgement, shot: Take) -> bool:
    """Whether every stated fact is so already, but for what a sidecar cannot carry."""
    if judgement.keywords is not None and _words(in_xml(shot.keywords)) != _words(
        judgement.keywords
    ):
        return False
    texts = (judgement.note, shot.note), (judgement.why, shot.why)
    if any(
        reported is not None and reported not in (kept, in_xml(kept)) for reported, kept in texts
    ):
        return False
    return judgement.state in (None, shot.state) and judgement.rating in (None, shot.rating)


Judged = tuple[tuple[int, int], tuple[str, Judgement]]
"""How much of all was read by then, and the facts about the picture with that content."""


def _judgements(source: Path) -> Iterator[Judged]:
    with source.open("rb") as file:
        begin = file.read(64)
    if begin[:2] == b"PK":
        yield from _packed_sidecars(source)
        return
    text = source.read_bytes().decode("utf-8", "replace")
    if begin.lstrip()[:1] == b"{":
        yield from _of_json(text)
    else:
        yield (1, 1), _of_sidecar(read_sidecar(text))


def _packed_sidecars(source: Path) -> Iterator[Judged]:
    left_bytes = MOST_UNPACKED_BYTES
    try:
        with zipfile.ZipFile(source) as archive:
            entries = archive.infolist()[:MOST_SIDECARS]
            for number, info in enumerate(entries):
                if not info.filename.endswith(".xmp") or info.file_size > SIDECAR_BYTES:
                    continue
                text = unpacked(archive, info, most_bytes=min(SIDECAR_BYTES, left_bytes))
                left_bytes -= len(text)
                try:
                    sidecar_read = read_sidecar(text.decode("utf-8", "replace"))
                except OxlenError:  # a sidecar of a picture from elsewhere
                    continue
                yield (number + 1, len(entries)), _of_sidecar(sidecar_read)
    except DAMAGED_ZIP as error:
        raise BadInput("This archive of sidecars cannot be read.", "file") from error


def _of_sidecar(sidecar: Sidecar) -> tuple[str, Judgement]:
    judgement = Judgement(
        note=sidecar.note[:1000],
        keywords=", ".join(sidecar.keywords)[:500],
        why=sidecar.why and sidecar.why[:500],
    )
    if sidecar.rating == REJECTED:
        return sidecar.sha256, replace(judgement, state="rejected")
    return sidecar.sha256, replace(judgement, rating=sidecar.rating)


def _of_json(text: str) -> Iterator[Judged]:
    """Looked through whole before anything is kept of it, then take by take."""
    takes = JsonList(text, "takes", what="The logbook")
    whole = 0
    for place, entry in enumerate(takes):
        _checked(entry, place)
        whole = place + 1
    if takes.others.get("written_as") != WRITTEN_AS:
        raise BadInput(f"This is not a logbook: its format is not {WRITTEN_AS}.", "written_as")
    for place, entry in enumerate(JsonList(text, "takes", what="The logbook")):
        yield (place + 1, whole), _checked(entry, place)


def _checked(entry: object, place: int) -> tuple[str, Judgement]:
    """A take of a JSON logbook; BadInput, which names its place, where a field makes no sense."""
    if not isinstance(entry, dict) or not isinstance(entry.get("sha256"), str):
        raise BadInput(f"Take {place + 1} of the logbook has no picture.", "takes")
    state, rating = entry.get("state"), entry.get("rating", 0)
    if state not in ("new", "kept", "rejected") or rating not in range(6):
        raise BadInput(f"Take {place + 1} has a state or rating that is not valid.", "takes")
    words = {name: str(entry.get(name) or "") for name in ("note", "keywords", "why")}
    if not all(_is_text(word) for word in (entry["sha256"], *words.values())):
        raise BadInput(f"Take {place + 1} has characters that are not text.", "takes")
    return entry["sha256"], Judgement(state, rating=int(rating), **words)


def _is_text(word: str) -> bool:
    """Whether it can be written down: half of a pair of surrogates cannot."""
    return HALF_A_PAIR.search(word) is None
