"""The winds a bearing is named by."""

from __future__ import annotations

COMPASS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")


def compass(bearing_deg: float) -> str:
    """The nearest of eight winds.

    >>> compass(190.0)
    'south'
    """
    return COMPASS[round(bearing_deg / 45) % 8]
