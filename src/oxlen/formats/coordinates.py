"""Positions as people paste them: decimal degrees, or degrees, minutes and seconds with a side."""

from __future__ import annotations

import re

from oxlen.core.errors import BadInput
from oxlen.core.sky.place import Place

_DIGITS = r"\d{1,3}(?:[.,]\d{1,12})?"
"""Bounded, so that no text takes long to be found to be no position."""
_NUMBER = rf"[-+−]?{_DIGITS}"
_DECIMAL = re.compile(rf"({_NUMBER})\s?°?\s?(?:[,;]\s?|\s)({_NUMBER})\s?°?")
_ANGLE = (
    rf"({_DIGITS})\s?[°d]?(?:(?:(?<=[°d])|:|\s)\s?({_DIGITS})\s?['′’m]?"
    rf"(?:(?:(?<=['′’m])|:|\s)\s?({_DIGITS})\s?(?:[\"″”]|'')?)?)?"
)
MOST_CHARACTERS = 200
_SIDE = "([NSEWO])"
_SIDE_FIRST = re.compile(rf"{_SIDE}\s?{_ANGLE}\s?[,;]?\s?{_SIDE}\s?{_ANGLE}", re.IGNORECASE)
_SIDE_LAST = re.compile(rf"{_ANGLE}\s?{_SIDE}\s?[,;]?\s?{_ANGLE}\s?{_SIDE}", re.IGNORECASE)
_NO_POSITION = "Enter a position as 50.9, -1.25 or 50° 54' N, 1° 15' W."


def position_of(written: str) -> Place:
    """The place that a pasted text names; BadInput where it names none, OutOfRange beyond.

    >>> position_of("50.9, -1.25")
    Place(latitude_deg=50.9, longitude_deg=-1.25)
    >>> position_of("50° 54' 00\\" N  1° 15' W")
    Place(latitude_deg=50.9, longitude_deg=-1.25)
    """
    text = written[:MOST_CHARACTERS].strip().removeprefix("geo:").split("?")[0]
    text = re.sub(r"\s+", " ", text).strip()
    decimal = _DECIMAL.fullmatch(text)
    if decimal is not None:
        return Place(_number(decimal[1]), _number(decimal[2]))
    first, last = _SIDE_FIRST.fullmatch(text), _SIDE_LAST.fullmatch(text)
    if first is not None:
        parts = [first.groups()[:4], first.groups()[4:]]
    elif last is not None:
        parts = [(group[3], *group[:3]) for group in (last.groups()[:4], last.groups()[4:])]
    else:
        raise BadInput(_NO_POSITION, "position")
    found = dict(_side_and_degrees(part) for part in parts)
    if set(found) != {"north", "east"}:
        raise BadInput("A position needs one part north or south and one east or west.", "position")
    return Place(round(found["north"], 7), round(found["east"], 7))


def _side_and_degrees(part: tuple[str, ...]) -> tuple[str, float]:
    side, *angle = part
    degrees, minutes, seconds = (_number(part) if part else 0.0 for part in angle)
    if minutes >= 60 or seconds >= 60:
        raise BadInput("Minutes and seconds must be from 0 to 59.", "position")
    value = degrees + minutes / 60 + seconds / 3600
    axis = "north" if side.upper() in "NS" else "east"
    return axis, -value if side.upper() in "SW" else value


def _number(written: str) -> float:
    return float(written.replace(",", ".").replace("−", "-"))
