"""The things of a shop series as a list: typed, pasted, or a CSV file."""

from __future__ import annotations

import csv
import re
from collections.abc import Sequence
from typing import Annotated

from pydantic import Field, ValidationError

from oxlen.core.errors import BadInput
from oxlen.formats.strict import Strict, Title

MOST_THINGS = 500
Centimetres = Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]
Number = Annotated[str, Field(max_length=20, pattern=r"^[^\x00-\x1f/\\]*$")]
DELIMITERS = "\t;,"
COLUMNS = {"name": "name", "number": "number", "no": "number", "no.": "number", "size": "size"}
UNITS_CM = {"": 1.0, "cm": 1.0, "mm": 0.1, "m": 100.0}
SIZE = re.compile(r"([\d.,]+)\s*(cm|mm|m)?", re.IGNORECASE)


class ThingBody(Strict):
    """A thing of a series: its number and name, and its size (cm) where it is known."""

    name: Title
    number: Number = ""
    width_cm: Centimetres | None = None
    height_cm: Centimetres | None = None
    depth_cm: Centimetres | None = None


def read_things(text: str) -> list[ThingBody]:
    """The things of a list, a line each: name, or number, name and size in any column order.

    The first line may name its columns. Sizes are "11 x 14 x 11 cm", also with × and in mm or m.
    BadInput names the line that cannot be read.
    """
    lines = text.lstrip("\ufeff").splitlines()
    filled = [(number, line) for number, line in enumerate(lines, start=1) if line.strip()]
    if not filled:
        raise BadInput("The list is empty. Enter one thing a line.", "things")
    delimiter = next((mark for mark in DELIMITERS if mark in filled[0][1]), "\t")
    rows = [(number, _cells(line, delimiter)) for number, line in filled]
    columns = _named_columns(rows[0][1])
    if columns:
        rows = rows[1:]
    if not 0 < len(rows) <= MOST_THINGS:
        raise BadInput(
            f"A list has from 1 to {MOST_THINGS} things. This has {len(rows)}.", "things"
        )
    things = [_thing(number, cells, columns or _guessed_columns(rows)) for number, cells in rows]
    _refuse_twice([number for number, _ in rows], things)
    return things


def size_cm(text: str) -> tuple[float, ...]:
    """Up to 3 lengths in cm of a size such as "11 x 14 x 11 cm"; ValueError for another text."""
    parts = [part.strip() for part in re.split(r"[x×*]", text.strip(), flags=re.IGNORECASE)]
    found = [SIZE.fullmatch(part) for part in parts]
    if not 1 <= len(parts) <= 3 or None in found:
        raise ValueError(text)
    matches = [each for each in found if each is not None]
    unit = next((each[2] for each in reversed(matches) if each[2]), "cm")
    return tuple(
        float(each[1].replace(",", ".")) * UNITS_CM[(each[2] or unit).casefold()]
        for each in matches
    )


def _cells(line: str, delimiter: str) -> list[str]:
    return [cell.strip() for cell in next(csv.reader([line], delimiter=delimiter))]


def _named_columns(cells: Sequence[str]) -> list[str]:
    """What each column is by the first line; [] where that is a thing already."""
    names = [COLUMNS.get(cell.casefold(), "") for cell in cells]
    return names if "name" in names else []


def _guessed_columns(rows: Sequence[tuple[int, Sequence[str]]]) -> list[str]:
    """Columns nobody named: a short one with digits before the names is the number."""
    first = [cells[0] for _, cells in rows]
    if max(len(cells) for _, cells in rows) > 1 and all(
        len(cell) <= 12 and any(letter.isdigit() for letter in cell) for cell in first
    ):
        return ["number", "name", "size"]
    return ["name", "number", "size"]


def _thing(line: int, cells: Sequence[str], columns: Sequence[str]) -> ThingBody:
    given = {column: cell for column, cell in zip(columns, cells, strict=False) if column and cell}
    try:
        size = size_cm(given.pop("size", "")) if given.get("size") else ()
    except ValueError as error:
        words = f"Line {line}: the size must be like 11 x 14 x 11 cm."
        raise BadInput(words, "things") from error
    if not given.get("name"):
        raise BadInput(f"Line {line}: the name is missing.", "things")
    lengths = dict(zip(("width_cm", "height_cm", "depth_cm"), size, strict=False))
    try:
        return ThingBody.model_validate({**given, **lengths})
    except ValidationError as error:
        field = str(error.errors()[0]["loc"][0]).removesuffix("_cm")
        raise BadInput(f"Line {line}: the {field} cannot be used.", "things") from error


def _refuse_twice(lines: Sequence[int], things: Sequence[ThingBody]) -> None:
    """Two things of one number would overwrite each other when they are handed over."""
    first: dict[str, int] = {}
    for line, thing in zip(lines, things, strict=True):
        if thing.number and first.setdefault(thing.number, line) != line:
            words = f"Lines {first[thing.number]} and {line} have the same number, {thing.number}."
            raise BadInput(words, "things")
