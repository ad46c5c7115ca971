"""Medians of many whole-numbered frames, found bit by bit: no sorting, no floating point."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.combine import CLIP_SIGMAS, LEAST_TO_CLIP, MAD_SIGMA

Whole = NDArray[Any]
COUNTED_IN_BYTES = 255
"""So many frames can be counted in one byte; more are counted in parts."""


def ranked(values: Whole, rank: int) -> Whole:
    """The value with `rank` others under it, of unsigned numbers (n, ...) along the first axis.

    Each bit from the highest on is set where too few values are under it. With n from 1 to 65535.

    >>> ranked(np.array([[9], [1], [5]], dtype=np.uint8), 1).tolist()
    [5]
    """
    found = np.zeros(values.shape[1:], dtype=values.dtype)
    under = np.empty(values.shape, dtype=bool)
    for bit in reversed(range(8 * values.dtype.itemsize)):
        bit_value = values.dtype.type(1 << bit)
        np.less(values, found | bit_value, out=under)
        # By arithmetic: many times as fast as choosing where.
        found |= (_count(under) <= rank).astype(values.dtype) * bit_value
    return found


def two_middles(values: Whole) -> tuple[Whole, Whole]:
    """Both middle values of unsigned numbers (n, ...); the same one twice where n is odd.

    >>> low, high = two_middles(np.array([[9], [1], [5], [7]], dtype=np.uint8))
    >>> low.tolist(), high.tolist()
    ([5], [7])
    """
    lower = ranked(values, (len(values) - 1) // 2)
    if len(values) % 2:
        return lower, lower
    over = values > lower
    up_to_lower = len(values) - _count(over)
    # All ones where a value is not over the lower: many times as fast as choosing.
    covered = over.astype(values.dtype) - values.dtype.type(1)
    next_up = np.bitwise_or(values, covered, out=covered).min(axis=0)
    return lower, np.where(up_to_lower > len(values) // 2, lower, next_up)


def near_middle(
    levels: NDArray[np.uint16], middles: tuple[Whole, Whole], least_spread: NDArray[np.float32]
) -> NDArray[np.float32]:
    """As `combine.sigma_clipped`, of levels (n, ...) up to 32767 whose two middles are known.

    [ROUSSEEUW1993]

    >>> levels = np.array([[100], [110], [90], [100], [900]], dtype=np.uint16)
    >>> near_middle(levels, two_middles(levels), np.array([0.5], dtype=np.float32)).tolist()
    [100.0]
    """
    # Twice everything: the middle of an even number of frames is a half.
    middle = np.add(*middles, dtype=np.uint16)
    if len(levels) < LEAST_TO_CLIP:
        return np.asarray(middle * np.float32(0.5))
    twice = levels << np.uint16(1)
    off = np.maximum(twice, middle) - np.minimum(twice, middle)
    low, high = two_middles(off)
    deviation = (low.astype(np.float32) + high) * np.float32(0.25)
    spread = np.maximum(np.float32(MAD_SIGMA) * deviation, least_spread)
    within = np.minimum(np.floor(2 * CLIP_SIGMAS * spread + 1e-3), 65535).astype(np.uint16)
    kept = off <= within
    total = np.add.reduce(levels * kept.view(np.uint8), axis=0, dtype=np.uint32)
    return np.asarray(total / _count(kept), dtype=np.float32)


def _count(flags: NDArray[np.bool_]) -> NDArray[np.uint16]:
    """How many of the flags (n, ...) are set at each place."""
    total = np.zeros(flags.shape[1:], dtype=np.uint16)
    for first in range(0, len(flags), COUNTED_IN_BYTES):
        part = flags[first : first + COUNTED_IN_BYTES].view(np.uint8)
        total += np.add.reduce(part, axis=0, dtype=np.uint8)
    return total
