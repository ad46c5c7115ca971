"""The field card on paper: one page a sheet."""

from __future__ import annotations

import io
from collections.abc import Sequence

from PIL import Image

from oxlen.cards.card import Card, SheetCard, light_words, row_words
from oxlen.cards.card_html import PARTS
from oxlen.cards.paper import (
    FONT,
    MARGIN_MM,
    PAGE_HEIGHT_MM,
    PAGE_WIDTH_MM,
    Paper,
    broken,
    new_paper,
)
from oxlen.cards.qr_code import qr_png
from oxlen.core.checklist.step import RunStep
from oxlen.views.light_table import ChangedLight

INNER_MM = PAGE_WIDTH_MM - 2 * MARGIN_MM
CODE_MM = 30.0
PICTURE_MM = (48.0, 36.0)
"""The most a picture takes beside the title."""
COLUMN_MM = (INNER_MM - 6) / 2
FOOT_MM = PAGE_HEIGHT_MM - MARGIN_MM - 4
STEP_SIZE = 9.3
LINE_MM = 0.44
"""Height of a line for each point of its letters."""


def card_pdf(card: Card) -> bytes:
    """The card as a PDF, a page a sheet; what does not fit on it is left to the HTML card."""
    paper = new_paper()
    for sheet in card.sheets:
        paper.add_page()
        _sheet(paper, card.heading, sheet)
    made = io.BytesIO()
    paper.output(made)
    return made.getvalue()


def _sheet(paper: Paper, heading: str, card: SheetCard) -> None:
    _code(paper, card)
    words = INNER_MM - CODE_MM - 4 - _picture(paper, card)
    _write(paper, heading, width=words, size=9)
    _write(paper, card.title, width=words, size=20, style="B")
    _write(paper, card.intent, width=words, size=11)
    _write(paper, f"On {card.phone}", width=words, size=11)
    _write(paper, card.trouble, width=words, size=12, style="B")
    for way in card.ways:
        _write(paper, f"Or: {way}", width=words, size=10)
    beside = PICTURE_MM[1] if card.picture is not None else CODE_MM
    paper.set_y(max(paper.get_y(), MARGIN_MM + beside) + 2)
    _slip(paper, card)
    top = paper.get_y() + 3
    right = MARGIN_MM + COLUMN_MM + 6
    bottom = _table(paper, card.table, place=(right, top))
    _run(paper, card.run, columns=((MARGIN_MM, top), (right, bottom)))


def _slip(paper: Paper, card: SheetCard) -> None:
    for line in card.lines:
        top = paper.get_y()
        paper.line(MARGIN_MM, top, PAGE_WIDTH_MM - MARGIN_MM, top)
        _at(paper, line.name, (MARGIN_MM, top + 2.2), width=26, size=11)
        _at(paper, line.value, (MARGIN_MM + 27, top + 0.8), width=52, size=17, style="B")
        bottom = paper.get_y()
        why = f"{line.reason} {line.plus_minus and f'({line.plus_minus})'}".strip()
        _at(paper, why, (MARGIN_MM + 80, top + 1), width=INNER_MM - 80, size=9.5)
        paper.set_y(max(bottom, paper.get_y()) + 0.6)
    paper.line(MARGIN_MM, paper.get_y(), PAGE_WIDTH_MM - MARGIN_MM, paper.get_y())
    for words in card.lands:
        _write(paper, words, width=INNER_MM, size=10)


def _run(paper: Paper, steps: Sequence[RunStep], *, columns: Sequence[tuple[float, float]]) -> None:
    """The checklist, down the first column and on in the next where that is full."""
    (left, top), *rest = columns
    paper.set_y(top)
    part = ""
    for step in steps:
        words = step.text if not step.value else f"{step.text}: {step.value}"
        if paper.get_y() + _height_mm(paper, words, is_new=step.part != part) > FOOT_MM:
            if not rest:
                _at(paper, "More on the phone's card.", (left, FOOT_MM - 2), width=COLUMN_MM)
                return
            (left, top), *rest = rest
            paper.set_y(top)
        if step.part != part:
            part = step.part
            _at(paper, PARTS[part], (left, paper.get_y() + 0.8), width=COLUMN_MM, style="B")
        if part == "care":
            _at(paper, f"{words} {step.detail}", (left, paper.get_y()), width=COLUMN_MM, style="B")
            continue
        paper.rect(left, paper.get_y() + 0.9, 3, 3)
        _at(paper, words, (left + 4.5, paper.get_y()), width=COLUMN_MM - 4.5, size=STEP_SIZE)


def _height_mm(paper: Paper, words: str, *, is_new: bool) -> float:
    """What a step takes, with its part's heading where that is new."""
    paper.set_font(FONT, "", STEP_SIZE)
    lines = len(broken(_plain(words), COLUMN_MM - 4.5, paper.word_width))
    return (lines * STEP_SIZE + (10 if is_new else 0)) * LINE_MM


def _table(paper: Paper, rows: Sequence[ChangedLight], *, place: tuple[float, float]) -> float:
    """The slips for other light; where the next thing beneath them may begin (mm)."""
    left, top = place
    if not rows:
        return top
    width_mm = COLUMN_MM
    _at(paper, "If the meter shows", (left, top + 1), width=width_mm, style="B")
    costs = ""
    for row in rows:
        top = paper.get_y() + 0.4
        paper.line(left, top, left + width_mm, top)
        style = "B" if row.shift_stops == 0 else ""
        light = f"{_plain(light_words(row.shift_stops))} ({row.meter})"
        _at(paper, light, (left, top + 0.5), width=38, size=9, style=style)
        bottom = paper.get_y()
        _at(paper, row.label, (left + 39, top + 0.5), width=width_mm - 39, size=11, style="B")
        costs, text = row_words(row), costs
        if costs and costs != text:
            _at(paper, costs, (left + 39, paper.get_y()), width=width_mm - 39, size=8)
        paper.set_y(max(bottom, paper.get_y()))
    return paper.get_y() + 3


def _picture(paper: Paper, card: SheetCard) -> float:
    """The marked picture beside the code; the width it takes (mm)."""
    if card.picture is None:
        return 0.0
    with Image.open(io.BytesIO(card.picture)) as opened:
        wide, high = opened.size
    scale = min(PICTURE_MM[0] / wide, PICTURE_MM[1] / high)
    left = PAGE_WIDTH_MM - MARGIN_MM - CODE_MM - 4 - wide * scale
    paper.image(io.BytesIO(card.picture), x=left, y=MARGIN_MM, w=wide * scale, h=high * scale)
    return wide * scale + 4


def _code(paper: Paper, card: SheetCard) -> None:
    if card.code is not None:
        paper.image(
            qr_png(card.code), x=PAGE_WIDTH_MM - MARGIN_MM - CODE_MM, y=MARGIN_MM, w=CODE_MM
        )


def _write(paper: Paper, words: str, *, width: float, size: float, style: str = "") -> None:
    if words:
        _at(paper, words, (MARGIN_MM, paper.get_y()), width=width, size=size, style=style)


def _at(
    paper: Paper,
    words: str,
    place: tuple[float, float],
    *,
    width: float,
    size: float = 10,
    style: str = "",
) -> None:
    """Words from a place on, broken to a width (mm); the pen is below them afterwards."""
    paper.set_font(FONT, style, size)
    left, top = place
    for line in broken(_plain(words), width, paper.word_width):
        paper.set_xy(left, top)
        paper.cell(width, size * LINE_MM, line)
        top += size * LINE_MM
    paper.set_xy(paper.l_margin, top)


def _plain(words: str) -> str:
    """Signs the font of the card lacks, written out."""
    for sign, other in (("⅓", " 1/3"), ("⅔", " 2/3"), ("½", " 1/2"), ("→", "to"), ("′", "'")):
        words = words.replace(sign, other)
    return words.strip()
