"""Field cards of a sheet or an outing, the slip as text and code, an outing's calendar file."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Literal

from fastapi import APIRouter
from fastapi.responses import Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.cards.calendar_file import outing_calendar
from oxlen.cards.card import Card, SheetCard, slip_text
from oxlen.cards.qr_code import qr_of, qr_svg
from oxlen.core.errors import BadInput, UnreadableSheet, WorkFailed
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.outing_cards import card_of_sheet, outing_card_job
from oxlen.server.permits import FOR_PHONES
from oxlen.server.shared_work import SharedJob
from oxlen.store.outings import outing
from oxlen.store.sheets import Sheet, sheet, sheets_of
from oxlen.workers.sheets import CardKind, drawn_card
from oxlen.workers.worker_pool import LIMIT_S, outcome

router = APIRouter(prefix="/api", tags=["cards"], dependencies=[FOR_PHONES])
MEDIA: dict[CardKind, str] = {"html": "text/html; charset=utf-8", "pdf": "application/pdf"}
ANSWERS_WITHIN_S = 1.0
"""A card of many sheets takes longer: how far it is is the answer then."""


class CardState(BaseModel):
    """How many of an outing's sheets are on its card; once it is `done` its file is at hand."""

    state: Literal["working", "done"]
    done: int
    all: int


@router.get("/sheets/{sheet_id}/card.html", response_class=Response)
def sheet_card_page(sheet_id: RowId, context: Shared) -> Response:
    """The field card of a sheet: one file that works without Oxlen and without a network."""
    card = _of_sheet(context, sheet_id)
    return _file(drawn_card(card, "html"), MEDIA["html"], f"{_plain(card)}.html")


@router.get("/sheets/{sheet_id}/card.pdf", response_class=Response)
def sheet_card_paper(sheet_id: RowId, context: Shared) -> Response:
    """The field card of a sheet on one page."""
    card = _of_sheet(context, sheet_id)
    return _file(drawn_card(card, "pdf"), MEDIA["pdf"], f"{_plain(card)}.pdf")


@router.get("/sheets/{sheet_id}/slip.txt", response_class=Response)
def slip_as_text(sheet_id: RowId, context: Shared) -> Response:
    """The slip as plain text."""
    return Response(slip_text(_sheet(context, sheet_id)), media_type="text/plain; charset=utf-8")


@router.get("/sheets/{sheet_id}/slip.svg", response_class=Response)
def slip_as_code(sheet_id: RowId, context: Shared) -> Response:
    """The slip's text as a QR code. 422 for a sheet without a slip."""
    card = _sheet(context, sheet_id)
    if not card.lines:
        raise BadInput("This sheet has no slip yet.", "readings")
    drawn = qr_svg(qr_of(slip_text(card)) if card.code is None else card.code)
    return Response(drawn, media_type="image/svg+xml")


@router.get("/outings/{outing_id}/card.html", response_class=Response)
async def outing_card_page(outing_id: RowId, context: Shared) -> Response:
    """The field card of an outing: all its sheets in one file."""
    return await _outing_card(context, outing_id, "html")


@router.get("/outings/{outing_id}/card.pdf", response_class=Response)
async def outing_card_paper(outing_id: RowId, context: Shared) -> Response:
    """The field card of an outing, a page a sheet. 422 where it has none."""
    return await _outing_card(context, outing_id, "pdf")


@router.get("/outings/{outing_id}/card")
async def outing_card_state(
    outing_id: RowId, context: Shared, kind: Literal["html", "pdf"]
) -> CardState:
    """Begin to draw the card of an outing, and tell how far it is; then its file is at hand."""
    with context.library.reader() as connection:
        sheets = len(sheets_of(connection, outing_id))
    _, job = await run_in_threadpool(_job, context, outing_id, kind)
    if not await job.within(ANSWERS_WITHIN_S):
        far = job.progress_of()  # no progress is reported while the file is drawn
        return CardState(state="working", done=far.done if far.all else sheets, all=sheets)
    outcome(job.future)
    return CardState(state="done", done=sheets, all=sheets)


@router.get("/outings/{outing_id}/calendar.ics", response_class=Response)
def outing_in_calendar(outing_id: RowId, context: Shared) -> Response:
    """The outing as a calendar file. 422 for one without a date."""
    with context.library.reader() as connection:
        kept_outing = outing(connection, outing_id)
        titles = [
            read_sheet(kept.body).title for kept in _readable(sheets_of(connection, kept_outing.id))
        ]
    made = outing_calendar(kept_outing, titles, context.clock())
    return _file(made, "text/calendar; charset=utf-8", f"{_named(kept_outing.title)}.ics")


async def _outing_card(context: Context, outing_id: int, kind: CardKind) -> Response:
    title, job = await run_in_threadpool(_job, context, outing_id, kind)
    if not await job.within(LIMIT_S):
        raise WorkFailed("This card has many sheets and is not ready yet. Try again in 1 min.")
    return _file(outcome(job.future), MEDIA[kind], f"{_named(title)}-card.{kind}")


def _job(context: Context, outing_id: int, kind: CardKind) -> tuple[str, SharedJob[bytes]]:
    with context.library.reader() as connection:
        about = outing(connection, outing_id)
        kept = sheets_of(connection, outing_id)
    if kind == "pdf" and not any(True for _ in _readable(kept)):
        raise BadInput("This outing has no sheets to print.", "sheets")
    return about.title, outing_card_job(context, about, kept, kind=kind)


def _of_sheet(context: Context, sheet_id: int) -> Card:
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
        about = outing(connection, kept.outing_id)
    card = card_of_sheet(context, kept)
    where = ", ".join(part for part in (about.title, about.light_window) if part)
    return Card(card.title, where, [card])


def _readable(kept: list[Sheet]) -> Iterator[Sheet]:
    for kept_sheet in kept:
        try:
            read_sheet(kept_sheet.body)
        except UnreadableSheet:  # the others still go to the spot
            continue
        yield kept_sheet


def _sheet(context: Context, sheet_id: int) -> SheetCard:
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
    return card_of_sheet(context, kept)


def _plain(card: Card) -> str:
    return f"{_named(card.heading)}-card"


def _named(title: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", title.casefold()).strip("-") or "oxlen"


def _file(content: str | bytes, kind: str, name: str) -> Response:
    headers = {"content-disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=kind, headers=headers)
