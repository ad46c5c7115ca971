"""Pixels that shine in the dark: found in a frame with the lens covered, mended in the others."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

MAD_SIGMA, CLEAR_SIGMAS = 1.4826, 8.0
LEAST_OF_TOP = 0.01
"""A pixel that differs by less than this of white is not seen."""


def hot_pixels(levels: NDArray[Any], top: float) -> NDArray[np.bool_]:
    """Which pixels (h, w) of a dark frame's levels (h, w[, 3]) differ from their surroundings.

    A pixel is hot where any channel is eight deviations, and a hundredth of white, over the
    median about it. `top` is the level of white, positive. [HOWELL2006]
    """
    channels = levels[..., None] if levels.ndim == 2 else levels
    hot = np.zeros(levels.shape[:2], dtype=bool)
    for at in range(channels.shape[2]):
        channel = np.ascontiguousarray(channels[..., at])
        above = channel.astype(np.float32) - cv2.medianBlur(channel.astype(np.uint16), 5)
        spread = MAD_SIGMA * float(np.median(np.abs(above)))
        hot |= above > max(CLEAR_SIGMAS * spread, LEAST_OF_TOP * top)
    return hot


def mended(values: NDArray[Any], hot: NDArray[np.bool_], *, mosaic: bool) -> NDArray[Any]:
    """Values (h, w[, 3]) with hot pixels (h, w) in place of the median about them.

    In a mosaic only pixels of the same colour count: every other one each way. [HOWELL2006]
    """
    kept = values.copy()
    phases = [(row, column) for row in (0, 1) for column in (0, 1)] if mosaic else [(0, 0)]
    step = 2 if mosaic else 1
    for row, column in phases:
        part = np.ascontiguousarray(values[row::step, column::step])
        bad = hot[row::step, column::step]
        calm = np.asarray(cv2.medianBlur(part, 5 if part.dtype == np.uint8 else 3))
        view = kept[row::step, column::step]
        view[bad] = calm[bad]
    return kept
