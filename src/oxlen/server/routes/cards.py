"""Field cards of a sheet or an outing, the slip as text and code, an outing's calendar file."""

from __future__ import annotations

import re
from collections.abc import Iterator

from fastapi import APIRouter
from fastapi.responses import Response

from oxlen.cards.calendar_file import outing_calendar
from oxlen.cards.card import Card, SheetCard, sheet_card, slip_text
from oxlen.cards.card_html import about_outing, card_html
from oxlen.cards.qr_code import qr_svg
from oxlen.core.errors import BadInput, UnreadableSheet
from oxlen.formats.sheet_upgrades import read_sheet
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.sheets import view
from oxlen.store.outings import outing
from oxlen.store.sheets import Sheet, sheet, sheets_of
from oxlen.views.light_table import light_table

router = APIRouter(prefix="/api", tags=["cards"], dependencies=[FOR_PHONES])


@router.get("/sheets/{sheet_id}/card.html", response_class=Response)
def sheet_card_page(sheet_id: RowId, context: Shared) -> Response:
    """The field card of a sheet: one file that works without Oxlen and without a network."""
    card = _of_sheet(context, sheet_id)
    return _file(card_html(card), "text/html; charset=utf-8", f"{_plain(card)}.html")


@router.get("/sheets/{sheet_id}/card.pdf", response_class=Response)
def sheet_card_paper(sheet_id: RowId, context: Shared) -> Response:
    """The field card of a sheet on one page."""
    card = _of_sheet(context, sheet_id)
    from oxlen.cards.card_pdf import card_pdf  # slow to load, and seldom needed

    return _file(card_pdf(card), "application/pdf", f"{_plain(card)}.pdf")


@router.get("/sheets/{sheet_id}/slip.txt", response_class=Response)
def slip_as_text(sheet_id: RowId, context: Shared) -> Response:
    """The slip as plain text."""
    return Response(slip_text(_sheet(context, sheet_id)), media_type="text/plain; charset=utf-8")


@router.get("/sheets/{sheet_id}/slip.svg", response_class=Response)
def slip_as_code(sheet_id: RowId, context: Shared) -> Response:
    """The slip's text as a QR code. 422 for a sheet without a slip."""
    one = _sheet(context, sheet_id)
    if not one.lines:
        raise BadInput("This sheet has no slip yet.", "readings")
    return Response(qr_svg(slip_text(one)), media_type="image/svg+xml")


@router.get("/outings/{outing_id}/card.html", response_class=Response)
def outing_card_page(outing_id: RowId, context: Shared) -> Response:
    """The field card of an outing: all its sheets in one file."""
    card = _of_outing(context, outing_id)
    return _file(card_html(card), "text/html; charset=utf-8", f"{_plain(card)}.html")


@router.get("/outings/{outing_id}/card.pdf", response_class=Response)
def outing_card_paper(outing_id: RowId, context: Shared) -> Response:
    """The field card of an outing, a page a sheet. 422 where it has none."""
    card = _of_outing(context, outing_id)
    if not card.sheets:
        raise BadInput("This outing has no sheets to print.", "sheets")
    from oxlen.cards.card_pdf import card_pdf  # slow to load, and seldom needed

    return _file(card_pdf(card), "application/pdf", f"{_plain(card)}.pdf")


@router.get("/outings/{outing_id}/calendar.ics", response_class=Response)
def outing_in_calendar(outing_id: RowId, context: Shared) -> Response:
    """The outing as a calendar file. 422 for one without a date."""
    with context.library.reader() as connection:
        one = outing(connection, outing_id)
        titles = [read_sheet(kept.body).title for kept in _readable(sheets_of(connection, one.id))]
    made = outing_calendar(one, titles, context.clock())
    return _file(made, "text/calendar; charset=utf-8", f"{_named(one.title)}.ics")


def _of_sheet(context: Context, sheet_id: int) -> Card:
    with context.library.reader() as connection:
        about = outing(connection, sheet(connection, sheet_id).outing_id)
    one = _sheet(context, sheet_id)
    where = ", ".join(part for part in (about.title, about.light_window) if part)
    return Card(one.title, where, [one])


def _of_outing(context: Context, outing_id: int) -> Card:
    with context.library.reader() as connection:
        about = outing(connection, outing_id)
        kept = list(_readable(sheets_of(connection, outing_id)))
    cards = [_sheet(context, one.id) for one in kept]
    words = about_outing(about.place, about.light_window, len(cards))
    return Card(about.title, words, cards)


def _readable(kept: list[Sheet]) -> Iterator[Sheet]:
    for one in kept:
        try:
            read_sheet(one.body)
        except UnreadableSheet:  # the others still go to the spot
            continue
        yield one


def _sheet(context: Context, sheet_id: int) -> SheetCard:
    shown = view(context, sheet_id)
    table = light_table(
        shown.body,
        context.find_phone,
        context.pictures,
        filters_at_hand=context.filters_at_hand(),
        clip_ons_at_hand=context.clip_ons_at_hand(),
    )
    return sheet_card(shown.body, shown.answer, table, key=shown.uid)


def _plain(card: Card) -> str:
    return f"{_named(card.heading)}-card"


def _named(title: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", title.casefold()).strip("-") or "oxlen"


def _file(content: str | bytes, kind: str, name: str) -> Response:
    headers = {"content-disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=kind, headers=headers)
