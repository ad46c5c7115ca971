"""What a series is handed over for: size, format and file size of each use."""

from __future__ import annotations

import io
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.errors import BadInput
from oxlen.pictures.srgb_profile import srgb_profile

FileKind = Literal["jpeg", "png", "tiff", "webp"]
ENDINGS: dict[FileKind, str] = {"jpeg": ".jpg", "png": ".png", "tiff": ".tif", "webp": ".webp"}
BEST, LOWEST = 92, 55
"""Qualities of JPEG and WebP: no better one is written, and none that shows blocks."""
FINDING = 5


@dataclass(frozen=True)
class Use:
    """A use: the longest side at most (px; None as shot), the format, the largest file (kB)."""

    id: str
    name: str
    side_px: int | None
    kind: FileKind = "jpeg"
    most_kb: int | None = None


SHOP = Use("shop", "Web shop", 1600, most_kb=400)
MENU = Use("menu", "Menu", 1000, most_kb=150)
PRINT = Use("print", "Print", None, kind="tiff")
FULL = Use("full", "Full size", None)
USES = {use.id: use for use in (SHOP, MENU, PRINT, FULL)}


def use_of(use_id: str) -> Use:
    """A use by its id; BadInput names those there are."""
    if use_id not in USES:
        raise BadInput(f"A use is one of {', '.join(USES)}.", "uses")
    return USES[use_id]


def written_for(codes: NDArray[np.uint8], use: Use, exif: Image.Exif | None = None) -> bytes:
    """A picture's sRGB codes (h, w, 3) as a file for a use, tagged as sRGB.

    Where the use limits the file, its quality is the best that fits, and not below 55.
    """
    image = Image.fromarray(codes)
    if use.side_px is not None:
        image.thumbnail((use.side_px, use.side_px), Image.Resampling.LANCZOS)
    made = _encoded(image, use.kind, quality=BEST, exif=exif)
    if use.most_kb is None or len(made) <= use.most_kb * 1000 or use.kind in ("png", "tiff"):
        return made
    return _fitted(image, use.kind, use.most_kb * 1000, exif=exif)


def _fitted(image: Image.Image, kind: FileKind, most: int, *, exif: Image.Exif | None) -> bytes:
    low, high = LOWEST, BEST
    best = _encoded(image, kind, quality=low, exif=exif)
    for _ in range(FINDING):
        middle = (low + high) // 2
        made = _encoded(image, kind, quality=middle, exif=exif)
        if len(made) <= most:
            low, best = middle, made
        else:
            high = middle
    return best


def _encoded(image: Image.Image, kind: FileKind, *, quality: int, exif: Image.Exif | None) -> bytes:
    made = io.BytesIO()
    more: dict[str, Any] = (
        {"exif": exif} if exif is not None and kind in ("jpeg", "webp", "png") else {}
    )
    if kind in ("jpeg", "webp"):
        more["quality"] = quality
    if kind == "tiff":
        more["compression"] = "tiff_adobe_deflate"
    image.save(made, kind.upper(), icc_profile=srgb_profile(), **more)
    return made.getvalue()
