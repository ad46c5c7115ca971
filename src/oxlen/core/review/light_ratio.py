"""How much more light a take holds than the picture it was planned by, from all they share."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.review.alignment import Alignment, laid_on

Floats = NDArray[np.float32]
SIDE_PX = 480
"""Both are compared this large: detail, and what moved a little, is averaged out."""
TOP_SHARE, FLOOR_SHARE = 0.55, 0.004
"""Shares of a picture's brightest between which its tones are to be trusted."""
LEAST_PIXELS = 400


def light_ratio_stops(reference: Floats, take: Floats, alignment: Alignment) -> float | None:
    """Median of take over reference in stops, linear luminance (h, w) each at its own scale.

    Counts only what is neither near white nor near black in both. None where that is too little.
    """
    height, width = reference.shape
    laid = laid_on(take, alignment, (width, height))
    scale = min(1.0, SIDE_PX / max(width, height))
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    first, second = (
        np.asarray(cv2.resize(one, size, interpolation=cv2.INTER_AREA), dtype=np.float32)
        for one in (reference, laid)
    )
    counts = trusted(first, float(reference.max())) & trusted(second, float(take.max()))
    if int(counts.sum()) < LEAST_PIXELS:
        return None
    return float(np.median(np.log2(second[counts] / first[counts])))


def trusted(light: Floats, brightest: float) -> NDArray[np.bool_]:
    """Where a picture is neither near white nor near black, its `brightest` given."""
    with np.errstate(invalid="ignore"):  # nan lies outside the take: neither above nor below
        return (light > FLOOR_SHARE * brightest) & (light < TOP_SHARE * brightest)
