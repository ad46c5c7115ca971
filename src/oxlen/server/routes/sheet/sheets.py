"""Sheets: read, edit, undo, delete, restore; every answer carries what follows from the sheet."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from typing import Annotated

from fastapi import APIRouter
from fastapi.responses import Response
from pydantic import BaseModel, Field

from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Id, Strict
from oxlen.server.context import Context, Mark, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.store.deliveries import delivered_to, is_delivered, note_delivery
from oxlen.store.outings import outing
from oxlen.store.pictures import tie_picture
from oxlen.store.series import series_of_sheet
from oxlen.store.sheets import (
    add_sheet,
    edit_sheet,
    set_sheet_deleted,
    sheet,
    step_sheet,
)
from oxlen.views.answer import Answer, answer
from oxlen.views.light_table import ChangedLight, light_table
from oxlen.views.match_to_phone import match_to_phone
from oxlen.views.merged import MergedView, merged_view
from oxlen.views.series import PlaceInSeries, SeriesOfSheet, locked_answer, series_of
from oxlen.views.summary import SheetSummary, summary_of

router = APIRouter(prefix="/api", tags=["sheets"], dependencies=[FOR_PHONES])


Version = Id


class SheetEdit(Strict):
    """An edit: the whole body, what the edit did, and the version it was made from.

    Sent again under the same `mark` it is not done a second time.
    """

    version: Version
    mark: Mark = None
    label: Annotated[str, Field(min_length=1, max_length=80)]
    body: SheetBody


class TwoEdits(Strict):
    """A sheet before an edit and after it, to be merged with what others made of it.

    `keep_mine` are paths of clashes at which this edit shall hold.
    """

    before: SheetBody
    mine: SheetBody
    keep_mine: Annotated[
        list[Annotated[list[str], Field(max_length=12)]], Field(max_length=400)
    ] = []  # noqa: RUF012  copied by Pydantic


class SheetView(BaseModel):
    """A sheet as it is now, and the answer to it; `note` names what its phone lacks by now.

    `uid` names it in every Oxlen it is carried to, and tells it from another under that `id`.
    """

    id: int
    uid: str
    outing_id: int
    outing_title: str
    version: int
    label: str
    changed_at: str
    deleted_at: str | None
    can_undo: bool
    can_redo: bool
    body: SheetBody
    note: str | None
    series: SeriesOfSheet | None
    answer: Answer


@router.post("/outings/{outing_id}/sheets", status_code=201)
def new_sheet(outing_id: RowId, body: SheetBody, context: Shared) -> SheetView:
    """Start a sheet at the end of an outing."""
    return keep_new(outing_id, [body], context)[-1]


def keep_new(
    outing_id: int, bodies: Sequence[SheetBody], context: Context, *, mark: str | None = None
) -> list[SheetView]:
    """Start sheets at the end of an outing, all of them or none; a single one once under a mark."""
    usual = {"phone": context.usual_phone_id()}
    whole = [
        body if "phone" in body.model_fields_set else body.model_copy(update=usual)
        for body in bodies
    ]
    # What cannot be answered is not kept.
    answers = [_answered(context, sheet_body) for sheet_body in whole]
    with context.library.writer() as connection:
        outing(connection, outing_id)
        known = delivered_to(connection, mark)
        if known is not None:
            return [view(context, known)]
        ids = [
            add_sheet(connection, outing_id, sheet_body.model_dump_json(), now=context.now())
            for sheet_body in whole
        ]
        for sheet_id, sheet_body in zip(ids, whole, strict=True):
            if sheet_body.picture is not None:
                tie_picture(connection, sheet_id, sheet_body.picture)
        note_delivery(connection, mark, ids[-1], now=context.now())
    return [view(context, *made) for made in zip(ids, answers, strict=True)]


@router.get("/sheets/{sheet_id}")
def one_sheet(sheet_id: RowId, context: Shared) -> SheetView:
    """A sheet with its answer."""
    return view(context, sheet_id)


@router.get("/sheets/{sheet_id}/light-table")
def sheet_in_other_light(sheet_id: RowId, context: Shared) -> list[ChangedLight]:
    """The slips for light from three stops weaker to three stronger, by the phone's own steps."""
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
    return light_table(context.briefed(body).brief)


@router.get("/sheets/{sheet_id}/body", response_class=Response)
def sheet_text(sheet_id: RowId, context: Shared) -> Response:
    """What is kept of a sheet, as its own text: also of one that cannot be opened."""
    with context.library.reader() as connection:
        text = sheet(connection, sheet_id).body
    headers = {"content-disposition": f'attachment; filename="sheet-{sheet_id}.json"'}
    return Response(text, media_type="application/json", headers=headers)


@router.put("/sheets/{sheet_id}")
def change_sheet(sheet_id: RowId, edit: SheetEdit, context: Shared) -> SheetView:
    """Keep an edit; refused with 409 when the sheet has moved on."""
    # What cannot be answered is not kept.
    given: Answer | None = _answered(context, edit.body)
    with context.library.writer() as connection:
        if is_delivered(connection, edit.mark):
            given = None
        else:
            _keep_edit(connection, sheet_id, edit, now=context.now())
    return view(context, sheet_id, given)


def _keep_edit(connection: sqlite3.Connection, sheet_id: int, edit: SheetEdit, *, now: str) -> None:
    edit_sheet(
        connection,
        sheet_id,
        body=edit.body.model_dump_json(),
        label=edit.label,
        from_version=edit.version,
        now=now,
    )
    if edit.body.picture is not None:
        tie_picture(connection, sheet_id, edit.body.picture)
    note_delivery(connection, edit.mark, sheet_id, now=now)


@router.post("/sheets/{sheet_id}/merge")
def put_together(sheet_id: RowId, edits: TwoEdits, context: Shared) -> MergedView:
    """Put an edit together with what others made of the sheet meanwhile; nothing is kept by it."""
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
    return merged_view(
        edits.before,
        edits.mine,
        theirs=read_sheet(kept.body),
        version=kept.version,
        keep_mine=[tuple(path) for path in edits.keep_mine],
    )


@router.post("/sheets/{sheet_id}/undo")
def undo_edit(sheet_id: RowId, context: Shared) -> SheetView:
    """Step back to the state before the last edit."""
    with context.library.writer() as connection:
        step_sheet(connection, sheet_id, -1, now=context.now())
    return view(context, sheet_id)


@router.post("/sheets/{sheet_id}/redo")
def redo_edit(sheet_id: RowId, context: Shared) -> SheetView:
    """Step forward again."""
    with context.library.writer() as connection:
        step_sheet(connection, sheet_id, 1, now=context.now())
    return view(context, sheet_id)


@router.delete("/sheets/{sheet_id}")
def delete_sheet(sheet_id: RowId, context: Shared) -> SheetSummary:
    """Put a sheet in the bin, whether it can be opened or not."""
    with context.library.writer() as connection:
        set_sheet_deleted(connection, sheet_id, context.now())
        return summary_of(sheet(connection, sheet_id))


@router.post("/sheets/{sheet_id}/restore")
def restore_sheet(sheet_id: RowId, context: Shared) -> SheetSummary:
    """Take a sheet out of the bin."""
    with context.library.writer() as connection:
        set_sheet_deleted(connection, sheet_id, None)
        return summary_of(sheet(connection, sheet_id))


def view(context: Context, sheet_id: int, given: Answer | None = None) -> SheetView:
    """A sheet as it is now, answered, unless the answer to it is at hand."""
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
        title = outing(connection, kept.outing_id).title
        known = series_of_sheet(connection, sheet_id)
        lead = None if known is None else summary_of(sheet(connection, known.lead_id))
    kept_body = read_sheet(kept.body)
    sheet_now = match_to_phone(kept_body, context.find_phone(kept_body.phone))
    found = given or _answered(context, sheet_now.body)
    series = None
    if known is not None and lead is not None:
        place = PlaceInSeries(known, lead.title, sheet_id)
        series = series_of(place, sheet_now.body, found)
        found = locked_answer(place, sheet_now.body, found)
    return SheetView(
        id=kept.id,
        uid=kept.uid,
        outing_id=kept.outing_id,
        outing_title=title,
        version=kept.version,
        label=kept.label,
        changed_at=kept.changed_at,
        deleted_at=kept.deleted_at,
        can_undo=kept.can_undo,
        can_redo=kept.can_redo,
        body=sheet_now.body,
        note=sheet_now.note,
        series=series,
        answer=found,
    )


def _answered(context: Context, body: SheetBody) -> Answer:
    return answer(
        body,
        context.find_phone,
        context.pictures,
        filters_at_hand=context.filters_at_hand(),
        clip_ons_at_hand=context.clip_ons_at_hand(),
        today=context.clock().date(),
    )
