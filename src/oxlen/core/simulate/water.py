"""Water at another moment: what it shows is carried about by waves, begun anew for each take."""

from __future__ import annotations

from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.simulate.randomness import RandomSource
from oxlen.core.simulate.scene import Floats

GRAVITY_M_S2 = 9.81
WAVES = ((0.9, 20.0), (0.52, -35.0), (0.31, 70.0))
"""Ripples of a creek in a light wind: length (m) and heading (degrees from across the picture)."""
CARRIED_SHARE = 0.028
"""How far a wave carries what is seen in the water, as a share of its length."""
FURTHEST_PX = 7.0
COARSE_PX = 4
"""Waves are worked out on every so many pixels and interpolated: they are longer than that."""
DRIFT_S = 0.3
"""A take finds what flows up to so many seconds earlier or later than the scene has it."""
DRIFT_EDGE_SHARE = 0.4
FURTHEST_DRIFT_PX = 40.0


def wave_hz(length_m: float) -> float:
    """How often waves of a length pass a place in deep water: ω² = g·k. [LAMB1932]

    >>> f"{wave_hz(0.9):.2f}"
    '1.32'
    """
    return float(np.sqrt(GRAVITY_M_S2 * 2 * np.pi / length_m) / (2 * np.pi))


def carried_px(
    distance_m: Floats,
    pixels_per_radian: float,
    shutter_s: float,
    *,
    random: RandomSource,
    left: int,
) -> tuple[Floats, Floats]:
    """Pixels (right, down) that waves carry every `COARSE_PX`-th pixel of `distance_m` (h, w).

    `left` is the first column's place from the picture's middle. A wave that passes during the
    exposure is averaged away, as the sinc of its frequency and the shutter time.
    """
    height, width = distance_m.shape
    rows, columns = np.mgrid[0:height:COARSE_PX, 0:width:COARSE_PX].astype(np.float32)
    away = np.ascontiguousarray(distance_m[::COARSE_PX, ::COARSE_PX])
    across_m = (columns + left) * away / pixels_per_radian
    along_m = away + rows * away / pixels_per_radian
    right = np.zeros_like(away)
    down = np.zeros_like(away)
    for length_m, heading_deg in WAVES:
        # Plain floats: numpy's own would make every array twice as wide.
        turn, begin = float(np.radians(heading_deg)), random.share()
        across, ahead = float(np.cos(turn)), float(np.sin(turn))
        along = (across_m * across + along_m * ahead) * (2 * np.pi / length_m)
        unaveraged = abs(float(np.sinc(wave_hz(length_m) * shutter_s)))
        reach_m = (CARRIED_SHARE * length_m * unaveraged) * np.sin(along + 2 * np.pi * begin)
        right += reach_m * across
        down += reach_m
    scale = pixels_per_radian / away
    return _held(right * scale), _held(down * scale)


def drifted_px(
    mask: NDArray[np.uint8],
    distance_m: Floats,
    pixels_per_radian: float,
    *,
    speed_m_s: float,
    angle_deg: float,
    random: RandomSource,
) -> tuple[Floats, Floats]:
    """Pixels (right, down) that a stream has carried its texture, on every `COARSE_PX`-th pixel.

    The pattern travels with the flow as if frozen [TAYLOR1938]; towards the edges of the mask
    (h, w) it goes less far, so that nothing is drawn in from outside.
    """
    after_m = speed_m_s * DRIFT_S * (2 * random.share() - 1)
    away = np.ascontiguousarray(distance_m[::COARSE_PX, ::COARSE_PX])
    inside = np.pad(mask[::COARSE_PX, ::COARSE_PX], 1)
    to_edge_px = COARSE_PX * cv2.distanceTransform(inside, cv2.DIST_L2, 3)[1:-1, 1:-1]
    most = np.minimum(DRIFT_EDGE_SHARE * to_edge_px, FURTHEST_DRIFT_PX)
    length = np.clip(after_m * pixels_per_radian / away, -most, most).astype(np.float32)
    along = np.radians(angle_deg)
    return length * np.float32(np.cos(along)), length * np.float32(np.sin(along))


def at_another_moment(
    image: Floats, mask: NDArray[np.uint8], carried: tuple[Floats, Floats]
) -> None:
    """Carry what is under the mask of an image (h, w, 3), in place; nothing is drawn in.

    `carried` is given on every `COARSE_PX`-th pixel.
    """
    columns, rows = _places(mask.shape[1], mask.shape[0])
    x, y = (spread(coarse, mask.shape) for coarse in carried)
    x += columns
    y += rows
    there = cv2.remap(mask, x, y, cv2.INTER_NEAREST)
    seen = cv2.remap(image, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    cv2.copyTo(seen, there * mask, image)


@lru_cache(maxsize=8)
def _places(width: int, height: int) -> tuple[Floats, Floats]:
    rows, columns = np.mgrid[0:height, 0:width].astype(np.float32)
    return columns, rows


def spread(coarse: Floats, shape: tuple[int, ...]) -> Floats:
    """What is known on every `COARSE_PX`-th pixel, on all of a shape (h, w)."""
    size = (shape[1], shape[0])
    return np.asarray(cv2.resize(coarse, size, interpolation=cv2.INTER_LINEAR))


def _held(coarse: Floats) -> Floats:
    return np.clip(coarse, -FURTHEST_PX, FURTHEST_PX).astype(np.float32)
