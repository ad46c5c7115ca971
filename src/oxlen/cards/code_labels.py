"""Labels with a code for each thing of a series, as a PDF to print and cut."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass

from fpdf import FPDF

from oxlen.cards.paper import FONT, MARGIN_MM, broken, new_paper
from oxlen.cards.qr_code import qr_of, qr_png

COLUMNS, ROWS = 3, 5
LABEL_MM, CODE_MM = (62.0, 54.0), 36.0
NUMBER_PT, NAME_PT, LINE_MM = 14.0, 9.0, 4.0
MOST_LINES = 2


@dataclass(frozen=True)
class CodeLabel:
    """What a label shows: the thing's number and name, and what its code contains."""

    number: str
    name: str
    text: str


def code_labels_pdf(labels: Sequence[CodeLabel]) -> bytes:
    """Labels, 15 a page, with lines to cut along."""
    paper = new_paper()
    for start in range(0, len(labels), COLUMNS * ROWS):
        paper.add_page()
        for place, label in enumerate(labels[start : start + COLUMNS * ROWS]):
            row, column = divmod(place, COLUMNS)
            _label(paper, label, (MARGIN_MM + column * LABEL_MM[0], MARGIN_MM + row * LABEL_MM[1]))
    made = io.BytesIO()
    paper.output(made)
    return made.getvalue()


def _label(paper: FPDF, label: CodeLabel, place: tuple[float, float]) -> None:
    left, top = place
    paper.rect(left, top, *LABEL_MM)
    middle = left + (LABEL_MM[0] - CODE_MM) / 2
    paper.image(qr_png(qr_of(label.text)), x=middle, y=top + 1, w=CODE_MM)
    paper.set_font(FONT, "B", NUMBER_PT)
    paper.set_xy(left, top + CODE_MM + 1)
    paper.cell(LABEL_MM[0], LINE_MM + 2, label.number, align="C")
    paper.set_font(FONT, "", NAME_PT)
    words_top = top + CODE_MM + LINE_MM + 3
    for line in broken(label.name, LABEL_MM[0] - 4, paper.get_string_width)[:MOST_LINES]:
        paper.set_xy(left, words_top)
        paper.cell(LABEL_MM[0], LINE_MM, line, align="C")
        words_top += LINE_MM
