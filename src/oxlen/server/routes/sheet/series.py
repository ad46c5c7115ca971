"""Series: sheets shot alike, with one slip that the leading sheet sets."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter
from pydantic import AfterValidator, BaseModel, Field, WithJsonSchema

from oxlen.core import decisions
from oxlen.core.errors import BadInput, UnreadableSheet
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Id, Strict, Title
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.sheet.sheets import view
from oxlen.store.pictures import tie_picture
from oxlen.store.series import (
    NewSeries,
    Series,
    add_series,
    change_series,
    end_series,
    join_series,
    leave_series,
    series,
    series_of_sheet,
)
from oxlen.store.sheets import Sheet, add_sheet, edit_sheet, sheet
from oxlen.views.series import (
    changed_parts,
    part_names,
    pattern_of,
    read_pattern,
    with_locked,
)
from oxlen.views.summary import summary_of

router = APIRouter(prefix="/api", tags=["series"], dependencies=[FOR_PHONES])
MOST_AT_ONCE = 100
PARTS = [part.id for part in decisions.series_parts()]


def _known(part: str) -> str:
    if part not in PARTS:
        raise ValueError(f"a part is one of {', '.join(PARTS)}")
    return part


Locked = Annotated[str, AfterValidator(_known), WithJsonSchema({"type": "string", "enum": PARTS})]
LockedParts = Annotated[list[Locked], Field(min_length=1, max_length=len(PARTS))]


class Members(Strict):
    """Sheets for a series: titles of new ones, and those of the outing that join it."""

    new_titles: Annotated[list[Title], Field(max_length=MOST_AT_ONCE)] = []  # noqa: RUF012
    sheets: Annotated[list[Id], Field(max_length=MOST_AT_ONCE)] = []  # noqa: RUF012


class SeriesStart(Members):
    """A series to start from a sheet: its title, its other sheets, and what is locked."""

    title: Title
    locked: LockedParts = PARTS


class SeriesChange(Strict):
    """What changes of a series; whatever is not named stays."""

    title: Title | None = None
    locked: LockedParts | None = None


class SeriesSheet(BaseModel):
    """A sheet of a series; `changed` names locked parts in which it is not as the series."""

    id: int
    title: str
    state: str
    leads: bool
    changed: list[str]


class SeriesView(BaseModel):
    """A series, its sheets with the leading one first, and the names of what is locked."""

    id: int
    title: str
    lead_id: int
    locked: list[str]
    locked_names: list[str]
    sheets: list[SeriesSheet]


@router.post("/sheets/{sheet_id}/series", status_code=201)
def start_series(sheet_id: RowId, asked: SeriesStart, context: Shared) -> SeriesView:
    """Start a series that this sheet leads; sheets that join keep the rest of their own."""
    if not asked.new_titles and not asked.sheets:
        raise BadInput("Name at least one more picture for the series.", "new_titles")
    pattern = _pattern(context, sheet_id)
    with context.library.writer() as connection:
        lead = sheet(connection, sheet_id)
        if series_of_sheet(connection, sheet_id) is not None:
            raise BadInput("This sheet is in a series already.", "sheet")
        new = NewSeries(
            sheet_id, asked.title, locked=asked.locked, pattern=pattern.model_dump_json()
        )
        started = add_series(connection, lead.outing_id, new, now=context.now())
        _take_members(connection, started, asked, now=context.now())
        return _series_view(connection, series(connection, started.id))


@router.get("/series/{series_id}")
def one_series(series_id: RowId, context: Shared) -> SeriesView:
    """A series and its sheets."""
    with context.library.reader() as connection:
        return _series_view(connection, series(connection, series_id))


@router.patch("/series/{series_id}")
def edit_series(series_id: RowId, change: SeriesChange, context: Shared) -> SeriesView:
    """Another title, or other parts locked; what is newly locked is carried over."""
    with context.library.writer() as connection:
        known = series(connection, series_id)
        changed = replace(
            known,
            title=change.title or known.title,
            locked=tuple(change.locked or known.locked),
        )
        change_series(connection, changed, now=context.now())
        if changed.locked != known.locked:
            _carry_over(connection, changed, changed.sheet_ids, now=context.now())
        return _series_view(connection, series(connection, series_id))


@router.post("/series/{series_id}/sheets", status_code=201)
def add_to_series(series_id: RowId, asked: Members, context: Shared) -> SeriesView:
    """More sheets for a series."""
    with context.library.writer() as connection:
        _take_members(connection, series(connection, series_id), asked, now=context.now())
        return _series_view(connection, series(connection, series_id))


@router.post("/series/{series_id}/slip")
def use_slip_for_series(series_id: RowId, context: Shared) -> SeriesView:
    """Lock the leading sheet's slip of now over the others, as one edit of each."""
    with context.library.reader() as connection:
        lead_id = series(connection, series_id).lead_id
    pattern = _pattern(context, lead_id)
    with context.library.writer() as connection:
        changed = replace(series(connection, series_id), pattern=pattern.model_dump_json())
        change_series(connection, changed, now=context.now())
        _carry_over(connection, changed, changed.sheet_ids, now=context.now())
        return _series_view(connection, changed)


@router.post("/sheets/{sheet_id}/series/again", status_code=201)
def use_series_settings(sheet_id: RowId, context: Shared) -> SeriesView:
    """Lock the series' slip over one of its sheets again."""
    with context.library.writer() as connection:
        known = _series_of(connection, sheet_id)
        _carry_over(connection, known, [sheet_id], now=context.now())
        return _series_view(connection, known)


@router.delete("/sheets/{sheet_id}/series")
def leave(sheet_id: RowId, context: Shared) -> SeriesView:
    """Take a sheet out of its series; it keeps the settings it has."""
    with context.library.writer() as connection:
        known = _series_of(connection, sheet_id)
        if known.lead_id == sheet_id:
            raise BadInput("This sheet leads the series. End the series instead.", "sheet")
        leave_series(connection, sheet_id)
        return _series_view(connection, series(connection, known.id))


@router.delete("/series/{series_id}", status_code=204)
def end(series_id: RowId, context: Shared) -> None:
    """End a series; its sheets keep the settings they have."""
    with context.library.writer() as connection:
        end_series(connection, series_id)


def _pattern(context: Context, sheet_id: int) -> SheetBody:
    lead = view(context, sheet_id)
    plan = lead.answer.plan
    if plan is None or plan.slip is None:
        raise BadInput("This sheet has no slip yet.", "sheet")
    return pattern_of(lead.body, plan.slip)


def _series_of(connection: sqlite3.Connection, sheet_id: int) -> Series:
    sheet(connection, sheet_id)
    found = series_of_sheet(connection, sheet_id)
    if found is None:
        raise BadInput("This sheet is in no series.", "sheet")
    return found


def _take_members(
    connection: sqlite3.Connection, known: Series, asked: Members, *, now: str
) -> None:
    """New sheets are copies of the leading one: they are shot in the same light."""
    lead = read_sheet(sheet(connection, known.lead_id).body)
    pattern, made = read_sheet(known.pattern), []
    for title in asked.new_titles:
        body = with_locked(lead, pattern, known.locked)
        body = body.model_copy(update={"title": title, "state": "planned"})
        made.append(add_sheet(connection, known.outing_id, body.model_dump_json(), now=now))
        if body.picture is not None:
            tie_picture(connection, made[-1], body.picture)
    joining = [sheet_id for sheet_id in dict.fromkeys(asked.sheets) if sheet_id != known.lead_id]
    for sheet_id in joining:
        if sheet(connection, sheet_id).outing_id != known.outing_id:
            raise BadInput("A series belongs to one outing. That sheet is in another.", "sheets")
        other = series_of_sheet(connection, sheet_id)
        if other is not None and other.lead_id == sheet_id:
            raise BadInput("That sheet leads another series.", "sheets")
    join_series(connection, known.id, [*made, *joining])
    _carry_over(connection, known, joining, now=now)


def _carry_over(
    connection: sqlite3.Connection, known: Series, sheet_ids: Sequence[int], *, now: str
) -> None:
    """The locked parts on sheets that have others, as one edit of each, which can be undone."""
    pattern = read_sheet(known.pattern)
    for sheet_id in sheet_ids:
        kept = sheet(connection, sheet_id)
        if sheet_id == known.lead_id or not _differs(kept, known, pattern):
            continue
        body = read_sheet(kept.body)
        edit_sheet(
            connection,
            sheet_id,
            body=with_locked(body, pattern, known.locked).model_dump_json(),
            label=f"settings of “{known.title[:50]}”",
            from_version=kept.version,
            now=now,
        )


def _series_view(connection: sqlite3.Connection, known: Series) -> SeriesView:
    pattern = read_pattern(known)
    sheets = [sheet(connection, sheet_id) for sheet_id in known.sheet_ids]
    return SeriesView(
        id=known.id,
        title=known.title,
        lead_id=known.lead_id,
        locked=list(known.locked),
        locked_names=part_names(known.locked),
        sheets=[_member(kept, known, pattern) for kept in sheets],
    )


def _member(kept: Sheet, known: Series, pattern: SheetBody | None) -> SeriesSheet:
    listed, leads = summary_of(kept), kept.id == known.lead_id
    changed = [] if leads or pattern is None else _differs(kept, known, pattern)
    return SeriesSheet(
        id=kept.id,
        title=listed.title,
        state=listed.state,
        leads=leads,
        changed=part_names(changed),
    )


def _differs(kept: Sheet, known: Series, pattern: SheetBody) -> list[str]:
    """Locked parts in which a sheet differs; none of a damaged one, which cannot be edited."""
    try:
        return changed_parts(read_sheet(kept.body), pattern, known.locked)
    except UnreadableSheet:
        return []
