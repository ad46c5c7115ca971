"""Positions as people paste them: decimal degrees, or degrees, minutes and seconds with a side."""

from __future__ import annotations

import re

from oxlen.core.errors import BadInput
from oxlen.core.sky.place import Place

_NUMBER = r"[-+−]?\d+(?:[.,]\d+)?"
_DECIMAL = re.compile(rf"\s*({_NUMBER})\s*°?\s*[,;\s]\s*({_NUMBER})\s*°?\s*")
_PART = re.compile(
    r"(?:([NSEWO])\s*)?(\d+(?:[.,]\d+)?)\s*[°d:\s]\s*(?:(\d+(?:[.,]\d+)?)\s*['′’m:\s]\s*)?"
    r"(?:(\d+(?:[.,]\d+)?)\s*[\"″”s]?\s*)?([NSEWO])?",
    re.IGNORECASE,
)


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
    sides = re.findall(r"[NSEWO]", text, re.IGNORECASE)
    parts = [one for one in _PART.finditer(text) if one[1] or one[5]]
    if len(sides) != 2 or len(parts) != 2:
        raise BadInput("Say a position as 50.9, -1.25 or as 50° 54' N, 1° 15' W.", "position")
    found = dict(_side_and_degrees(one) for one in parts)
    if set(found) != {"north", "east"}:
        raise BadInput("A position has one part north or south and one east or west.", "position")
    return Place(round(found["north"], 7), round(found["east"], 7))


def _side_and_degrees(part: re.Match[str]) -> tuple[str, float]:
    side = (part[1] or part[5]).upper()
    degrees, minutes, seconds = (_number(one) if one else 0.0 for one in part.group(2, 3, 4))
    value = degrees + minutes / 60 + seconds / 3600
    axis = "north" if side in "NS" else "east"
    return axis, -value if side in "SW" else value


def _number(written: str) -> float:
    return float(written.replace(",", ".").replace("−", "-"))
