"""Cards to carry: one sheet’s at once, an outing’s by workers and once for each state of it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import Future
from dataclasses import replace
from pathlib import Path

from oxlen.cards.card import Card, CardAsked, SheetCard, sheet_card
from oxlen.cards.card_html import about_outing
from oxlen.cards.marked_picture import MarkedPicture, MarkedSpot
from oxlen.core.decisions.framework.brief import TONE_ONLY
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.server.context import Context
from oxlen.server.many_sheets import KeptSheet, briefed_sheets, in_parts, state_of
from oxlen.server.shared_work import SharedJob, in_background
from oxlen.store.library import Library
from oxlen.store.outings import Outing
from oxlen.store.series import Series, series_of_outing
from oxlen.store.sheets import Sheet
from oxlen.views.answer import why_no_plan
from oxlen.views.match_to_phone import match_to_phone
from oxlen.views.series import held_parts
from oxlen.workers.sheets import CardKind, cards_of_sheets, drawn_card
from oxlen.workers.worker_pool import outcome


def card_of_sheet(context: Context, kept: Sheet) -> SheetCard:
    """The card of one sheet. UnreadableSheet, NotFound where it cannot be answered."""
    body = read_sheet(kept.body)
    now = match_to_phone(body, context.find_phone(body.phone)).body
    asked = _asked(context, KeptSheet(kept, now, context.briefed(now)))
    return sheet_card(_in_series(asked, now, series_by_sheet(context, kept.outing_id).get(kept.id)))


def outing_card_job(
    context: Context, about: Outing, sheets: Sequence[Sheet], *, kind: CardKind
) -> SharedJob[bytes]:
    """The card of an outing as a file; sheets that cannot be read are left out.

    Planning takes most of the time: the other kind of file uses the same plans.
    """
    known = series_by_sheet(context, about.id)
    key = state_of(context, sheets), tuple(known.items())
    planned = context.sheet_cards.job(
        key,
        lambda beside: in_background(lambda: _planned(context, sheets, known, beside=beside)),
        context.library.incoming_path,
    )
    drawn = context.cards.job(
        (key, repr(about), kind),
        lambda _: in_background(lambda: _drawn(context, about, planned.future, kind=kind)),
        context.library.incoming_path,
    )
    return SharedJob(drawn.future, planned.beside)


def _planned(
    context: Context, sheets: Sequence[Sheet], known: Mapping[int, Series], *, beside: Path
) -> list[SheetCard]:
    return in_parts(
        context.pool,
        cards_of_sheets,
        _cards_asked(context, sheets, known),
        whole=len(sheets),
        beside=beside,
    )


def _drawn(
    context: Context, about: Outing, planned: Future[list[SheetCard]], *, kind: CardKind
) -> bytes:
    cards = outcome(planned)
    words = about_outing(about.place, about.light_window, len(cards))
    return context.pool.do("bench", drawn_card, Card(about.title, words, cards), kind)


def series_by_sheet(context: Context, outing_id: int) -> dict[int, Series]:
    """The series each sheet of an outing follows; leading sheets follow none."""
    with context.library.reader() as connection:
        found = series_of_outing(connection, outing_id)
    return {
        sheet_id: known
        for known in found
        for sheet_id in known.sheet_ids
        if sheet_id != known.lead_id
    }


def _cards_asked(
    context: Context, sheets: Sequence[Sheet], known: Mapping[int, Series]
) -> Iterator[CardAsked]:
    for sheet in briefed_sheets(context, sheets):
        yield _in_series(_asked(context, sheet), sheet.body, known.get(sheet.kept.id))


def _in_series(asked: CardAsked, body: SheetBody, known: Series | None) -> CardAsked:
    if known is None:
        return asked
    return replace(asked, series=known.title, locked=tuple(held_parts(body, known)))


def _asked(context: Context, kept: KeptSheet) -> CardAsked:
    title, intent, key = kept.body.title, kept.body.intent, kept.kept.uid
    picture = _marked(context.library, kept.body)
    if kept.briefed is None:
        return CardAsked(
            key, title, intent, phone=kept.body.phone, why_no_slip=kept.why_not, picture=picture
        )
    return CardAsked(
        key,
        title,
        intent,
        phone=kept.briefed.profile.name,
        brief=kept.briefed.brief,
        by_hand=kept.body.steps_by_hand,
        why_no_slip=why_no_plan(kept.briefed.light.picture),
        picture=picture,
    )


def _marked(library: Library, body: SheetBody) -> MarkedPicture | None:
    if body.picture is None:
        return None
    spots = [MarkedSpot(spot.x, spot.y, spot.role) for spot in body.spots if spot.role != TONE_ONLY]
    return MarkedPicture(library.preview_path(body.picture), spots)
