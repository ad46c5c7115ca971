"""What is on a field card: a sheet's slip, its checklist, and the slips for other light."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from oxlen.cards.marked_picture import MarkedPicture, marked_jpeg
from oxlen.cards.qr_code import MOST_BYTES, QrCode, qr_of
from oxlen.core.checklist.step import RunStep
from oxlen.core.checklist.steps import run_list
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.labels import steps_label
from oxlen.formats.sheet.file import StepsByHand
from oxlen.views.answer import SlipLine, caution_views, slip_lines
from oxlen.views.light_table import ChangedLight, light_table
from oxlen.views.series import locked_lines

AS_WANTED = "on the planned exposure"
MOST_WAYS = 3
"""Ways out on a card: those that come first. Own choice."""


@dataclass(frozen=True)
class SheetCard:
    """One sheet as a card shows it; `trouble` says what collides or why there is no slip.

    `dangers` are the gravest cautions: they go wherever the slip goes.
    `code` is the slip as a QR code, where it is short enough to be read off a card.
    `key` names the sheet wherever it is carried; `lands` says where its spots land. `ways` lead out
    of a conflict; `picture` is a JPEG with its spots marked.
    """

    key: str
    title: str
    intent: str
    phone: str
    lines: Sequence[SlipLine]
    lands: Sequence[str]
    run: Sequence[RunStep]
    table: Sequence[ChangedLight]
    trouble: str
    dangers: Sequence[str] = ()
    code: QrCode | None = None
    ways: Sequence[str] = ()
    picture: bytes | None = None


@dataclass(frozen=True)
class Card:
    """A card of one sheet, or of an outing's in their order."""

    heading: str
    about: str
    sheets: Sequence[SheetCard]


@dataclass(frozen=True)
class CardAsked:
    """A sheet to put on a card. Without a brief nothing can be decided; `why_no_slip` says why.

    `locked` are the parts that its series decides, whose title is `series`.
    """

    key: str
    title: str
    intent: str
    phone: str
    brief: Brief | None = None
    by_hand: StepsByHand | None = None
    why_no_slip: str = ""
    series: str = ""
    locked: Sequence[str] = ()
    picture: MarkedPicture | None = None


def sheet_card(asked: CardAsked) -> SheetCard:
    """Plan a sheet and its slips for other light, and write its card."""
    bare = SheetCard(
        asked.key,
        asked.title,
        asked.intent,
        phone=asked.phone,
        lines=(),
        lands=(),
        run=(),
        table=(),
        trouble=asked.why_no_slip,
        picture=None if asked.picture is None else marked_jpeg(asked.picture),
    )
    if asked.brief is None or not asked.brief.readings:
        return bare
    decided = plan(asked.brief)
    return _with_code(
        replace(
            bare,
            lines=locked_lines(slip_lines(decided, asked.by_hand), asked.locked, asked.series),
            lands=[spot.words for spot in decided.outcome],
            run=run_list(decided),
            table=light_table(asked.brief, decided.solution, for_card=True),
            trouble="" if decided.conflict is None else decided.conflict.sentence,
            ways=[] if decided.conflict is None else _ways(decided),
            dangers=[view.words for view in caution_views(decided) if view.is_grave],
        )
    )


def _ways(decided: Plan) -> list[str]:
    """The first ways out, each with the settings it leads to."""
    return [
        f"{trade.text}: {steps_label(trade.slip.iso, trade.slip.shutter_s)}"
        for trade in decided.trades[:MOST_WAYS]
    ]


def _with_code(card: SheetCard) -> SheetCard:
    text = slip_text(card)
    fits = card.lines and len(text.encode()) <= MOST_BYTES
    return replace(card, code=qr_of(text)) if fits else card


def slip_text(card: SheetCard) -> str:
    """The slip as plain text, for a message, a notebook or a QR code."""
    dial = [f"{number}. {line.name}: {line.value}" for number, line in enumerate(card.lines, 1)]
    trouble = [f"Conflict: {card.trouble}"] if card.trouble else []
    danger = [f"Danger: {words}" for words in card.dangers]
    return "\n".join([f"{card.title}, on {card.phone}", *danger, *trouble, *dial, *card.lands])


def light_words(shift_stops: float) -> str:
    """Light against that of the reading, as one says it.

    >>> light_words(0), light_words(-1 / 3), light_words(1.5), light_words(2)
    ('as measured', '⅓ stop less', '1½ stops more', '2 stops more')
    """
    if shift_stops == 0:
        return "as measured"
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
