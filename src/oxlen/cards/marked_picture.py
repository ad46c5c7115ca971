"""A sheet's picture with its spots, small enough for a card."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from PIL import Image, ImageDraw

from oxlen.core.decisions.framework.brief import KEEP_BRIGHT, KEEP_DARK, NEUTRAL, SpotRole

LONG_SIDE_PX = 480
MARK_SHARE = 0.028
"""Half the size of a mark, as a share of the picture's long side. Own choice."""
QUALITY = 70


@dataclass(frozen=True)
class MarkedSpot:
    """Where a mark goes (shares of the picture's sides), and whose it is."""

    x: float
    y: float
    role: SpotRole


@dataclass(frozen=True)
class MarkedPicture:
    """A picture's preview, and the spots that are marked on it."""

    preview: Path
    spots: Sequence[MarkedSpot]


def marked_jpeg(marked: MarkedPicture) -> bytes | None:
    """The picture with its marks, as a JPEG; None where there is no preview that can be read."""
    try:
        with Image.open(marked.preview) as opened:
            opened.draft("RGB", (LONG_SIDE_PX, LONG_SIDE_PX))  # decoded at a fraction of its size
            picture = opened.convert("RGB")
    except OSError:
        return None
    picture.thumbnail((LONG_SIDE_PX, LONG_SIDE_PX))
    pen = ImageDraw.Draw(picture)
    half = MARK_SHARE * max(picture.size)
    for spot in marked.spots:
        _mark(pen, (spot.x * picture.width, spot.y * picture.height), spot.role, half=half)
    made = io.BytesIO()
    picture.save(made, "JPEG", quality=QUALITY)
    return made.getvalue()


def _mark(
    pen: ImageDraw.ImageDraw, at: tuple[float, float], role: SpotRole, *, half: float
) -> None:
    """A role by its shape, as on screen: white, with a dark edge for bright pictures."""
    x, y = at
    box = (x - half, y - half, x + half, y + half)
    for colour, width in (("black", 5), ("white", 2)):
        if role == KEEP_BRIGHT:
            pen.polygon(_triangle(at, half, up=True), outline=colour, width=width)
        elif role == KEEP_DARK:
            pen.polygon(_triangle(at, half, up=False), outline=colour, width=width)
        elif role == NEUTRAL:
            pen.rectangle(box, outline=colour, width=width)
        else:
            pen.ellipse(box, outline=colour, width=width)


def _triangle(at: tuple[float, float], half: float, *, up: bool) -> list[tuple[float, float]]:
    (x, y), way = at, 1 if up else -1
    return [(x, y - way * half), (x + half, y + way * half), (x - half, y + way * half)]
