"""An outing from another Oxlen imported: what is here already is not doubled."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from oxlen.formats.outing.file import (
    CarriedPlan,
    CarriedSeries,
    CarriedSheet,
    CarriedTake,
    OutingFile,
)
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.store.kit.phones import keep_profile, kept_profiles
from oxlen.store.library import Library
from oxlen.store.long_work import ProgressReporter
from oxlen.store.outings import add_outing, outing_of_uid
from oxlen.store.pictures import is_kept_picture, tie_picture
from oxlen.store.series import (
    NewSeries,
    add_series,
    join_series,
    series_of_sheet,
    series_of_uid,
)
from oxlen.store.sheets import Sheet, add_sheet, edit_sheet, sheet, sheet_of_uid
from oxlen.store.takes import (
    Judgement,
    NewTake,
    add_plan,
    add_sequence,
    add_take,
    change_take,
    takes_of,
)
from oxlen.takes.outing_checked import sound_parts
from oxlen.takes.outing_pictures import contents_of, import_picture, opened_outing, originals_kept

EDIT_LABEL = "came with an outing file"
NOT_CLEANED = "was not exported: its place and serial number could not be removed."


def _no_progress(_done: int, _whole: int) -> None:
    """Nobody asks how far it is."""


@dataclass
class TakenIn:
    """What came of an outing file: what is new, what was changed, and the notes."""

    outing_id: int = 0
    new_outing: bool = False
    new_sheets: int = 0
    changed_sheets: int = 0
    same_sheets: int = 0
    new_pictures: int = 0
    new_takes: int = 0
    notes: list[str] = field(default_factory=list)


def import_outing(folder: Path, source: Path, *, now: str) -> dict[str, Any]:
    """Import an outing file into the library of a folder, reporting progress; for a worker."""
    return vars(
        take_in_outing(Library(folder), source, now=now, tell=ProgressReporter(source).tell)
    )


def take_in_outing(
    library: Library, source: Path, *, now: str, tell: Callable[[int, int], None] = _no_progress
) -> TakenIn:
    """Import an outing file; the second import changes nothing.

    A sheet that is here in an older state gets the newer one as an edit, which can be undone; one
    that is here in a newer state stays as it is. ArchiveError when it is no such file; a picture
    or another part that cannot be read is left out and named. `tell` hears how many of all
    pictures are done. OSError where the disk is full.
    """
    done = TakenIn()
    with opened_outing(source) as archive:
        contents, done.notes = sound_parts(originals_kept(library, contents_of(archive)))
        done.notes += [f"{name} {NOT_CLEANED}" for name in contents.left_out]
        for number, (sha256, name) in enumerate(contents.pictures.items()):
            tell(number, len(contents.pictures))
            is_new, trouble = import_picture(library, archive, (sha256, name), now=now)
            done.new_pictures += is_new
            done.notes += [trouble] if trouble else []
    with library.writer() as connection:
        _keep_phones(connection, contents, now=now, done=done)
        _keep_outing(connection, contents, now=now, done=done)
        for carried in contents.sheets:
            _keep_sheet(connection, carried, now=now, done=done)
        for series in contents.series:
            _keep_series(connection, series, done.outing_id, now=now)
    return done


def _keep_phones(
    connection: sqlite3.Connection, contents: OutingFile, *, now: str, done: TakenIn
) -> None:
    own = kept_profiles(connection)
    for carried in contents.phones:
        profile = PhoneProfile.model_validate(carried)
        if profile.id not in own:
            keep_profile(connection, profile, now)
        elif own[profile.id] != profile:
            done.notes.append(f"{profile.name} differs here; your own figures stay.")


def _keep_outing(
    connection: sqlite3.Connection, contents: OutingFile, *, now: str, done: TakenIn
) -> None:
    facts = contents.outing
    known = outing_of_uid(connection, facts.uid)
    if known is None:
        done.new_outing = True
        done.outing_id = add_outing(connection, now=now, **facts.model_dump())
        return
    done.outing_id = known.id
    if known.deleted_at is not None:
        done.notes.append(f"“{known.title}” is in the bin here. Restore it to see it.")


def _keep_sheet(
    connection: sqlite3.Connection, carried: CarriedSheet, *, now: str, done: TakenIn
) -> None:
    body = read_sheet(json.dumps(carried.body))
    if body.picture is not None and not is_kept_picture(connection, body.picture):
        body = body.model_copy(update={"picture": None})
    known = sheet_of_uid(connection, carried.uid)
    if known is None:
        text = body.model_dump_json()
        sheet_id = add_sheet(connection, done.outing_id, text, now=now, uid=carried.uid)
        done.new_sheets += 1
    else:
        sheet_id = known.id
        _meet(connection, known, (carried, body), now=now, done=done)
    if body.picture is not None:
        tie_picture(connection, sheet_id, body.picture)
    _keep_takes(connection, sheet(connection, sheet_id), carried, now=now, done=done)


def _keep_series(
    connection: sqlite3.Connection, carried: CarriedSeries, outing_id: int, *, now: str
) -> None:
    """A series that is not here yet; sheets that are in another stay there."""
    lead = sheet_of_uid(connection, carried.lead)
    if lead is None or series_of_uid(connection, carried.uid) is not None:
        return
    if series_of_sheet(connection, lead.id) is not None:
        return
    pattern = read_sheet(json.dumps(carried.pattern)).model_dump_json()
    new = NewSeries(lead.id, carried.title, locked=carried.locked, pattern=pattern, uid=carried.uid)
    made = add_series(connection, outing_id, new, now=now)
    known = [sheet_of_uid(connection, uid) for uid in carried.sheets]
    free = [
        kept_sheet.id
        for kept_sheet in known
        if kept_sheet and series_of_sheet(connection, kept_sheet.id) is None
    ]
    join_series(connection, made.id, free)


def _meet(
    connection: sqlite3.Connection,
    known: Sheet,
    came: tuple[CarriedSheet, SheetBody],
    *,
    now: str,
    done: TakenIn,
) -> None:
    """A sheet that is here already: the newer state holds."""
    carried, body = came
    here = read_sheet(known.body)
    if here == body:
        done.same_sheets += 1
    elif carried.changed_at > known.changed_at:
        edit_sheet(
            connection,
            known.id,
            body=body.model_dump_json(),
            label=EDIT_LABEL,
            from_version=known.version,
            now=now,
        )
        done.changed_sheets += 1
    else:
        done.same_sheets += 1
        done.notes.append(f"“{here.title}” was changed here later and stays unchanged.")
    if known.deleted_at is not None:
        done.notes.append(f"“{here.title}” is in the bin here.")


def _keep_takes(
    connection: sqlite3.Connection, kept: Sheet, carried: CarriedSheet, *, now: str, done: TakenIn
) -> None:
    known = {take.sha256 for take in takes_of(connection, kept.id)}
    new = [
        take
        for take in carried.takes
        if take.sha256 not in known and is_kept_picture(connection, take.sha256)
    ]
    plans: dict[int, tuple[int, int | None]] = {}
    for place in sorted(
        {carried_take.plan for carried_take in new if carried_take.plan is not None}
    ):
        if place < len(carried.plans):
            plans[place] = _keep_plan(connection, kept, carried.plans[place], now=now)
    for carried_take in new:
        by, sequence = plans.get(
            -1 if carried_take.plan is None else carried_take.plan, (None, None)
        )
        number = add_take(
            connection, _new_take(connection, kept.id, carried_take, by=(by, sequence)), now
        )
        judgement = Judgement(
            carried_take.state,
            carried_take.note,
            carried_take.rating,
            keywords=carried_take.keywords,
            why=carried_take.why,
        )
        change_take(connection, number, judgement)
        tie_picture(connection, kept.id, carried_take.sha256)
    done.new_takes += len(new)


def _keep_plan(
    connection: sqlite3.Connection, kept: Sheet, carried: CarriedPlan, *, now: str
) -> tuple[int, int | None]:
    plan_id = add_plan(
        connection,
        sheet_id=kept.id,
        sheet_version=kept.version,
        plan=json.dumps(carried.plan),
        now=now,
    )
    if carried.frames is None:
        return plan_id, None
    return plan_id, add_sequence(connection, plan_id=plan_id, frames=carried.frames, now=now)


def _new_take(
    connection: sqlite3.Connection,
    sheet_id: int,
    carried: CarriedTake,
    *,
    by: tuple[int | None, int | None],
) -> NewTake:
    plan_id, sequence_id = by
    raw = carried.raw_sha256
    return NewTake(
        sheet_id,
        carried.shot_on,
        carried.sha256,
        settings=json.dumps(carried.settings),
        taken_at=carried.taken_at,
        glass_stops=carried.glass_stops,
        raw_sha256=raw if raw is not None and is_kept_picture(connection, raw) else None,
        plan_id=plan_id,
        sequence_id=sequence_id,
        sequence_place=None if sequence_id is None else carried.frame,
    )
