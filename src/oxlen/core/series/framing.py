"""The one crop of a series: its shape, and the room around the thing."""

from __future__ import annotations

from dataclasses import dataclass

Box = tuple[float, float, float, float]
"""Left, top, right and bottom as shares of a frame's sides."""
WHOLE: Box = (0.0, 0.0, 1.0, 1.0)
MOST_MARGIN = 0.4


@dataclass(frozen=True)
class Framing:
    """How a series is cropped: width over height (None: as shot) and the room around the thing.

    `thing` is the reference's thing. `margin` (0 to 0.4) is the share of the crop left free on each
    side of the thing's longer way; None keeps as much of the frame as there is.
    """

    thing: Box
    aspect: float | None = None
    margin: float | None = None


def framed(framing: Framing, whole: Box, shape: tuple[int, int]) -> Box:
    """The crop about the thing within what all takes show; smaller margins where room is short.

    `shape` is height and width of the frame in pixels.
    """
    height, width = shape
    left, top, right, bottom = framing.thing
    middle = (left + right) / 2 * width, (top + bottom) / 2 * height
    room = [whole[0] * width, whole[1] * height, whole[2] * width, whole[3] * height]
    aspect = framing.aspect or (room[2] - room[0]) / (room[3] - room[1])
    wide = min(room[2] - room[0], (room[3] - room[1]) * aspect)
    if framing.margin is not None:
        free = 1 - 2 * min(framing.margin, MOST_MARGIN)
        wanted = max((right - left) * width, (bottom - top) * height * aspect) / free
        wide = min(wide, wanted)
    x = _kept_inside(middle[0], wide / 2, (room[0], room[2]))
    y = _kept_inside(middle[1], wide / aspect / 2, (room[1], room[3]))
    return (
        (x - wide / 2) / width,
        (y - wide / aspect / 2) / height,
        (x + wide / 2) / width,
        (y + wide / aspect / 2) / height,
    )


def _kept_inside(middle: float, half: float, ends: tuple[float, float]) -> float:
    return min(max(middle, ends[0] + half), ends[1] - half)
