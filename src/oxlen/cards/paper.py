"""An A4 page with the font of the cards, and lines broken to fit it."""

from __future__ import annotations

from collections.abc import Callable
from importlib.resources import as_file, files

from fpdf import FPDF

FONT = "card"
MARGIN_MM, PAGE_WIDTH_MM, PAGE_HEIGHT_MM = 12.0, 210.0, 297.0


class Paper(FPDF):
    """The paper, with the widths of words it has measured: most come again on every page."""

    def __init__(self) -> None:
        super().__init__(format="A4")
        self._widths: dict[tuple[str, float, str], float] = {}

    def word_width(self, word: str) -> float:
        """Width of a word in the font that is set (mm)."""
        key = (self.font_style, self.font_size_pt, word)
        if key not in self._widths:
            self._widths[key] = self.get_string_width(word)
        return self._widths[key]


def new_paper() -> Paper:
    """An empty A4 document with the card's font, upright and bold."""
    paper = Paper()
    paper.set_margin(MARGIN_MM)
    paper.set_auto_page_break(False)
    fonts = files("oxlen.data").joinpath("fonts")
    for style, name in (("", "regular"), ("B", "bold")):
        with as_file(fonts.joinpath(f"card-{name}.ttf")) as path:
            paper.add_font(FONT, style, str(path))
    return paper


def broken(words: str, width: float, width_of: Callable[[str], float]) -> list[str]:
    """Words broken into lines no wider than `width`; one that is wider has a line of its own.

    The PDF package breaks lines too, by measuring each again for every sign; this is four times
    as fast, which tells on the card of an outing.
    """
    space, lines, used = width_of(" "), [""], 0.0
    for word in words.split():
        wide = width_of(word)
        if lines[-1] and used + space + wide > width:
            lines.append("")
        used = used + space + wide if lines[-1] else wide
        lines[-1] = f"{lines[-1]} {word}".strip()
    return lines
