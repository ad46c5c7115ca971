"""Taking pictures in: hash, read, preview, keep, and tie to a sheet, all or nothing."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from oxlen.core.errors import PixelsUnreadable
from oxlen.formats.kinds_of_picture import kind_of_picture
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.formats.picture_report import PictureReport
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.phones.resolve_phone import phone_that_took
from oxlen.pictures.opening import Picture, open_picture
from oxlen.pictures.reading import read_open_picture
from oxlen.pictures.report import reading_report
from oxlen.store.deliveries import delivered_to, note_delivery
from oxlen.store.kit.phones import kept_profiles, usual_phone_id
from oxlen.store.library import Library
from oxlen.store.pictures import KeptPicture, add_picture, kept_picture, tie_picture
from oxlen.store.sheets import add_sheet, edit_sheet, sheet
from oxlen.store.takes import NewTake, add_take, pair_raw

BLOCK_BYTES = 1 << 20
PREVIEW_QUALITY = 88

Attach = Callable[[Any, str, dict[str, Any]], int | None]
"""Ties a kept picture to a sheet: connection, SHA-256 and report in, the sheet's id out.

None for one that belongs to no sheet yet.
"""


@dataclass(frozen=True)
class ReadFile:
    """What was read of an incoming file: its content hash and its report."""

    sha256: str
    report: dict[str, Any]


Reader = Callable[[Library, Path, str], ReadFile]
"""Reads an incoming file of a library by its path and name, and makes its preview."""


@dataclass(frozen=True)
class ImportedPicture:
    """A picture imported: its content hash, the sheet that shows it if any, and what was noted."""

    sha256: str
    sheet_id: int | None
    notes: tuple[str, ...]


def read_incoming(library: Library, incoming: Path, name: str) -> ReadFile:
    """Read an incoming file and make its preview. PictureError when it is no use."""
    sha256 = file_sha256(incoming)
    with open_picture(incoming, name) as picture:
        report = reading_report(read_open_picture(picture))
        write_preview(library, picture, sha256)
    return ReadFile(sha256, report)


def take_in(
    library: Library,
    incoming: Path,
    name: str,
    *,
    now: str,
    attach: Attach,
    read: Reader = read_incoming,
) -> ImportedPicture:
    """Keep an incoming file and attach it to a sheet in the same transaction.

    `read` may do its work in another process. Raises PictureError when the file is no use;
    nothing is kept of it then.
    """
    found = read(library, incoming, name)
    sha256, report = found.sha256, found.report
    size = incoming.stat().st_size
    library.keep_picture(incoming, sha256)
    with library.writer() as connection:
        row = KeptPicture(sha256, name, size, report=json.dumps(report), imported_at=now)
        add_picture(connection, row)
        sheet_id = attach(connection, sha256, report)
        if sheet_id is not None:
            tie_picture(connection, sheet_id, sha256)
    return ImportedPicture(sha256, sheet_id, tuple(report["notes"]))


def onto_new_sheet(outing_id: int, name: str, phone: str | None, *, now: str) -> Attach:
    """Attach to a new sheet of an outing, titled after the file.

    Without a phone it is the one of the kit that took the picture, else the one in use.
    """

    def attach(connection: Any, sha256: str, report: dict[str, Any]) -> int:
        kit = [*kept_profiles(connection).values(), *shipped_profiles().values()]
        taker = phone_that_took(PictureReport.model_validate(report), kit)
        used = phone or (usual_phone_id(connection) if taker is None else taker.id)
        title = Path(name).stem.replace("_", " ").replace("-", " ").strip()[:120]
        body = SheetBody(title=title or "Untitled sheet", phone=used, picture=sha256)
        return add_sheet(connection, outing_id, body.model_dump_json(), now=now)

    return attach


def onto_sheet(sheet_id: int, now: str) -> Attach:
    """Attach to an existing sheet as the picture it meters; its spots stay where they are."""

    def attach(connection: Any, sha256: str, _report: dict[str, Any]) -> int:
        current = sheet(connection, sheet_id)
        fresh = {"picture": sha256, "by_hand": None, "picture_glass_stops": 0.0}
        changed = read_sheet(current.body).model_copy(update=fresh)
        edit_sheet(
            connection,
            sheet_id,
            body=changed.model_dump_json(),
            label="picture",
            from_version=current.version,
            now=now,
        )
        return sheet_id

    return attach


def once(attach: Attach, mark: str | None, *, now: str) -> Attach:
    """The same, but done once under a mark: sent again it leads to the sheet of the first time."""

    def attach_once(connection: Any, sha256: str, report: dict[str, Any]) -> int | None:
        sheet_id = delivered_to(connection, mark)
        if sheet_id is not None:
            return sheet_id
        sheet_id = attach(connection, sha256, report)
        if sheet_id is not None:
            note_delivery(connection, mark, sheet_id, now=now)
        return sheet_id

    return attach_once


def as_take(about: NewTake, *, now: str, raw_of: str | None = None) -> Attach:
    """Attach as a take of a sheet, which stays as it is; `about` says whose and how it was shot.

    With `raw_of` it is the RAW of a take already kept, named by its processed file.
    """

    def attach(connection: Any, sha256: str, report: dict[str, Any]) -> int:
        if raw_of is not None:
            pair_raw(connection, about.sheet_id, processed_sha256=raw_of, raw_sha256=sha256)
            return about.sheet_id
        body = read_sheet(sheet(connection, about.sheet_id).body)
        found = {
            "settings": json.dumps(report["settings"]),
            "taken_at": report["taken_at"],
            "lens": report["camera"]["lens"] or "",
            "situation": kind_of_picture(body),
        }
        add_take(connection, replace(about, sha256=sha256, **found), now)
        return about.sheet_id

    return attach


def file_sha256(path: Path) -> str:
    """SHA-256 of a file's content, in hexadecimal."""
    digest = hashlib.sha256()
    with path.open("rb") as file:
        while block := file.read(BLOCK_BYTES):
            digest.update(block)
    return digest.hexdigest()


def write_preview(library: Library, picture: Picture, sha256: str) -> bool:
    """Make the screen's copy of an open picture; False when its pixels cannot be shown."""
    try:
        image = picture.preview()
    except PixelsUnreadable:
        return False
    with library.incoming() as unfinished:
        image.save(unfinished, "JPEG", quality=PREVIEW_QUALITY)
        unfinished.replace(library.preview_path(sha256))
    return True


def remake_preview(library: Library, sha256: str) -> bool:
    """Make the preview of a kept picture anew; False when it cannot be shown."""
    with library.reader() as connection:
        kept = kept_picture(connection, sha256)
    if not library.picture_path(sha256).is_file():
        return False
    with open_picture(library.picture_path(sha256), kept.file_name) as picture:
        return write_preview(library, picture, sha256)
