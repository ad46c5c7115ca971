"""Filters: ND that is put on the lens, by the names people say."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import Annotated

from oxlen.core.ask import Checked, Quantity, Text
from oxlen.core.errors import BadInput

NUMBER = r"(\d+(?:[.,]\d+)?)"
STOPS = re.compile(rf"{NUMBER}\s*stops?")
TIMES = re.compile(rf"(?:[x×]\s*{NUMBER}|{NUMBER}\s*[x×])")
DENSITY = re.compile(r"(?:nd|od)?\s*(\d[.,]\d+)")
ND = re.compile(rf"(?:nd)?[\s-]*{NUMBER}")
LARGEST_DENSITY = 6.0
"""Own choice: 20 stops, darker than any filter sold for lenses. [ISO5-1]"""


@dataclass(frozen=True)
class LensFilter(Checked):
    """A filter: what it is called, and the factor it takes the light down by (1 or more)."""

    name: Annotated[str, Text(60, "Name")]
    factor: Annotated[float, Quantity(1, 1e7, "×", label="Darkens by")]


def read_filter(words: str) -> LensFilter:
    """A filter as people say it: "ND 64", "×64", "6 stops", or by density, "ND 1.8". [ISO5-1]

    BadInput where the words give no factor.

    >>> [read_filter(words).factor for words in ("ND 64", "x64", "6 stops", "0.9")]
    [64.0, 64.0, 64.0, 7.943282347242816]
    """
    text = words.strip().lower()
    factor = _factor_in(text)
    if factor is None or not 1 <= factor <= 1e7:
        raise BadInput("Enter a filter as ND 64, ×64, 6 stops or ND 1.8.", "words")
    return LensFilter(f"ND {_rounded(factor):g}", factor)


def _factor_in(text: str) -> float | None:
    if found := STOPS.fullmatch(text):
        return float(2.0 ** _number(found[1]))
    if found := TIMES.fullmatch(text):
        return _number(found[1] or found[2])
    density = DENSITY.fullmatch(text)
    if density and _number(density[1]) <= LARGEST_DENSITY:
        return float(10.0 ** _number(density[1]))
    found = ND.fullmatch(text)
    return _number(found[1]) if found else None


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _rounded(factor: float) -> float:
    """A factor as it is engraved: two digits that count from 10 up, else one place."""
    if factor < 10:
        return round(factor, 1)
    digits = 10.0 ** (math.floor(math.log10(factor)) - 1)
    return factor if factor == round(factor) else round(factor / digits) * digits
