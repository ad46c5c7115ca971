"""Where the foreground ends under a lighter sky, and how two skylines align."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.feature_alignment import FrameAlignment

Light = NDArray[np.float32]
SIDE_PX = 2016
FIT_PX = 160
APART_STOPS = 1.0
"""Foreground is so much darker than the sky beside it, or the two cannot be separated."""
JUST_BELOW, ALIKE_STOPS = 0.1, 0.5
"""So far under the line, in shares of the height, sky is looked for; so near to it in stops."""
ROUNDS, FLOOR = 8, 1e-6
SOFT_PX, CLEAN_PX = 0.8, 1.2
ALIGNED_SIDE_PX, ALIGNED_SOFT_PX, LEAST_LIKENESS, MOST_MOVED_SHARE = 720, 3.0, 0.9, 0.06
MOST_ROUNDS, SETTLED, LEAST_SHARE = 80, 1e-6, 0.008


def foreground_over_line(light: Light, below: Light) -> Light | None:
    """How much of each pixel is foreground (0 to 1), (h, w): below a line, or rising above it.

    `light` is the luminance (h, w) of a frame of the foreground, `below` (h, w) the share under
    the line. Masts, trees and roofs belong to it: joined to it, and a stop darker than
    the sky around them. The sky's own brightness is a smooth surface through what is above the
    line. None where foreground and sky are not a stop apart: then only the line separates them.

    >>> frame = np.full((60, 80), 0.2, dtype=np.float32)
    >>> frame[40:], frame[10:40, 30:34] = 0.02, 0.02
    >>> line = np.repeat((np.arange(60) >= 42)[:, None], 80, axis=1).astype(np.float32)
    >>> found = foreground_over_line(frame, line)
    >>> [f"{found[y, x]:.0f}" for y, x in ((20, 31), (20, 60), (41, 60), (50, 10))]
    ['1', '0', '1', '1']
    """
    height, width = light.shape
    stops, under = _made_small(light, below)
    sky = _sky_stops(stops, under)
    if sky is None:
        return None
    dark = np.asarray(stops < sky - APART_STOPS) | (under > 0.5)
    joined = _joined(dark, under > 0.5).astype(np.float32)
    soft = cv2.GaussianBlur(joined, (0, 0), SOFT_PX, borderType=cv2.BORDER_REPLICATE)
    found = cv2.resize(soft, (width, height), interpolation=cv2.INTER_LINEAR)
    return np.asarray(np.maximum(found, below), dtype=np.float32)


def sky_under_line(light: Light, below: Light) -> float:
    """How much (0 to 1) of what is just below a line is as light as the sky above it.

    The line was drawn over the skyline there, or water mirrors the sky. 0 where it cannot be found.

    >>> frame = np.full((60, 80), 0.2, dtype=np.float32)
    >>> frame[40:] = 0.02
    >>> line = np.repeat((np.arange(60) >= 38)[:, None], 80, axis=1).astype(np.float32)
    >>> f"{sky_under_line(frame, line):.1f}"
    '0.2'
    """
    stops, under = _made_small(light, below)
    sky = _sky_stops(stops, under)
    if sky is None:
        return 0.0
    deep = max(1, round(JUST_BELOW * len(under)))
    near = (under > 0.5) & ~np.roll(under > 0.5, deep, axis=0)
    near[:deep] &= under[:deep] > 0.5
    return float(np.mean(stops[near] > sky[near] - ALIKE_STOPS)) if near.any() else 0.0


def _made_small(light: Light, below: Light) -> tuple[Light, Light]:
    """Brightness (stops) and what is below the line, at a size at which they are looked over."""
    height, width = light.shape
    scale = min(1.0, SIDE_PX / max(height, width))
    size = (max(8, round(width * scale)), max(8, round(height * scale)))
    small = cv2.resize(light, size, interpolation=cv2.INTER_AREA)
    under = cv2.resize(below, size, interpolation=cv2.INTER_AREA)
    clean = cv2.GaussianBlur(small, (0, 0), CLEAN_PX)
    stops = np.log2(np.maximum(clean, FLOOR), dtype=np.float32)
    return np.asarray(stops), np.asarray(under, dtype=np.float32)


def _sky_stops(stops: Light, under: Light) -> NDArray[np.float64] | None:
    """The sky's brightness (stops) everywhere: a smooth surface through what is above the line."""
    height, width = stops.shape
    step = max(1, max(height, width) // FIT_PX)
    y, x = np.mgrid[0:height:step, 0:width:step]
    above = under[::step, ::step] < 0.1
    if above.sum() < 60 or (~above).sum() < 20:
        return None
    terms = _terms(x / width, y / height)
    values = stops[::step, ::step].astype(float)
    kept = above.copy()
    fitted = np.zeros(6)
    for _ in range(ROUNDS):
        fitted = np.linalg.lstsq(terms[kept], values[kept], rcond=None)[0]
        off = values - terms @ fitted
        # What is far darker than the sky about it is foreground that rises into it.
        spread = max(0.25, float(np.median(np.abs(off[kept]))) * 2)
        kept = above & (off > -spread)
        if kept.sum() < 60:
            return None
    foreground = float(np.median((values - terms @ fitted)[~above]))
    if foreground > -APART_STOPS:
        return None
    rows, columns = np.mgrid[0:height, 0:width]
    return np.asarray(_terms(columns / width, rows / height) @ fitted)


def _terms(x: NDArray[np.float64], y: NDArray[np.float64]) -> NDArray[np.float64]:
    return np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1)


def _joined(dark: NDArray[np.bool_], foreground: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Those dark places that are joined to the foreground."""
    _, labels = cv2.connectedComponents(dark.astype(np.uint8), connectivity=8)
    of_foreground = np.unique(labels[foreground])
    return np.asarray(np.isin(labels, of_foreground[of_foreground > 0]))


def skylines_aligned(reference: Light, other: Light) -> FrameAlignment | None:
    """How another frame's foreground (h, w), 0 to 1, aligns with the reference's: shift and turn.

    Along a straight horizon nothing tells a shift, and none is made. None where their skylines are
    not alike, or more than 6 % of the width apart. [EVANGELIDIS2008]
    """
    width = reference.shape[1]
    scale = min(1.0, ALIGNED_SIDE_PX / max(reference.shape))
    first, second = (
        cv2.GaussianBlur(
            cv2.resize(side, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA),
            (0, 0),
            ALIGNED_SOFT_PX,
        )
        for side in (reference, other)
    )
    window = cv2.createHanningWindow(first.shape[::-1], cv2.CV_32F)
    (across, down), _ = cv2.phaseCorrelate(first - first.mean(), second - second.mean(), window)
    begin = np.array([[1, 0, across], [0, 1, down]], dtype=np.float32)
    criteria = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, MOST_ROUNDS, SETTLED)
    try:
        likeness, found = cv2.findTransformECC(first, second, begin, cv2.MOTION_EUCLIDEAN, criteria)
    except cv2.error:  # nothing alike in them
        return None
    matrix = np.vstack([np.asarray(found, dtype=float), [0.0, 0.0, 1.0]])
    matrix[:2, 2] /= scale
    middle = np.array([width / 2, reference.shape[0] / 2, 1.0])
    matrix[:2, 2] -= _undetermined_shift(first, (matrix @ middle - middle)[:2])
    moved = float(np.hypot(*(matrix @ middle - middle)[:2]))
    if likeness < LEAST_LIKENESS or moved > MOST_MOVED_SHARE * width:
        return None
    return FrameAlignment(matrix, moved)


def _undetermined_shift(
    foreground: NDArray[Any], shift: NDArray[np.float64]
) -> NDArray[np.float64]:
    """The part of a shift (x, y) that edges do not tell: along them, where all run one way."""
    across, down = cv2.Sobel(foreground, cv2.CV_64F, 1, 0), cv2.Sobel(foreground, cv2.CV_64F, 0, 1)
    both = np.array([[np.sum(a * b) for a in (across, down)] for b in (across, down)])
    strength, ways = np.linalg.eigh(both)
    if strength[0] >= LEAST_SHARE * strength[1]:
        return np.zeros(2)
    return np.asarray(ways[:, 0] * float(ways[:, 0] @ shift))
