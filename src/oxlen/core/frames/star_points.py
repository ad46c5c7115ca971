"""Where the stars are in a frame, to a fraction of a pixel."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]
Points = NDArray[np.float64]
GROUND_PX = 31
"""The sky's own light is the median over so many pixels, at a quarter of the size."""
CLEAR_SIGMAS = 6.0
MAD_SIGMA = 1.4826
MOST_STARS = 400
WINDOW_PX, WINDOW_SIGMA_PX = 5, 1.8
ROUNDS = 6
"""Centres settle within so many steps. [HOWELL2006]"""
LARGEST_PX = 60
"""A bright thing of more pixels than this is no star."""


def star_points(luminance: Floats) -> Points:
    """Centres (n, 2) of the stars of a frame (h, w), as x and y in pixels, the brightest first.

    The middle of the first pixel is 0, 0. Centres by moments under a window that follows them.
    [HOWELL2006]
    """
    above = luminance - sky_ground(luminance)
    spread = MAD_SIGMA * float(np.median(np.abs(above[::4, ::4])))
    smooth = cv2.GaussianBlur(above, (0, 0), 1.0)
    # Smoothing over a few pixels takes most of the noise and little of a star.
    clear = smooth > max(CLEAR_SIGMAS * spread * 0.3, 1e-9)
    count, _, stats, centres = cv2.connectedComponentsWithStats(clear.astype(np.uint8))
    sizes = stats[1:count, cv2.CC_STAT_AREA]
    kept = np.nonzero((sizes >= 3) & (sizes <= LARGEST_PX))[0]
    places = np.asarray(centres[1:count], dtype=float)[kept]
    inside = _inside(places, luminance.shape)
    places = places[inside]
    rows, columns = np.rint(places[:, 1]).astype(int), np.rint(places[:, 0]).astype(int)
    order = np.argsort(-smooth[rows, columns])[:MOST_STARS]
    return _centred(above, places[order])


def sky_ground(luminance: Floats) -> Floats:
    """The light behind the stars: a wide median, made on a smaller picture."""
    small = cv2.resize(luminance, None, fx=0.25, fy=0.25, interpolation=cv2.INTER_AREA)
    top = max(float(np.quantile(small, 0.999)), 1e-12)
    codes = np.asarray(65535 * np.clip(small / top, 0, 1), dtype=np.uint16)
    # The library's median of 16 bits reaches over five pixels at most: it is made twice as wide.
    for _ in range(3):
        codes = np.asarray(cv2.medianBlur(codes, 5), dtype=np.uint16)
    even = cv2.blur(codes.astype(np.float32), (GROUND_PX // 4, GROUND_PX // 4))
    whole = cv2.resize(even, luminance.shape[::-1], interpolation=cv2.INTER_LINEAR)
    return np.asarray(whole * (top / 65535), dtype=np.float32)


def _inside(places: Points, shape: tuple[int, ...]) -> NDArray[np.bool_]:
    edge = WINDOW_PX + 1
    x, y = places[:, 0], places[:, 1]
    return (x >= edge) & (y >= edge) & (x < shape[1] - edge - 1) & (y < shape[0] - edge - 1)


def _centred(above: Floats, places: Points) -> Points:
    """Centres under a round window that is moved to where the last round found them."""
    if len(places) == 0:
        return places.reshape(0, 2)
    reach = np.arange(-WINDOW_PX, WINDOW_PX + 1)
    column, row = np.meshgrid(reach, reach)
    rounded = np.rint(places).astype(int)
    rows = rounded[:, 1, None, None] + row[None]
    columns = rounded[:, 0, None, None] + column[None]
    light = np.clip(above[rows, columns].astype(float), 0, None)
    centres = places.copy()
    for _ in range(ROUNDS):
        off_x = columns - centres[:, 0, None, None]
        off_y = rows - centres[:, 1, None, None]
        weight = light * np.exp(-(off_x**2 + off_y**2) / (2 * WINDOW_SIGMA_PX**2))
        total = np.maximum(weight.sum(axis=(1, 2)), 1e-12)
        # Under a window as wide as the star the moment moves half of the way: it is doubled.
        step = np.stack([(weight * off_x).sum(axis=(1, 2)), (weight * off_y).sum(axis=(1, 2))], 1)
        centres = centres + np.clip(2 * step / total[:, None], -1, 1)
    return centres
