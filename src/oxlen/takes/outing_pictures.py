"""The zip of an outing file: its list of contents, and the pictures in it."""

from __future__ import annotations

import json
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from pydantic import ValidationError

from oxlen.core.errors import ArchiveError, PictureError
from oxlen.formats.outing.file import CONTENTS, PICTURES, OutingFile
from oxlen.formats.unpacking import unpacked, unpacked_blocks
from oxlen.pictures.container import MAX_FILE_BYTES
from oxlen.store.library import Library
from oxlen.store.pictures import KeptPicture, add_picture, is_kept_picture, original_of
from oxlen.takes.importing import read_incoming

CONTENTS_BYTES = 60_000_000
MOST_FILES = 50_000
NOT_WHOLE = "This is not a complete outing file. Nothing was imported."
DAMAGED = (zipfile.BadZipFile, zlib.error, EOFError, RuntimeError)
"""What the zip reader raises at a damaged entry."""


@contextmanager
def opened_outing(source: Path) -> Iterator[zipfile.ZipFile]:
    """The zip of an outing file; ArchiveError where it is none."""
    try:
        archive = zipfile.ZipFile(source)
    except (*DAMAGED, ValueError) as error:
        raise ArchiveError(NOT_WHOLE) from error
    with archive:
        yield archive


def contents_of(archive: zipfile.ZipFile) -> OutingFile:
    """The list of an outing file. ArchiveError where it has none that can be read."""
    if len(archive.infolist()) > MOST_FILES:
        raise ArchiveError("This outing file has more files than Oxlen imports at once.")
    try:
        text = unpacked(archive, archive.getinfo(CONTENTS), most_bytes=CONTENTS_BYTES)
        return OutingFile.model_validate_json(text)
    except KeyError as error:
        raise ArchiveError(f"This is not an outing file: it has no {CONTENTS}.") from error
    except DAMAGED as error:
        raise ArchiveError(NOT_WHOLE) from error
    except ValidationError as error:
        raise ArchiveError(
            "This outing file comes from another version of Oxlen, or was changed. Nothing was "
            "imported."
        ) from error


def originals_kept(library: Library, contents: OutingFile) -> OutingFile:
    """The contents with the originals kept here instead of copies made from them."""
    known: dict[str, str] = {}
    with library.reader() as connection:
        for sha256 in contents.pictures:
            original = contents.cleaned.get(sha256) or original_of(connection, sha256)
            if original and original != sha256 and is_kept_picture(connection, original):
                known[sha256] = original
    if not known:
        return contents
    text = contents.model_copy(update={"cleaned": {}}).model_dump_json()
    for clean, original in known.items():
        text = text.replace(clean, original)
    return OutingFile.model_validate_json(text)


def import_picture(
    library: Library, archive: zipfile.ZipFile, picture: tuple[str, str], *, now: str
) -> tuple[bool, str]:
    """Import a picture, by content hash and name: whether it is new here, and what went wrong."""
    sha256, name = picture
    with library.reader() as connection:
        if is_kept_picture(connection, sha256):
            return False, ""
    try:
        with library.incoming() as incoming:
            _unpack(archive, sha256, incoming)
            _keep_picture(library, incoming, picture, now=now)
    except KeyError:
        return False, f"{name} is not in the file."
    except (PictureError, ArchiveError) as error:
        return False, error.message
    except DAMAGED:
        return False, f"{name} is damaged in the file; it was left out."
    return True, ""


def _keep_picture(library: Library, incoming: Path, picture: tuple[str, str], *, now: str) -> None:
    sha256, name = picture
    found = read_incoming(library, incoming, name)
    if found.sha256 != sha256:
        raise PictureError(name, "its content is not what the outing file says.")
    size = incoming.stat().st_size
    library.keep_picture(incoming, sha256)
    with library.writer() as connection:
        report = json.dumps(found.report)
        add_picture(connection, KeptPicture(sha256, name, size, report=report, imported_at=now))


def _unpack(archive: zipfile.ZipFile, sha256: str, target: Path) -> None:
    info = archive.getinfo(f"{PICTURES}/{sha256}")
    with target.open("wb") as file:
        for block in unpacked_blocks(archive, info, most_bytes=MAX_FILE_BYTES):
            file.write(block)
