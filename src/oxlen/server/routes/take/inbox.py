"""The inbox: pictures that came in without a sheet, each with the sheets it may belong to."""

from __future__ import annotations

import json
from threading import Thread
from typing import Annotated

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from oxlen.core.labels import steps_label
from oxlen.formats.picture_report import PictureReport
from oxlen.formats.strict import Id, Strict
from oxlen.server.change_events import ChangeEvents, Item
from oxlen.server.context import Context, Mark, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.pictures import STREAM, FileName, plain_name, take_file
from oxlen.store.inbox import InboxEntry, inbox, inbox_entry, leave_inbox, sheets_with_picture
from oxlen.store.pictures import kept_picture
from oxlen.store.sheets import sheet
from oxlen.takes.adding import into_inbox, put_to_sheet
from oxlen.views.proposed import Candidate, proposed

DECIDED_WITHIN_S = 0.1
"""So long sheets are decided while somebody waits for the list."""

router = APIRouter(prefix="/api", tags=["inbox"], dependencies=[FOR_PHONES])


class ProposedSheet(BaseModel):
    """A sheet that a picture may belong to, and what speaks for it."""

    sheet_id: int
    title: str
    why: str


class InboxView(BaseModel):
    """A picture waiting for a sheet; `proposed` the likeliest first.

    `known_in` are sheets that have this very picture already.
    """

    id: int
    picture: str
    raw_picture: str | None
    file_name: str
    label: str
    taken_at: str | None
    proposed: list[ProposedSheet]
    known_in: list[int]


class InboxTaken(BaseModel):
    """What came of a file: where it is now, and its notes."""

    picture: str
    is_new: bool
    notes: list[str]


class Placed(Strict):
    """Entries of the inbox and the sheet each goes to."""

    places: Annotated[list[tuple[Id, Id]], Field(min_length=1, max_length=500)]


@router.get("/inbox")
def all_waiting(request: Request, context: Shared) -> list[InboxView]:
    """All that waits for a sheet, the oldest first.

    Sheets that must be decided first are proposed a moment later: the inbox changes again.
    """
    with context.library.reader() as connection:
        entries = inbox(connection)
        known = {entry.id: sheets_with_picture(connection, entry.sha256) for entry in entries}
        if not entries:
            return []
        among, is_whole = context.candidates.of(connection, within_s=DECIDED_WITHIN_S)
    if not is_whole:
        Thread(
            target=_decide_rest, args=(context, request.app.state.change_events), daemon=True
        ).start()
    return [_view(entry, among, known[entry.id]) for entry in entries]


def _decide_rest(context: Context, events: ChangeEvents) -> None:
    """Decide the sheets that are left, and tell that the inbox has more to say."""
    if not context.candidates.filling.acquire(blocking=False):
        return
    try:
        with context.library.reader() as connection:
            context.candidates.of(connection)
    finally:
        context.candidates.filling.release()
    events.tell(Item("inbox", ""))


@router.post("/inbox", status_code=201, openapi_extra=STREAM)
async def take_into_inbox(
    request: Request, context: Shared, *, name: FileName, mark: Mark = None
) -> InboxTaken:
    """Import a picture without a sheet; the body is the file itself.

    Content that waits already is not doubled; RAW and processed of one shot become one entry.
    """
    name = plain_name(name)
    before = await run_in_threadpool(_count, context)
    taken = await take_file(context, request, name, attach=into_inbox(mark, context.now()))
    after = await run_in_threadpool(_count, context)
    return InboxTaken(picture=taken.sha256, is_new=after > before, notes=list(taken.notes))


@router.post("/inbox/place")
def place(placed: Placed, request: Request, context: Shared) -> list[InboxView]:
    """Put entries to sheets as takes; what is a take there already is not doubled."""
    with context.library.writer() as connection:
        for entry_id, sheet_id in placed.places:
            entry = inbox_entry(connection, entry_id)
            sheet(connection, sheet_id)
            for sha256 in (entry.sha256, entry.raw_sha256):
                if sha256 is not None:
                    report = json.loads(kept_picture(connection, sha256).report)
                    put_to_sheet(connection, sheet_id, sha256, report=report, now=context.now())
            leave_inbox(connection, entry_id)
    return all_waiting(request, context)


@router.delete("/inbox/{entry_id}", status_code=204)
def delete_entry(entry_id: RowId, context: Shared) -> None:
    """Take an entry out of the inbox; its file stays kept."""
    with context.library.writer() as connection:
        leave_inbox(connection, entry_id)


def _count(context: Context) -> int:
    with context.library.reader() as connection:
        return len(inbox(connection))


def _view(entry: InboxEntry, among: list[Candidate], known_in: list[int]) -> InboxView:
    report = PictureReport.model_validate_json(entry.report)
    settings = report.settings
    is_known = settings.iso is not None and settings.shutter_s is not None
    titles = {each.facts.sheet_id: each.title for each in among}
    return InboxView(
        id=entry.id,
        picture=entry.sha256,
        raw_picture=entry.raw_sha256,
        file_name=entry.file_name,
        label=steps_label(settings.iso or 0, settings.shutter_s or 1) if is_known else "",
        taken_at=report.taken_at,
        proposed=[
            ProposedSheet(sheet_id=each.sheet_id, title=titles[each.sheet_id], why=each.why)
            for each in proposed(report, among)[:3]
        ],
        known_in=known_in,
    )
