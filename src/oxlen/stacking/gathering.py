"""Frames gathered one at a time: their sum, or the lighter or darker of each place."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from threading import Lock
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.combine import Combine

STRIPE_ROWS = 96
EXACT_BELOW = 2**24
"""Sums of whole numbers below this are exact in float32, and so the same in any order."""


class Gathered:
    """What has come together so far, of a size; safe for several threads, the same in any order.

    Sums are of whole numbers: which frame came first changes nothing.
    """

    def __init__(self, shape: tuple[int, ...], how: Combine, *, frames: int, top: int) -> None:
        self.how, self.shape, self.top = how, shape, top
        kind = np.float32 if frames * max(top, 1) < EXACT_BELOW else np.float64
        if how in ("lighten", "darken"):
            self.values = np.full(shape, 0 if how == "lighten" else 65535, dtype=np.uint16)
        else:
            self.values = np.zeros(shape, dtype=kind)
        self.counts: NDArray[np.uint16] | None = None
        self.count = 0
        self._locks = [Lock() for _ in range(0, shape[0], STRIPE_ROWS)]

    def stripes(self, begin: int = 0) -> Iterator[tuple[int, int]]:
        """First row and the one after the last of each stripe, from one of them on and round."""
        firsts = list(range(0, self.shape[0], STRIPE_ROWS))
        begin %= len(firsts)
        for first in firsts[begin:] + firsts[:begin]:
            yield first, min(first + STRIPE_ROWS, self.shape[0])

    def add(
        self, levels: NDArray[np.uint16], first: int, held: NDArray[np.bool_] | None = None
    ) -> None:
        """Add the levels of a stripe that begins at a row; `held` where the frame has any."""
        with self._locks[first // STRIPE_ROWS]:
            rows = self.values[first : first + len(levels)]
            if held is not None:
                levels = self._only(levels, held, first)
            if self.how == "lighten":
                np.maximum(rows, levels, out=rows)
            elif self.how == "darken":
                np.minimum(rows, levels, out=rows)
            else:
                cv2.accumulate(levels, rows)

    def _only(
        self, levels: NDArray[np.uint16], held: NDArray[np.bool_], first: int
    ) -> NDArray[np.uint16]:
        """Levels with nothing where the frame holds nothing; counted where it does."""
        if self.counts is not None:
            self.counts[first : first + len(levels)] += held
        if held.all():
            return levels
        # By arithmetic, which is many times as fast as choosing where: all ones, or none.
        mask = (held if levels.ndim == 2 else held[..., None]).astype(np.uint16)
        return levels | (mask - np.uint16(1)) if self.how == "darken" else levels * mask

    def counting(self) -> None:
        """Count the frames of each place: they do not all hold the same."""
        self.counts = np.zeros(self.shape[:2], dtype=np.uint16)

    def result(self, first: int, last: int) -> NDArray[Any]:
        """Levels (may be over white) of rows, stacked."""
        rows = self.values[first:last]
        if self.how in ("lighten", "darken"):
            return rows
        kept = self.count if self.how == "add" else 1
        if self.counts is None:
            return np.asarray(rows * rows.dtype.type(kept / max(1, self.count)))
        part = np.maximum(self.counts[first:last], 1).astype(rows.dtype)
        return np.asarray(rows * kept / (part if rows.ndim == 2 else part[..., None]))

    def save(self, path: Path) -> None:
        """Keep all of it in a file."""
        counts = np.zeros(0, np.uint16) if self.counts is None else self.counts
        with path.open("wb") as file:
            np.save(file, self.values)
            np.save(file, counts)
            np.save(file, np.array(self.count))

    def load(self, path: Path) -> None:
        """Take up what a file kept."""
        with path.open("rb") as file:
            self.values = np.load(file)
            counts = np.load(file)
            self.counts = counts if counts.size else None
            self.count = int(np.load(file))
