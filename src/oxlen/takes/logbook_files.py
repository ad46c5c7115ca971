"""The logbook as files: CSV, JSON and XMP sidecars out, JSON and sidecars in again."""

from __future__ import annotations

import csv
import io
import json
import sqlite3
import zipfile
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from pathlib import PurePath

from oxlen.core.errors import BadInput, OxlenError
from oxlen.formats.json_text import parse_json
from oxlen.formats.xmp_sidecar import REJECTED, Sidecar, in_xml, read_sidecar, write_sidecar
from oxlen.store.logbook import LogEntry
from oxlen.store.takes import Judgement, Take, change_take, takes_with_picture

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


@dataclass
class Taken:
    """What came of files of a logbook: takes changed, takes as they were, and what is not here."""

    changed: int = 0
    same: int = 0
    unknown: int = 0


def csv_lines(entries: Iterable[LogEntry]) -> Iterator[str]:
    """The logbook as CSV, line by line, its header first."""
    yield _csv_row(COLUMNS)
    for one in entries:
        yield _csv_row([_plain(getattr(one, name)) for name in COLUMNS])


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
    for place, one in enumerate(entries):
        yield ("" if place == 0 else ",") + "\n" + json.dumps(vars(one), ensure_ascii=False)
    yield "\n]}\n"


def sidecars_zip(entries: Iterable[LogEntry]) -> bytes:
    """A sidecar for every take, named after its file, in one archive."""
    packed, named = io.BytesIO(), set()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for one in entries:
            name = f"{PurePath(one.file_name).stem}.xmp"
            if name in named:  # two phones count their pictures alike
                name = f"{PurePath(one.file_name).stem}-{one.sha256[:8]}.xmp"
            if name not in named:
                named.add(name)
                archive.writestr(name, write_sidecar(_sidecar(one)))
    return packed.getvalue()


def _sidecar(one: LogEntry) -> Sidecar:
    rating = REJECTED if one.state == "rejected" else one.rating
    return Sidecar(
        one.sha256,
        rating,
        one.note,
        keywords=_words(one.keywords),
        title=one.sheet_title,
        why=one.why,
    )


def _words(keywords: str) -> tuple[str, ...]:
    return tuple(word.strip() for word in keywords.split(",") if word.strip())


def take_in_logbook(connection: sqlite3.Connection, content: bytes) -> Taken:
    """Take in what another logbook, or another program's sidecars, say of pictures kept here.

    Nothing is added: what is said of a picture is put to its takes. BadInput for what is neither.
    """
    done = Taken()
    for sha256, said in _judgements(content):
        takes = takes_with_picture(connection, sha256)
        done.unknown += not takes
        for one in takes:
            if _says_nothing_new(said, one):
                done.same += 1
                continue
            change_take(connection, one.id, said)
            done.changed += 1
    return done


def _says_nothing_new(said: Judgement, one: Take) -> bool:
    """Whether all that is said is so already, but for what a sidecar cannot carry."""
    if said.keywords is not None and _words(in_xml(one.keywords)) != _words(said.keywords):
        return False
    texts = (said.note, one.note), (said.why, one.why)
    if any(told is not None and told not in (kept, in_xml(kept)) for told, kept in texts):
        return False
    return said.state in (None, one.state) and said.rating in (None, one.rating)


def _judgements(content: bytes) -> Iterator[tuple[str, Judgement]]:
    if content[:2] == b"PK":
        yield from (_of_sidecar(one) for one in _packed_sidecars(content))
    elif content.lstrip()[:1] == b"{":
        yield from _of_json(content)
    else:
        yield _of_sidecar(read_sidecar(content.decode("utf-8", "replace")))


def _packed_sidecars(content: bytes) -> Iterator[Sidecar]:
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            for info in archive.infolist()[:MOST_SIDECARS]:
                if not info.filename.endswith(".xmp") or info.file_size > 1_000_000:
                    continue
                try:
                    yield read_sidecar(archive.read(info).decode("utf-8", "replace"))
                except OxlenError:  # a sidecar of a picture from elsewhere
                    continue
    except (zipfile.BadZipFile, EOFError, ValueError, RuntimeError, OSError) as error:
        raise BadInput("This archive of sidecars cannot be read.", "file") from error


def _of_sidecar(one: Sidecar) -> tuple[str, Judgement]:
    said = Judgement(
        note=one.note[:1000], keywords=", ".join(one.keywords)[:500], why=one.why and one.why[:500]
    )
    if one.rating == REJECTED:
        return one.sha256, replace(said, state="rejected")
    return one.sha256, replace(said, rating=one.rating)


def _of_json(content: bytes) -> Iterator[tuple[str, Judgement]]:
    told = parse_json(content.decode("utf-8", "replace"), "The logbook")
    takes = told.get("takes") if isinstance(told, dict) else None
    if not isinstance(takes, list) or told.get("written_as") != WRITTEN_AS:
        raise BadInput(f"This is no logbook: it is not written as {WRITTEN_AS}.", "written_as")
    for place, one in enumerate(takes):
        yield _checked(one, place)


def _checked(one: object, place: int) -> tuple[str, Judgement]:
    """A take of a JSON logbook; BadInput, which names its place, where a field makes no sense."""
    if not isinstance(one, dict) or not isinstance(one.get("sha256"), str):
        raise BadInput(f"Take {place + 1} of the logbook names no picture.", "takes")
    state, rating = one.get("state"), one.get("rating", 0)
    if state not in ("new", "kept", "rejected") or rating not in range(6):
        raise BadInput(f"Take {place + 1} has a state or rating that makes no sense.", "takes")
    words = {name: str(one.get(name) or "") for name in ("note", "keywords", "why")}
    if not all(_is_text(word) for word in (one["sha256"], *words.values())):
        raise BadInput(f"Take {place + 1} has characters that are no text.", "takes")
    return one["sha256"], Judgement(state, rating=int(rating), **words)


def _is_text(word: str) -> bool:
    """Whether it can be written down: half of a pair of surrogates cannot."""
    return not any("\ud800" <= sign <= "\udfff" for sign in word)
