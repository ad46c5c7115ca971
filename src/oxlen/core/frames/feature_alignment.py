"""How a frame of a stack aligns with the reference by what both show, to a fraction of a pixel."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.alignment import Alignment, Prepared, aligned_pictures, prepared

Floats = NDArray[np.float32]
Points = NDArray[np.float64]
TRACKED = 600
APART_SHARE = 0.012
WINDOW_PX = 31
LEAST_TRACKED = 24
BENDS_AT = 120
"""So many tracked places also tell how the camera was tipped, besides its shift and turn."""
BETTER = 0.8
OFF_PX = 1.5
FLOOR = 2e-3
HALVED_FROM_PX = 5_000_000


@dataclass(frozen=True)
class FrameAlignment:
    """Where places of the reference are in a frame: a homography (3, 3) in pixels.

    The middle of the first pixel is 0, 0; `left_px` is what is left at tracked
    places, a median.
    """

    matrix: NDArray[np.float64]
    left_px: float

    def places(self, places: Points) -> Points:
        """Where places (n, 2) of the reference are in the frame."""
        seen = cv2.perspectiveTransform(np.asarray(places, dtype=float)[:, None], self.matrix)
        return np.asarray(seen[:, 0])


@dataclass(frozen=True)
class Base:
    """A reference made ready once for all frames: its tones, features, and places to follow."""

    picture: Prepared
    codes: NDArray[np.uint8]
    begin: Points | None
    step: float


def base_of(reference: Floats) -> Base:
    """A reference (h, w), linear luminance, made ready."""
    smaller, step = _halved(reference)
    codes = _codes(smaller)
    return Base(prepared(smaller), codes, begin=_corner(codes), step=step)


def aligned_by_features(reference: Base, frame: Floats) -> FrameAlignment | None:
    """How a frame (h, w), linear luminance, aligns with the reference; None if it cannot be found.

    First by features of smaller pictures, then by patches followed nearly at full size; shift and
    turn, or a tipped camera where that clearly fits better. [LOWE2004] [LUCAS1981] [FISCHLER1981]
    """
    smaller, step = _halved(frame)
    rough = aligned_pictures(reference.picture, prepared(smaller))
    if rough is None or reference.begin is None or step != reference.step:
        return None
    seen = _followed(reference.codes, _codes(smaller), reference.begin, rough=rough)
    if seen is None:
        return None
    places, found = seen
    if len(places) < LEAST_TRACKED:
        return None
    found_alignment = _fitted(places, found)
    return None if found_alignment is None else _at_full_size(found_alignment, step)


def _halved(luminance: Floats) -> tuple[Floats, float]:
    """A large picture at half its size: patches are followed to a tenth of a pixel all the same."""
    if luminance.size < HALVED_FROM_PX:
        return luminance, 1.0
    height, width = luminance.shape
    even = luminance[: height - height % 2, : width - width % 2]
    small = cv2.resize(even, (width // 2, height // 2), interpolation=cv2.INTER_AREA)
    return np.asarray(small, dtype=np.float32), 2.0


def _at_full_size(found_alignment: FrameAlignment, step: float) -> FrameAlignment:
    """Of pictures made smaller by a step: the middle of one pixel is between those of the old."""
    offset = (step - 1) / 2
    full = np.array([[step, 0.0, offset], [0.0, step, offset], [0.0, 0.0, 1.0]])
    return FrameAlignment(
        full @ found_alignment.matrix @ np.linalg.inv(full), step * found_alignment.left_px
    )


def _codes(luminance: Floats) -> NDArray[np.uint8]:
    top = max(float(np.quantile(luminance[::4, ::4], 0.995)), 1e-9)
    stops = np.log2(np.clip(luminance / top, FLOOR, 1.0))
    return np.asarray(255 * (1 - stops / np.log2(FLOOR)), dtype=np.uint8)


def _corner(codes: NDArray[np.uint8]) -> Points | None:
    apart = max(8.0, APART_SHARE * max(codes.shape))
    found = cv2.goodFeaturesToTrack(codes, TRACKED, 0.01, apart, blockSize=7)
    return None if found is None else np.asarray(found[:, 0], dtype=float)


def _followed(
    first: NDArray[np.uint8], second: NDArray[np.uint8], begin: Points, *, rough: Alignment
) -> tuple[Points, Points] | None:
    """Places of the reference and where they are in the frame, as far as they come back."""
    matrix = rough.matrix
    height, width = first.shape
    # The frame is first turned as the reference is: a patch that turns is followed badly.
    turned = np.asarray(
        cv2.warpAffine(
            second,
            matrix,
            (width, height),
            flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
            borderMode=cv2.BORDER_REPLICATE,
        ),
        dtype=np.uint8,
    )
    start = begin.astype(np.float32)[:, None]
    ends, forth = _tracked(first, turned, start)
    back, again = _tracked(turned, first, ends)
    same = np.abs(back - start).max(axis=(1, 2)) < 0.3
    kept = forth & again & same
    if not kept.any():
        return None
    found = ends[kept][:, 0].astype(float) @ matrix[:, :2].T + matrix[:, 2]
    return begin[kept], found


def _tracked(
    first: NDArray[np.uint8], second: NDArray[np.uint8], start: NDArray[np.float32]
) -> tuple[NDArray[np.float32], NDArray[np.bool_]]:
    """Where patches (n, 1, 2) of one picture are in another, and which were found."""
    size = (WINDOW_PX, WINDOW_PX)
    # The last place found is where the search begins; none is given.
    guess = start.copy()
    ends, found, _ = cv2.calcOpticalFlowPyrLK(first, second, start, guess, winSize=size, maxLevel=3)
    return np.asarray(ends, dtype=np.float32), np.asarray(found).ravel() > 0


def _fitted(places: Points, found: Points) -> FrameAlignment | None:
    plain, inliers = cv2.estimateAffinePartial2D(
        places, found, method=cv2.RANSAC, ransacReprojThreshold=OFF_PX, refineIters=30
    )
    if plain is None or int(inliers.sum()) < LEAST_TRACKED:
        return None
    simple = np.vstack([plain, [0.0, 0.0, 1.0]])
    found_alignment = _frame_alignment(simple, places, found, kept=inliers.ravel() > 0)
    if len(places) < BENDS_AT:
        return found_alignment
    tipped, kept = cv2.findHomography(places, found, cv2.RANSAC, OFF_PX, maxIters=4000)
    if tipped is None or int(kept.sum()) < LEAST_TRACKED:
        return found_alignment
    other = _frame_alignment(np.asarray(tipped, dtype=float), places, found, kept=kept.ravel() > 0)
    is_more = kept.sum() > 1.1 * inliers.sum()
    return other if is_more or other.left_px < BETTER * found_alignment.left_px else found_alignment


def _frame_alignment(
    matrix: NDArray[np.float64], places: Points, found: Points, *, kept: NDArray[np.bool_]
) -> FrameAlignment:
    seen = cv2.perspectiveTransform(places[kept][:, None], matrix)[:, 0]
    return FrameAlignment(matrix, float(np.median(np.hypot(*(seen - found[kept]).T))))
