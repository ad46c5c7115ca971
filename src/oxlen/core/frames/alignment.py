"""How a take aligns with the picture it was planned by: turned, shifted, nearer or further."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]
SIDE_PX = 600
"""Pictures are compared at most so large: finer detail is noise to the comparison."""
FEATURES = 1000
UNLIKE = 0.78
"""A match counts only if the next best is this much worse. [LOWE2004]"""
OFF_PX = 3.0
LEAST_INLIERS = 14
LEAST_SHARE = 0.18
"""Fewer agreeing matches than this are chance."""
MOST_TURN_DEG, MOST_SCALE = 35.0, 2.2
FLOOR = 2e-3
CLEAR_PEAK, MOST_SHIFT = 0.3, 0.25
"""A shift of tones without features: so clear a peak, by at most so much of the frame."""
Sizes = tuple[tuple[int, int], tuple[int, int]]


@dataclass(frozen=True)
class Alignment:
    """Where places of the reference are in the take, both in shares of their sides.

    `matrix` (2, 3) takes pixels of the reference to pixels of the take, each at its own size.
    `turn_deg` is clockwise, `scale` above 1 = nearer, `share` of the matches that agree.
    """

    matrix: NDArray[np.float64]
    reference_size: tuple[int, int]
    take_size: tuple[int, int]
    turn_deg: float
    scale: float
    share: float

    def place(self, x: float, y: float) -> tuple[float, float]:
        """Where a place of the reference is in the take; may be outside it."""
        wide, high = self.reference_size
        point = self.matrix @ np.array([x * wide, y * high, 1.0])
        return float(point[0] / self.take_size[0]), float(point[1] / self.take_size[1])

    def resized(self, reference_size: tuple[int, int], take_size: tuple[int, int]) -> Alignment:
        """The same of both pictures at other sizes (width, height)."""
        to_take = np.diag([new / old for new, old in zip(take_size, self.take_size, strict=True)])
        matrix = to_take @ self.matrix
        for axis in (0, 1):
            matrix[:, axis] *= self.reference_size[axis] / reference_size[axis]
        return replace(self, matrix=matrix, reference_size=reference_size, take_size=take_size)


def aligned(reference: Floats, take: Floats) -> Alignment | None:
    """How a take aligns with a reference, both linear luminance (h, w); None if it cannot be found.

    By features that both show, whatever their exposure, and the shift, turn and scale that most of
    them agree on; where there are too few, by a shift of all tones. [LOWE2004] [FISCHLER1981]
    """
    return aligned_pictures(prepared(reference), prepared(take))


def aligned_pictures(reference: Prepared, take: Prepared) -> Alignment | None:
    """The same of pictures made ready before: a reference is made ready once."""
    sizes = (reference.size, take.size)
    return _by_features(reference, take, sizes) or _by_phase(reference, take, sizes)


def _by_features(smaller: Prepared, larger: Prepared, sizes: Sizes) -> Alignment | None:
    first, second = smaller.features, larger.features
    if first is None or second is None:
        return None
    pairs = _matches(first[1], second[1])
    if len(pairs) < LEAST_INLIERS:
        return None
    source = np.array([first[0][a].pt for a, _ in pairs]) / smaller.scale
    target = np.array([second[0][b].pt for _, b in pairs]) / larger.scale
    found, inliers = cv2.estimateAffinePartial2D(
        source,
        target,
        method=cv2.RANSAC,
        ransacReprojThreshold=OFF_PX / larger.scale,
        maxIters=4000,
        confidence=0.999,
        refineIters=20,
    )
    if found is None or inliers is None:
        return None
    return _checked(np.asarray(found, dtype=float), np.asarray(inliers).ravel() > 0, sizes)


def _by_phase(first: Prepared, second: Prepared, sizes: Sizes) -> Alignment | None:
    """A shift alone, by the phase of all tones, where too few features are found. [KUGLIN1975]"""
    if first.codes.shape != second.codes.shape:
        return None
    base, other = (each.codes.astype(np.float32) for each in (first, second))
    (x, y), peak = cv2.phaseCorrelate(base, other, cv2.createHanningWindow(base.shape[::-1], 5))
    if peak < CLEAR_PEAK or max(abs(x), abs(y)) > MOST_SHIFT * max(base.shape):
        return None
    by = sizes[1][0] / sizes[0][0]
    shift = np.array([x, y]) / second.scale
    matrix = np.array([[by, 0.0, shift[0]], [0.0, by, shift[1]]])
    return Alignment(matrix, *sizes, turn_deg=0.0, scale=1.0, share=float(min(peak, 1.0)))


@dataclass(frozen=True)
class Prepared:
    """A picture's tones made small, how much smaller, and its own size (width, height)."""

    codes: NDArray[np.uint8]
    scale: float
    size: tuple[int, int]

    @cached_property
    def features(self) -> tuple[Any, NDArray[np.float32]] | None:
        """Its features; None where it has too few."""
        return _features(self.codes)


def prepared(luminance: Floats) -> Prepared:
    """A picture's tones in stops, as codes over its own range, at most `SIDE_PX` large."""
    scale = min(1.0, SIDE_PX / max(luminance.shape))
    size = (max(1, round(luminance.shape[1] * scale)), max(1, round(luminance.shape[0] * scale)))
    small = cv2.resize(luminance, size, interpolation=cv2.INTER_AREA) if scale < 1 else luminance
    top = max(float(np.quantile(small, 0.995)), 1e-9)
    stops = np.log2(np.clip(small / top, FLOOR, 1.0))
    codes = np.asarray(255 * (1 - stops / np.log2(FLOOR)), dtype=np.uint8)
    even = cv2.createCLAHE(clipLimit=3.0, tileGridSize=(8, 8)).apply(codes)
    own = (luminance.shape[1], luminance.shape[0])
    return Prepared(np.asarray(even, dtype=np.uint8), size[0] / own[0], own)


def _features(codes: NDArray[np.uint8]) -> tuple[Any, NDArray[np.float32]] | None:
    points, described = cv2.SIFT.create(
        nfeatures=FEATURES, contrastThreshold=0.02
    ).detectAndCompute(codes, None)
    if described is None or len(points) < LEAST_INLIERS:
        return None
    return points, np.asarray(described, dtype=np.float32)


def _matches(first: NDArray[np.float32], second: NDArray[np.float32]) -> list[tuple[int, int]]:
    """Pairs of features that are most alike, both ways, and much more than the next best."""
    forth = cv2.BFMatcher(cv2.NORM_L2).knnMatch(first, second, k=2)
    kept = [
        (pair[0].queryIdx, pair[0].trainIdx)
        for pair in forth
        if len(pair) == 2 and pair[0].distance < UNLIKE * pair[1].distance
    ]
    nearest: dict[int, tuple[int, int]] = {b: (a, b) for a, b in kept}
    return list(nearest.values())


def _checked(
    matrix: NDArray[np.float64],
    inliers: NDArray[np.bool_],
    sizes: tuple[tuple[int, int], tuple[int, int]],
) -> Alignment | None:
    count, share = int(inliers.sum()), float(inliers.mean())
    scale = float(np.hypot(matrix[0, 0], matrix[1, 0]))
    turn = float(np.degrees(np.arctan2(matrix[1, 0], matrix[0, 0])))
    # The same scale of pictures that differ in pixels is no step nearer.
    nearer = scale * sizes[0][0] / sizes[1][0]
    if count < LEAST_INLIERS or share < LEAST_SHARE or abs(turn) > MOST_TURN_DEG:
        return None
    if not 1 / MOST_SCALE <= nearer <= MOST_SCALE:
        return None
    return Alignment(matrix, *sizes, turn_deg=turn, scale=nearer, share=share)
