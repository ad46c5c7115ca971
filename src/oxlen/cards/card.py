"""What stands on a field card: a sheet's slip, its run list, and the slips for other light."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from oxlen.formats.sheet_file import SheetBody
from oxlen.views.answer import Answer, SlipLine
from oxlen.views.light_table import ChangedLight
from oxlen.views.run_steps import RunStepView

AS_WANTED = "on the planned exposure"


@dataclass(frozen=True)
class SheetCard:
    """One sheet as it stands on a card; `trouble` says what collides or why there is no slip.

    `dangers` are the gravest cautions: they go wherever the slip goes.
    `key` names the sheet wherever it is carried; `lands` says where its spots come out.
    """

    key: str
    title: str
    intent: str
    phone: str
    lines: Sequence[SlipLine]
    lands: Sequence[str]
    run: Sequence[RunStepView]
    table: Sequence[ChangedLight]
    trouble: str
    dangers: Sequence[str] = ()


@dataclass(frozen=True)
class Card:
    """A card of one sheet, or of an outing's in their order."""

    heading: str
    about: str
    sheets: Sequence[SheetCard]


def sheet_card(
    body: SheetBody, given: Answer, table: Sequence[ChangedLight], *, key: str
) -> SheetCard:
    """The card of a sheet from the answer to it and its slips for other light."""
    conflict = None if given.plan is None else given.plan.conflict
    trouble = given.why_no_plan or ("" if conflict is None else conflict.sentence)
    lands = [] if given.plan is None else [spot.words for spot in given.plan.outcome]
    return SheetCard(
        key,
        body.title,
        body.intent,
        phone=given.phone_name,
        lines=given.lines,
        lands=lands,
        run=given.run,
        table=table,
        trouble=trouble,
        dangers=[one.words for one in given.cautions if one.is_grave],
    )


def slip_text(card: SheetCard) -> str:
    """The slip as plain text, for a message, a notebook or a QR code."""
    dial = [f"{number}. {line.name}: {line.value}" for number, line in enumerate(card.lines, 1)]
    trouble = [f"Not as asked: {card.trouble}"] if card.trouble else []
    danger = [f"Danger: {words}" for words in card.dangers]
    return "\n".join([f"{card.title}, on {card.phone}", *danger, *trouble, *dial, *card.lands])


def light_words(shift_stops: float) -> str:
    """Light against that of the reading, as one says it.

    >>> light_words(0), light_words(-1 / 3), light_words(1.5), light_words(2)
    ('as read', '⅓ stop less', '1½ stops more', '2 stops more')
    """
    if shift_stops == 0:
        return "as read"
    size = abs(shift_stops)
    whole = int(size + 0.01)
    part = {2: "⅓", 3: "½", 4: "⅔"}.get(round(6 * (size - whole)), "")
    count = f"{whole if whole or not part else ''}{part}"
    side = "more" if shift_stops > 0 else "less"
    return f"{count} {'stop' if size <= 1 else 'stops'} {side}"


def row_words(row: ChangedLight) -> str:
    """What a slip for other light misses and costs."""
    misses = "" if row.misses == AS_WANTED else row.misses
    return "; ".join(part for part in (misses, row.costs) if part)
