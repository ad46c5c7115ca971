"""Positions as people paste them: decimal degrees, or degrees, minutes and seconds with a side."""

from __future__ import annotations

import re

from oxlen.core.errors import BadInput
from oxlen.core.sky.place import Place

_NUMBER = r"[-+−]?\d+(?:[.,]\d+)?"
_DECIMAL = re.compile(rf"\s*({_NUMBER})\s*°?\s*[,;\s]\s*({_NUMBER})\s*°?\s*")
_ANGLE = (
    r"(\d+(?:[.,]\d+)?)\s*[°d:\s]?\s*(?:(\d+(?:[.,]\d+)?)\s*['′’m:]\s*)?"
    r"(?:(\d+(?:[.,]\d+)?)\s*[\"″”s]\s*)?"
)
_SIDE = "([NSEWO])"
_SIDE_FIRST = re.compile(rf"{_SIDE}\s*{_ANGLE}", re.IGNORECASE)
_SIDE_LAST = re.compile(rf"{_ANGLE}\s*{_SIDE}", re.IGNORECASE)


def position_of(written: str) -> Place:
    """The place that a pasted text names; BadInput where it names none, OutOfRange beyond.

    >>> position_of("50.9, -1.25")
    Place(latitude_deg=50.9, longitude_deg=-1.25)
    >>> position_of("50° 54' 00\\" N  1° 15' W")
    Place(latitude_deg=50.9, longitude_deg=-1.25)
    """
    text = written.strip().removeprefix("geo:").split("?")[0]
    decimal = _DECIMAL.fullmatch(text)
    if decimal is not None:
        return Place(_number(decimal[1]), _number(decimal[2]))
    is_first = text[:1].upper() in "NSEWO" and text != ""
    parts = (_SIDE_FIRST if is_first else _SIDE_LAST).findall(text)
    if len(parts) != 2:
        raise BadInput("Say a position as 50.9, -1.25 or as 50° 54' N, 1° 15' W.", "position")
    if not is_first:
        parts = [(one[-1], *one[:-1]) for one in parts]
    found = dict(_side_and_degrees(one) for one in parts)
    if set(found) != {"north", "east"}:
        raise BadInput("A position has one part north or south and one east or west.", "position")
    return Place(round(found["north"], 7), round(found["east"], 7))


def _side_and_degrees(part: tuple[str, ...]) -> tuple[str, float]:
    side, *angle = part
    degrees, minutes, seconds = (_number(one) if one else 0.0 for one in angle)
    value = degrees + minutes / 60 + seconds / 3600
    axis = "north" if side.upper() in "NS" else "east"
    return axis, -value if side.upper() in "SW" else value


def _number(written: str) -> float:
    return float(written.replace(",", ".").replace("−", "-"))
