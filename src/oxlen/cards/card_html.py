"""The field card as one HTML file: it needs no server, no network, and for reading no script."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache
from html import escape
from importlib.resources import files

from oxlen.cards.card import Card, SheetCard, light_words, row_words, slip_text
from oxlen.cards.qr_code import qr_svg
from oxlen.core.checklist.step import RunStep
from oxlen.core.labels import counted
from oxlen.views.answer import SlipLine
from oxlen.views.light_table import ChangedLight

PARTS = {
    "care": "Take care",
    "set_up": "Set the phone up",
    "steady": "Lens and hold",
    "dial": "Dial",
    "compose": "Compose",
    "expose": "Now ISO and shutter",
    "shoot": "Shoot",
    "look": "Look at once",
    "put_back": "Afterwards",
}
PAGE = """<!doctype html>
<html lang="en"><head><meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy"
 content="default-src 'none'; style-src 'unsafe-inline'; script-src 'unsafe-inline'; img-src data:">
<title>{heading}</title><style>{style}</style></head>
<body><header><h1>{heading}</h1><p>{about}</p>
<label class="night"><input type="checkbox" id="night"> Night</label></header>
{index}{sheets}<script>{script}</script></body></html>
"""


def card_html(card: Card) -> str:
    """The card as one file; scripts add count-downs and kept ticks, and nothing needs them."""
    index = ""
    if len(card.sheets) > 1:
        links = "".join(
            f'<li><a href="#s{place}">{escape(one.title)}</a></li>'
            for place, one in enumerate(card.sheets)
        )
        index = f'<nav aria-label="Sheets"><ol>{links}</ol></nav>'
    return PAGE.format(
        heading=escape(card.heading),
        about=escape(card.about),
        style=_data("card.css"),
        script=_data("card.js"),
        index=index,
        sheets="".join(_sheet(place, one) for place, one in enumerate(card.sheets)),
    )


@cache
def _data(name: str) -> str:
    return files("oxlen.data").joinpath("card").joinpath(name).read_text("utf-8")


def _sheet(place: int, one: SheetCard) -> str:
    intent = f"<p>{escape(one.intent)}</p>" if one.intent else ""
    trouble = f'<p class="trouble">{escape(one.trouble)}</p>' if one.trouble else ""
    parts = [
        f'<article id="s{place}" data-key="{escape(one.key)}"><h2>{escape(one.title)}</h2>{intent}',
        f'<p class="soft">On {escape(one.phone)}</p>{trouble}',
    ]
    if one.lines:
        parts += [_slip(one), _run(one.run), _table(one.table), _code(one)]
    return "".join([*parts, "</article>"])


def _slip(one: SheetCard) -> str:
    lines = "".join(_line(line) for line in one.lines)
    lands = "".join(f"<li>{escape(words)}</li>" for words in one.lands)
    return (
        f'<section aria-label="Slip"><ol class="slip">{lines}</ol>'
        f'<ul class="soft">{lands}</ul></section>'
    )


def _line(line: SlipLine) -> str:
    why = " ".join([line.reason, line.plus_minus and f"({line.plus_minus})", *line.notes])
    return (
        f"<li><span>{escape(line.name)}</span> <b>{escape(line.value)}</b>"
        f"<small>{escape(why.strip())}</small></li>"
    )


def _run(steps: Iterable[RunStep]) -> str:
    found: dict[str, list[str]] = {}
    for step in steps:
        found.setdefault(step.part, []).append(_step(step))
    parts = "".join(f"<h4>{PARTS[part]}</h4><ol>{''.join(of)}</ol>" for part, of in found.items())
    return f'<section class="run" aria-label="Run list"><h3>Run list</h3>{parts}</section>'


def _step(step: RunStep) -> str:
    value = f"<b>{escape(step.value)}</b>" if step.value else ""
    detail = f"<small>{escape(step.detail)}</small>" if step.detail else ""
    words = f"<span>{escape(step.text)}</span>{value}{detail}"
    if step.part == "care":
        return f'<li class="care">{words}</li>'
    counted_s = "".join(
        f' data-{name}="{number:g}"'
        for name, number in (
            ("wait", step.wait_s or 0),
            ("open", step.expose_s or 0),
            ("every", step.every_s or 0),
            ("frames", step.frames),
            ("remind", step.remind_s or 0),
        )
    )
    clock = f'<div class="clock"{counted_s}></div>' if step.wait_s or step.expose_s else ""
    ticked = f'<label><input type="checkbox" data-step="{escape(step.id)}"><span>{words}</span>'
    return f"<li>{ticked}</label>{clock}</li>"


def _table(rows: Iterable[ChangedLight]) -> str:
    body = "".join(_row(row) for row in rows)
    head = "<tr><th>The meter says</th><th>Dial</th><th>That costs</th></tr>"
    return (
        '<section aria-label="Other light"><h3>If the light changes</h3>'
        f'<div class="chooser"></div><table><thead>{head}</thead><tbody>{body}</tbody></table>'
        "</section>"
    )


def _row(row: ChangedLight) -> str:
    data = f'data-shift="{row.shift_stops:.4f}"'
    if row.iso is not None and row.shutter_s is not None:
        data += f' data-iso="{row.iso:g}" data-shutter-s="{row.shutter_s!r}"'
    now = ' class="now"' if row.shift_stops == 0 else ""
    return (
        f"<tr{now} {data}><th>{escape(light_words(row.shift_stops))}"
        f"<small>{escape(row.meter)}</small></th>"
        f"<td><b>{escape(row.label)}</b></td><td>{escape(row_words(row))}</td></tr>"
    )


def _code(one: SheetCard) -> str:
    text = slip_text(one)
    drawn = "" if one.code is None else qr_svg(one.code)
    return (
        "<section><details><summary>The slip as a code and as text</summary>"
        f"{drawn}<pre>{escape(text)}</pre></details></section>"
    )


def about_outing(place: str, light_window: str, sheets: int) -> str:
    """What stands under the heading of an outing's card."""
    return ", ".join(part for part in (place, light_window, counted(sheets, "sheet")) if part)
