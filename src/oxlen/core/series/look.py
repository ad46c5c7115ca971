"""What is measured of a take of a series, once: its thing, its light, its edges."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import CLIPPED_CODE
from oxlen.core.light.meter import Spot
from oxlen.core.light.tone import linear_table
from oxlen.core.series.edge_blur import edge_blur_px
from oxlen.core.series.thing import Mask, Thing, thing_in

SMALL_PX, LOOK_PX = 480, 1600
"""Own choice: the longest side a thing and its light are measured at, and its edges."""
Floats = NDArray[np.float32]
Highest = tuple[float, float, float]


@dataclass(frozen=True)
class GreyPatch:
    """The mean linear colour of a grey patch, shape (3,), and the share of it that clipped."""

    colour: NDArray[np.float64]
    clipped_share: float


@dataclass(frozen=True)
class SeriesLook:
    """A take as the check needs it; small pictures only, so a long series fits in memory.

    `linear` (h, w, 3) is in shares of white, `lost` (h, w) marks what clips in it. `thing` is None
    where the background is too busy. `clipped_share` is of the thing, `blur_px` of its edges at
    1600 px across; None where it has none. `highest` is the most of each linear
    channel that the thing has without being clipped.
    """

    linear: Floats
    lost: Mask
    thing: Thing | None
    clipped_share: float
    blur_px: float | None
    highest: Highest
    grey: GreyPatch | None = None

    @cached_property
    def lightness(self) -> Floats:
        """Near to how light it looks, 0 to 1, shape (h, w)."""
        return np.asarray(cv2.cvtColor(np.sqrt(self.linear), cv2.COLOR_RGB2GRAY), dtype=np.float32)

    @cached_property
    def background(self) -> Mask:
        """Where the background is, a little away from the thing."""
        if self.thing is None:
            return np.zeros(self.lost.shape, dtype=bool)
        near = cv2.dilate(self.thing.mask.astype(np.uint8), np.ones((9, 9), np.uint8))
        return np.asarray(near == 0, dtype=bool)


def series_look(codes: NDArray[np.uint8], grey: Spot | None = None) -> SeriesLook:
    """Measure a take from its sRGB codes (h, w, 3), some 1600 px across. [IEC61966-2-1]"""
    height, width = codes.shape[:2]
    scale = min(1.0, SMALL_PX / max(height, width))
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    resized = cv2.resize(codes, size, interpolation=cv2.INTER_AREA)
    small = np.asarray(resized, dtype=np.uint8)
    linear = np.take(linear_table(255), small)
    thing = thing_in(small)
    clipped, blur, highest = _of_thing(codes, thing)
    return SeriesLook(
        linear=np.asarray(linear, dtype=np.float32),
        lost=np.asarray(_highest_code(small) >= CLIPPED_CODE),
        thing=thing,
        clipped_share=clipped,
        blur_px=blur,
        highest=highest,
        grey=None if grey is None else _grey(codes, grey),
    )


def _of_thing(codes: NDArray[np.uint8], thing: Thing | None) -> tuple[float, float | None, Highest]:
    """Clipped share of the thing, the blur of its edges, and its highest codes as light."""
    if thing is None:
        return 0.0, None, (0.0, 0.0, 0.0)
    height, width = codes.shape[:2]
    left, top, right, bottom = thing.box
    rows = slice(int(top * height), max(int(top * height) + 1, round(bottom * height)))
    columns = slice(int(left * width), max(int(left * width) + 1, round(right * width)))
    cut = codes[rows, columns]
    mask = np.asarray(
        cv2.resize(thing.mask.astype(np.uint8), (width, height), interpolation=cv2.INTER_NEAREST)
    )[rows, columns]
    is_clipped = _highest_code(cut) >= CLIPPED_CODE
    lost = is_clipped & (mask > 0)
    grey = np.asarray(cv2.cvtColor(cut, cv2.COLOR_RGB2GRAY), dtype=np.float32)
    luma = grey / np.float32(255)
    kept = cut[(mask > 0) & ~is_clipped]
    codes_most = kept.max(axis=0, initial=0) if kept.size else np.zeros(3, np.uint8)
    red, green, blue = (float(linear_table(255)[code]) for code in codes_most)
    clipped = float(lost.sum() / max(1, mask.sum()))
    return clipped, edge_blur_px(luma), (red, green, blue)


def _highest_code(codes: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """The strongest channel of each pixel; several times as fast as a maximum over an axis of 3."""
    return np.maximum(np.maximum(codes[..., 0], codes[..., 1]), codes[..., 2])


def _grey(codes: NDArray[np.uint8], spot: Spot) -> GreyPatch:
    pixels = codes[_box_of(codes, spot)]
    linear = np.take(linear_table(255), pixels).astype(float)
    return GreyPatch(
        np.asarray(np.mean(linear, axis=0), dtype=float),
        float(np.mean(pixels.max(axis=-1) >= CLIPPED_CODE)),
    )


def _box_of(codes: NDArray[np.uint8], spot: Spot) -> Mask:
    """The spot's pixels as a mask of the whole picture."""
    height, width = codes.shape[:2]
    rows, columns = np.indices((height, width), sparse=True)
    reach = spot.r * min(height, width)
    away = (columns + 0.5 - spot.x * width) ** 2 + (rows + 0.5 - spot.y * height) ** 2
    return np.asarray(away <= max(reach, 1.0) ** 2)
