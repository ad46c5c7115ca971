"""How much more light a take holds than the picture it was planned by, from all they share."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.alignment import Alignment

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
    first, second = aligned_small(reference, take, alignment, side_px=SIDE_PX)
    counts = trusted(first, float(reference.max())) & trusted(second, float(take.max()))
    if int(counts.sum()) < LEAST_PIXELS:
        return None
    return float(np.median(np.log2(second[counts] / first[counts])))


def aligned_small(
    reference: Floats, take: Floats, alignment: Alignment, *, side_px: int
) -> tuple[Floats, Floats]:
    """Both at the reference's places, at most `side_px` large; nan outside the take."""
    height, width = reference.shape
    scale = min(1.0, side_px / max(width, height))
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    first = cv2.resize(reference, size, interpolation=cv2.INTER_AREA)
    # The take is shrunk first, evenly: laying a large one down would take most of the time.
    by = min(1.0, scale / max(alignment.scale * reference.shape[1] / take.shape[1], 1e-6))
    shrunk = (max(1, round(take.shape[1] * by)), max(1, round(take.shape[0] * by)))
    less = cv2.resize(take, shrunk, interpolation=cv2.INTER_AREA) if by < 1 else take
    to_take = np.diag([less.shape[1] / take.shape[1], less.shape[0] / take.shape[0]])
    matrix = to_take @ alignment.matrix
    matrix[:, :2] = matrix[:, :2] / scale
    second = cv2.warpAffine(
        less,
        matrix,
        size,
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_CONSTANT,
        borderValue=float("nan"),
    )
    return np.asarray(first, dtype=np.float32), np.asarray(second, dtype=np.float32)


def trusted(light: Floats, brightest: float) -> NDArray[np.bool_]:
    """Where a picture is neither near white nor near black, its `brightest` given."""
    with np.errstate(invalid="ignore"):  # nan is outside the take: neither above nor below
        return (light > FLOOR_SHARE * brightest) & (light < TOP_SHARE * brightest)
