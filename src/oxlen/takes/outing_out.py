"""An outing written as one file, for another Oxlen."""

from __future__ import annotations

import hashlib
import json
import sqlite3
import zipfile
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from oxlen.formats.outing.file import (
    CONTENTS,
    PICTURES,
    CarriedPlan,
    CarriedSeries,
    CarriedSheet,
    CarriedTake,
    OutingFacts,
    OutingFile,
)
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.pictures.without_identity import without_identity
from oxlen.store.kit.phones import kept_profiles
from oxlen.store.library import Library
from oxlen.store.outings import outing
from oxlen.store.pictures import kept_picture, note_clean_copies
from oxlen.store.series import series_of_outing
from oxlen.store.sheets import Sheet, sheets_of
from oxlen.store.takes import Take, plan_of, takes_of


def write_outing(
    library: Library, outing_id: int, target: Path, *, with_identity: bool = False
) -> OutingFile:
    """Write an outing, its sheets, pictures, takes and phones; NotFound when there is none.

    Unless `with_identity`, pictures go as copies without place, names and serial numbers; those
    that cannot be cleaned stay here and are named. The file appears under its name only when it is
    whole. A picture that is missing from the library is left out.
    """
    with library.reader() as connection:
        contents = _contents(connection, outing_id)
    unfinished = target.with_name(target.name + ".unfinished")
    try:
        with zipfile.ZipFile(unfinished, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
            if with_identity:
                _write_originals(library, archive, contents)
            else:
                contents = _write_clean(library, archive, contents)
            archive.writestr(CONTENTS, contents.model_dump_json(indent=1))
        unfinished.replace(target)
    finally:
        unfinished.unlink(missing_ok=True)
    with library.writer() as connection:
        note_clean_copies(connection, contents.cleaned)
    return contents


def _write_originals(library: Library, archive: zipfile.ZipFile, contents: OutingFile) -> None:
    for sha256 in contents.pictures:
        path = library.picture_path(sha256)
        if path.is_file():
            archive.write(path, f"{PICTURES}/{sha256}")


def _write_clean(library: Library, archive: zipfile.ZipFile, contents: OutingFile) -> OutingFile:
    """Write copies without identity; the contents, which name the copies instead."""
    copies: dict[str, str] = {}
    left_out: dict[str, str] = {}
    for sha256, name in contents.pictures.items():
        path = library.picture_path(sha256)
        if not path.is_file():
            continue
        clean = without_identity(path.read_bytes())
        if clean is None:
            left_out[sha256] = name
            continue
        copies[sha256] = hashlib.sha256(clean).hexdigest()
        entry = f"{PICTURES}/{copies[sha256]}"
        if entry not in archive.NameToInfo:
            archive.writestr(entry, clean)
    there = {sha: name for sha, name in contents.pictures.items() if sha not in left_out}
    text = contents.model_copy(update={"pictures": there}).model_dump_json()
    for sha256, clean_sha256 in copies.items():
        text = text.replace(sha256, clean_sha256)
    cleaned = {clean: sha256 for sha256, clean in copies.items() if clean != sha256}
    return OutingFile.model_validate_json(text).model_copy(
        update={"cleaned": cleaned, "left_out": list(left_out.values())}
    )


def _contents(connection: sqlite3.Connection, outing_id: int) -> OutingFile:
    kept = outing(connection, outing_id)
    sheets = [_carried(connection, sheet) for sheet in sheets_of(connection, outing_id)]
    wanted = {str(sheet.body["picture"]) for sheet in sheets if sheet.body.get("picture")}
    for sheet in sheets:
        wanted |= {sha for take in sheet.takes for sha in (take.sha256, take.raw_sha256) if sha}
    own = kept_profiles(connection)
    phones = {sheet.body.get("phone") for sheet in sheets}
    facts = {name: getattr(kept, name) for name in OutingFacts.model_fields}
    return OutingFile(
        outing=OutingFacts(**facts),
        sheets=sheets,
        pictures={sha: kept_picture(connection, sha).file_name for sha in sorted(wanted)},
        phones=[
            profile.model_dump(mode="json")
            for phone, profile in own.items()
            if phone in phones and phone not in shipped_profiles()
        ],
        series=_series(connection, outing_id),
    )


def _series(connection: sqlite3.Connection, outing_id: int) -> list[CarriedSeries]:
    uids = {kept.id: kept.uid for kept in sheets_of(connection, outing_id)}
    return [
        CarriedSeries(
            uid=known.uid,
            title=known.title,
            lead=uids[known.lead_id],
            sheets=[uids[sheet_id] for sheet_id in known.sheet_ids if sheet_id != known.lead_id],
            locked=list(known.locked),
            pattern=json.loads(known.pattern),
        )
        for known in series_of_outing(connection, outing_id)
        if known.lead_id in uids
    ]


def _carried(connection: sqlite3.Connection, sheet: Sheet) -> CarriedSheet:
    body: dict[str, Any] = json.loads(sheet.body)
    takes = takes_of(connection, sheet.id)
    # A sequence has its own entry: another one by the same slip is not part of it.
    used = [(take.plan_id, take.sequence_id) for take in takes if take.plan_id is not None]
    plans = list(dict.fromkeys(used))
    frames = {take.sequence_id: take.sequence_frames for take in takes}
    return CarriedSheet(
        uid=sheet.uid,
        changed_at=sheet.changed_at,
        body=body,
        plans=[
            CarriedPlan(
                plan=json.loads(plan_of(connection, plan_id)),
                frames=None if sequence is None else frames[sequence],
            )
            for plan_id, sequence in plans
            if plan_id is not None
        ],
        takes=[_carried_take(take, plans) for take in takes],
    )


def _carried_take(kept: Take, plans: Sequence[tuple[int | None, int | None]]) -> CarriedTake:
    by = (kept.plan_id, kept.sequence_id)
    return CarriedTake(
        sha256=kept.sha256,
        raw_sha256=kept.raw_sha256,
        shot_on=kept.shot_on,
        settings=json.loads(kept.settings),
        glass_stops=kept.glass_stops,
        state=kept.state,
        note=kept.note,
        rating=kept.rating,
        keywords=kept.keywords,
        why=kept.why,
        taken_at=kept.taken_at,
        plan=plans.index(by) if by in plans else None,
        frame=kept.sequence_place,
    )
