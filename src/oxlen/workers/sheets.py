"""What workers do with many sheets: when each works on a day, and the cards to carry."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from oxlen.cards.card import Card, CardAsked, SheetCard, sheet_card
from oxlen.cards.card_html import card_html
from oxlen.light_plan.when import DayAsked, SheetLightAsked, When, sheet_windows

CardKind = Literal["html", "pdf"]


@dataclass(frozen=True)
class SheetWindows:
    """A sheet by its number and title, and when it works."""

    number: int
    title: str
    when: When


def windows_of_sheets(
    sheets: Sequence[tuple[int, SheetLightAsked]], *, asked: DayAsked
) -> list[SheetWindows]:
    """When each sheet works on a day."""
    return [
        SheetWindows(
            number, sheet.title, sheet_windows(sheet.brief, asked, read_unix_s=sheet.read_unix_s)
        )
        for number, sheet in sheets
    ]


def cards_of_sheets(sheets: Sequence[CardAsked]) -> list[SheetCard]:
    """The card of each sheet."""
    return [sheet_card(sheet) for sheet in sheets]


def drawn_card(card: Card, kind: CardKind) -> bytes:
    """A card as a file."""
    if kind == "html":
        return card_html(card).encode()
    from oxlen.cards.card_pdf import card_pdf  # slow to load, and seldom needed

    return card_pdf(card)
