"""A contact sheet: the pictures of a series side by side, with numbers and names, as a PDF."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass

from fpdf import FPDF
from PIL import Image

from oxlen.cards.paper import FONT, MARGIN_MM, broken, new_paper

COLUMNS, ROWS = 3, 4
CELL_MM, STEP_MM = (58.0, 52.0), (62.0, 67.0)
"""The most a picture takes, and from one to the next."""
NUMBER_PT, NAME_PT, LINE_MM = 11.0, 9.0, 4.0
MOST_LINES = 2
QUALITY = 85


@dataclass(frozen=True)
class Contact:
    """A small picture with its number and name."""

    number: str
    name: str
    picture: Image.Image


def contact_sheet_pdf(contacts: Sequence[Contact]) -> bytes:
    """The contact sheet, 12 pictures a page."""
    paper = new_paper()
    pages = [contacts[at : at + COLUMNS * ROWS] for at in range(0, len(contacts), COLUMNS * ROWS)]
    for page in pages or [[]]:
        paper.add_page()
        for place, contact in enumerate(page):
            row, column = divmod(place, COLUMNS)
            _contact(
                paper, contact, (MARGIN_MM + column * STEP_MM[0], MARGIN_MM + row * STEP_MM[1])
            )
    made = io.BytesIO()
    paper.output(made)
    return made.getvalue()


def _contact(paper: FPDF, contact: Contact, place: tuple[float, float]) -> None:
    left, top = place
    scale = min(CELL_MM[0] / contact.picture.width, CELL_MM[1] / contact.picture.height)
    width, height = contact.picture.width * scale, contact.picture.height * scale
    drawn = io.BytesIO()
    contact.picture.save(drawn, "JPEG", quality=QUALITY)
    drawn.seek(0)
    paper.image(drawn, x=left, y=top + CELL_MM[1] - height, w=width, h=height)
    words_top = top + CELL_MM[1] + 1.5
    paper.set_font(FONT, "B", NUMBER_PT)
    number_mm = paper.get_string_width(contact.number) + 2
    paper.set_xy(left, words_top)
    paper.cell(number_mm, LINE_MM, contact.number)
    paper.set_font(FONT, "", NAME_PT)
    lines = broken(contact.name, CELL_MM[0] - number_mm, paper.get_string_width)
    for line in lines[:MOST_LINES]:
        paper.set_xy(left + number_mm, words_top)
        paper.cell(CELL_MM[0] - number_mm, LINE_MM, line)
        words_top += LINE_MM
