"""How fast something flows, and how long its ripples are, from two frames a known time apart."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.units import require_positive

Floats = NDArray[np.float32]
FLOOR = 2e-3
"""Own choice: linear light under which a phone's file is noise."""
MAD_SIGMA = 1.4826
"""Exact: a normal spread over its median deviation, 1/Φ⁻¹(0.75). [ROUSSEEUW1993]"""
LEAST_TEXTURE = 1.5
"""Codes that a place must differ by from its surroundings: plain water tells nothing. Own
choice."""
LEAST_PLACES = 60
PATCH_PX = 15
"""Neighbours so near tell the same: they count once for the ±."""
CLEAR, FINEST = 6.0, 3
"""Ripples must be so much stronger than the finest waves, in which there is nothing but grain. Own
choice."""
LEAST_PERIODS = 3.0
"""Ripples must fit so many times into the region to differ from its own shape. Own choice.
[WELCH1967]"""


@dataclass(frozen=True)
class Flow:
    """A flow in pixels: over the time between the frames, its way (0° right, 90° down), the ±.

    `places` of the region showed it.
    """

    px: float
    angle_deg: float
    plus_minus_px: float
    places: int


def flow_between(first: Floats, second: Floats) -> Flow | None:
    """The flow that most of a region (h, w) has made from one frame to the next; None where plain.

    Dense optical flow of the tones in stops, then the median over what has texture. Holds for what
    moves less than a quarter of the region. [FARNEBACK2003]
    """
    level, other = _codes(first), _codes(second)
    levels = max(1, int(np.log2(max(2, min(level.shape) // 24))))
    field = cv2.calcOpticalFlowFarneback(
        level,
        other,
        np.zeros((*level.shape, 2), dtype=np.float32),
        pyr_scale=0.5,
        levels=levels,
        winsize=21,
        iterations=5,
        poly_n=7,
        poly_sigma=1.5,
        flags=0,
    )
    texture = np.abs(
        level.astype(np.float32) - cv2.GaussianBlur(level, (0, 0), 3).astype(np.float32)
    )
    edge = max(2, min(level.shape) // 10)
    reported = np.zeros(level.shape, dtype=bool)
    reported[edge:-edge, edge:-edge] = texture[edge:-edge, edge:-edge] > LEAST_TEXTURE
    if int(reported.sum()) < LEAST_PLACES:
        return None
    vectors = np.asarray(field, dtype=float)[reported]
    middle = np.median(vectors, axis=0)
    spread = MAD_SIGMA * np.median(np.hypot(*(vectors - middle).T))
    alone = max(1.0, reported.sum() / PATCH_PX**2)
    return Flow(
        float(np.hypot(*middle)),
        float(np.degrees(np.arctan2(middle[1], middle[0]))) % 360,
        plus_minus_px=float(2 * spread / np.sqrt(alone)),
        places=int(reported.sum()),
    )


def ripple_length_px(region: Floats) -> float | None:
    """Length (px) of the ripples that are clear in a region (h, w); None where none do.

    The centre of the strongest band of its spectrum, across as well as down. Takes the
    logs of positive light, so finite ones. [WELCH1967]

    >>> columns = np.arange(128) * np.ones((128, 1))
    >>> f"{ripple_length_px(np.exp(np.sin(columns / 2)).astype(np.float32)):.0f}"
    '13'
    """
    stops = np.log2(np.maximum(region, FLOOR * float(region.max() or 1.0)))
    window = np.outer(np.hanning(stops.shape[0]), np.hanning(stops.shape[1]))
    smooth = cv2.GaussianBlur(stops, (0, 0), min(stops.shape) / 6)
    power = np.abs(np.fft.rfft2((stops - smooth) * window)) ** 2
    down = np.fft.fftfreq(stops.shape[0])[:, None]
    radius = np.hypot(down, np.fft.rfftfreq(stops.shape[1])[None, :])
    edges = np.geomspace(LEAST_PERIODS / min(stops.shape), 0.35, 16)
    bands = np.digitize(radius, edges)
    sums = np.array([power[bands == at].sum() for at in range(1, len(edges))])
    counts = np.array([max(1, int((bands == at).sum())) for at in range(1, len(edges))])
    best = int(np.argmax(sums)) + 1
    if (sums / counts)[best - 1] < CLEAR * float(np.median((sums / counts)[-FINEST:])):
        return None  # grain is as strong in every wave
    inside = bands == best
    return float(power[inside].sum()) / float((power[inside] * radius[inside]).sum())


def metres_a_pixel(distance_m: float, focal_mm: float, pitch_um: float) -> float:
    """Length (m) that a pixel covers at a distance (m), square to the view: D·p/f.

    Takes positive figures; pitch in µm of the pixels counted. By similar triangles. [RAY2002]

    >>> f"{1000 * metres_a_pixel(5.0, 6.81, 1.22):.2f} mm"
    '0.90 mm'
    """
    require_positive("distance", distance_m, "m")
    return distance_m * pitch_um / (1000 * float(require_positive("focal_mm", focal_mm, "mm")))


def _codes(light: Floats) -> NDArray[np.uint8]:
    top = max(float(np.quantile(light, 0.98)), 1e-9)
    stops = np.log2(np.clip(light / top, FLOOR, 1.2))
    return np.asarray(np.clip(255 * (1 - stops / np.log2(FLOOR)) * 0.95, 0, 255), dtype=np.uint8)
