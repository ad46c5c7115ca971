"""Blur of a take at its subject and around it, against the picture it was planned by."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.alignment import Alignment
from oxlen.core.measures.blur_spectrum import LEAST_SIDE, detail_power
from oxlen.core.review.blur_cause import (
    BlurCause,
    Misfits,
    blur_cause,
    misfits,
)

Floats = NDArray[np.float32]
PATCH_PX = 128
WHITE_SHARE, MOST_CLIPPED = 0.99, 0.1
ACROSS, DOWN = 7, 5
"""So many patches of the rest are looked at, evenly spread."""


def blur_of_take(
    reference: Floats,
    take: Floats,
    alignment: Alignment,
    *,
    subject: tuple[float, float],
    hand_px: float | None = 0.0,
) -> BlurCause | None:
    """What blurred a take (h, w) at its subject, x and y in shares of the take.

    `hand_px` is what is to be expected of the hand at this shutter, None where nobody held it;
    pixels are the take's own. None where the subject shows nothing to tell it by.
    """
    scale = min(1.0, alignment.reference_size[0] * alignment.scale / alignment.take_size[0])
    size = tuple(max(1, round(side * scale)) for side in alignment.take_size)
    seen = take if scale == 1 else cv2.resize(take, size, interpolation=cv2.INTER_AREA)
    pair = _Pair(np.asarray(seen, dtype=np.float32), reference, alignment.matrix * scale)
    height, width = pair.seen.shape
    at = (subject[0] * width, subject[1] * height)
    own = _compared(pair, at)
    if own is None:
        return None
    around = [_compared(pair, place) for place in _around(width, height, at)]
    rest = [misfit for misfit in around if misfit is not None]
    cause = blur_cause(own, rest, hand_px=None if hand_px is None else hand_px * scale)
    return None if cause is None else _scaled(cause, 1 / scale)


@dataclass(frozen=True)
class _Pair:
    """A take no finer than its reference, the reference, and what takes that one's places there."""

    seen: Floats
    reference: Floats
    matrix: NDArray[np.float64]

    @cached_property
    def white(self) -> float:
        """From where on the take is clipped."""
        return WHITE_SHARE * float(self.seen.max())

    def aligned_patch(self, left: int, top: int, side: int) -> Floats:
        """A square of the reference on the take's places; nan outside of it."""
        matrix = self.matrix.copy()
        matrix[:, 2] -= (left, top)
        patch = cv2.warpAffine(
            self.reference,
            matrix,
            (side, side),
            flags=cv2.INTER_CUBIC,
            borderMode=cv2.BORDER_CONSTANT,
            borderValue=float("nan"),
        )
        return np.asarray(patch, dtype=np.float32)


def _compared(pair: _Pair, at: tuple[float, float]) -> Misfits | None:
    """Both around a place; None where they show no blur there."""
    height, width = pair.seen.shape
    side = min(PATCH_PX, height, width)
    if side < LEAST_SIDE:
        return None
    left = int(np.clip(at[0] - side / 2, 0, width - side))
    top = int(np.clip(at[1] - side / 2, 0, height - side))
    patch, other = (
        pair.seen[top : top + side, left : left + side],
        pair.aligned_patch(left, top, side),
    )
    if float((patch >= pair.white).mean()) > MOST_CLIPPED:
        return None  # the edge of what is clipped is not the subject's
    if not np.isfinite(other).all() or patch.mean() <= 0 or other.mean() <= 0:
        return None
    return misfits(detail_power(patch), detail_power(other))


def _around(width: int, height: int, at: tuple[float, float]) -> Iterator[tuple[float, float]]:
    for row in range(DOWN):
        for column in range(ACROSS):
            x, y = (column + 0.5) / ACROSS * width, (row + 0.5) / DOWN * height
            if max(abs(x - at[0]), abs(y - at[1])) > PATCH_PX:
                yield x, y


def _scaled(cause: BlurCause, factor: float) -> BlurCause:
    return replace(cause, px=cause.px * factor)
