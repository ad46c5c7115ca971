"""How long and how wide the stars of a frame are, by the turning sky and by the focus."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.star_points import CLEAR_SIGMAS, MAD_SIGMA, sky_ground

Floats = NDArray[np.float32]
Points = NDArray[np.float64]
LEAST_PX, LARGEST_PX = 4, 6000
MOST = 300
EDGE_PX = 3
FWHM_OF_SIGMA = 2.355
PIXEL_VARIANCE = 1 / 12
"""What a pixel's own size adds to every spread."""


@dataclass(frozen=True)
class StarShapes:
    """Stars of a frame: centres (n, 2) in pixels, lengths of their trails, widths across.

    A width is the full one at half of the height. `ground` (n,) is the sky's level about each,
    `tensors` (n, 2) how it spreads along x more than along y, and along the slants; `light` (n,)
    all of its light, in levels.
    """

    centres: Points
    lengths_px: NDArray[np.float64]
    widths_px: NDArray[np.float64]
    ground: NDArray[np.float64]
    tensors: NDArray[np.float64]
    light: NDArray[np.float64]


def star_shapes(luminance: Floats) -> StarShapes:
    """Shapes of the clear stars of a frame (h, w), the brightest 300 of them.

    Of each the spread along and across, by moments over what is brighter than the sky; an even line
    of length L spreads by L²/12. Lengths of stars near each other point the same way, grain does
    not: `tensors` (n, 2) holds the difference of the spreads along x and y, and along the slants,
    whose median is free of it. [HOWELL2006]
    """
    ground = sky_ground(luminance)
    above = luminance - ground
    spread = MAD_SIGMA * float(np.median(np.abs(above[::4, ::4])))
    smooth = cv2.GaussianBlur(above, (0, 0), 1.0)
    clear = (smooth > max(CLEAR_SIGMAS * spread * 0.3, 1e-9)).astype(np.uint8)
    count, found_labels, stats, _ = cv2.connectedComponentsWithStats(clear)
    labels = np.asarray(found_labels, dtype=np.int32)
    sizes = stats[:, cv2.CC_STAT_AREA]
    named = [at for at in range(1, count) if LEAST_PX <= sizes[at] <= LARGEST_PX]
    found = [_shape(above, labels, at, box=stats[at].tolist()) for at in named]
    reported = sorted((shape for shape in found if shape is not None), key=lambda shape: -shape[0])[
        :MOST
    ]
    if not reported:
        none = np.zeros(0)
        empty = np.zeros((0, 2))
        return StarShapes(empty, none, none, ground=none, tensors=empty, light=none)
    light, x, y, length, width, straight, slanted = np.array(reported).T
    columns, rows = np.rint(x).astype(int), np.rint(y).astype(int)
    return StarShapes(
        np.column_stack([x, y]),
        length,
        width,
        ground=np.asarray(ground[rows, columns], float),
        tensors=np.column_stack([straight, slanted]),
        light=light,
    )


def _shape(
    above: Floats, labels: NDArray[np.int32], at: int, *, box: list[int]
) -> tuple[float, ...] | None:
    """Brightness, centre, length and width of one star; None at the frame's edge."""
    left, top, wide, high = box[:4]
    if left < EDGE_PX or top < EDGE_PX:
        return None
    rows = slice(top - EDGE_PX, top + high + EDGE_PX)
    columns = slice(left - EDGE_PX, left + wide + EDGE_PX)
    own, others = labels[rows, columns] == at, labels[rows, columns]
    if others.shape != (high + 2 * EDGE_PX, wide + 2 * EDGE_PX):
        return None
    # Its dim rim counts too, or every star would seem smaller than it is; its neighbours do not.
    light = np.where(own | (others == 0), np.clip(above[rows, columns], 0, None), 0).astype(float)
    total = float(light.sum())
    row, column = np.indices(light.shape)
    x, y = float((light * column).sum() / total), float((light * row).sum() / total)
    spread = np.array(
        [
            [(light * (column - x) ** 2).sum(), (light * (column - x) * (row - y)).sum()],
            [(light * (column - x) * (row - y)).sum(), (light * (row - y) ** 2).sum()],
        ]
    )
    spread /= total
    across, along = np.linalg.eigvalsh(spread)
    length = np.sqrt(12 * max(along - across, 0.0))
    width = FWHM_OF_SIGMA * np.sqrt(max(across - PIXEL_VARIANCE, 0.0))
    straight, slanted = float(spread[0, 0] - spread[1, 1]), float(2 * spread[0, 1])
    place = left - EDGE_PX + x, top - EDGE_PX + y
    return total, *place, float(length), float(width), straight, slanted
