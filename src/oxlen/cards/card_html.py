"""The field card as one HTML file: it needs no server, no network, and for reading no script."""

from __future__ import annotations

import base64
from collections.abc import Iterable, Iterator
from functools import cache
from importlib.resources import files
from itertools import groupby

from jinja2 import Environment, PackageLoader, Template
from markupsafe import Markup

from oxlen.cards.card import Card, light_words, row_words, slip_text
from oxlen.cards.qr_code import QrCode, qr_svg
from oxlen.core.checklist.step import RunStep
from oxlen.core.labels import counted
from oxlen.views.answer import SlipLine

PARTS = {
    "care": "Take care",
    "set_up": "Set up the phone",
    "steady": "Lens and support",
    "dial": "Dial",
    "compose": "Compose",
    "expose": "ISO and shutter",
    "shoot": "Shoot",
    "look": "Check",
    "put_back": "Afterwards",
}


def card_html(card: Card) -> str:
    """The card as one file; scripts add count-downs and kept ticks, and nothing needs them."""
    return _template().render(card=card)


@cache
def _template() -> Template:
    """The template with all that it calls; every value is escaped unless it is marked up."""
    kept = Environment(loader=PackageLoader("oxlen", "data/card"), autoescape=True)
    kept.globals |= {
        "style": Markup(_data("card.css")),
        "script": Markup(_data("card.js")),
        "why": _why,
        "parts": _parts,
        "counted": _counted,
        "light": light_words,
        "costs": row_words,
        "text": slip_text,
        "drawn": _drawn,
        "address": _address,
    }
    return kept.get_template("card.html")


@cache
def _data(name: str) -> str:
    return files("oxlen.data").joinpath("card").joinpath(name).read_text("utf-8")


def _why(line: SlipLine) -> str:
    return " ".join([line.reason, line.plus_minus and f"({line.plus_minus})", *line.notes]).strip()


def _parts(steps: Iterable[RunStep]) -> Iterator[tuple[str, list[RunStep]]]:
    for part, of_part in groupby(steps, key=lambda step: step.part):
        yield PARTS[part], list(of_part)


def _counted(step: RunStep) -> Iterator[tuple[str, str]]:
    """What a count-down of the page counts, in seconds and frames."""
    numbers = {
        "wait": step.wait_s,
        "open": step.expose_s,
        "every": step.every_s,
        "frames": step.frames,
        "remind": step.remind_s,
    }
    for name, number in numbers.items():
        yield name, f"{number or 0:g}"


def _address(picture: bytes) -> str:
    return f"data:image/jpeg;base64,{base64.b64encode(picture).decode()}"


def _drawn(code: QrCode) -> Markup:
    return Markup(qr_svg(code))


def about_outing(place: str, light_window: str, sheets: int) -> str:
    """The lines under the heading of an outing's card."""
    return ", ".join(part for part in (place, light_window, counted(sheets, "sheet")) if part)
