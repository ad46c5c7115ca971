"""A small look at what has come together so far."""

from __future__ import annotations

import io
import time
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from oxlen.stacking.gathering import Gathered
from oxlen.stacking.kept import replace_file
from oxlen.stacking.writing import coded

PREVIEW, SIDE_PX, QUALITY = "preview.jpg", 900, 85
EVERY_S = 2.0


def write_preview(folder: Path, sums: Gathered) -> None:
    """Keep a small picture of what is gathered, every so-and-so-many pixels of it."""
    step = _step(sums.shape)
    rows = np.concatenate([sums.result(y, y + 1)[:, ::step] for y in range(0, sums.shape[0], step)])
    _write(folder, rows, float(sums.top))


class GrowingLook:
    """The mean so far of frames that are stacked at the end alone, made small."""

    def __init__(self, shape: tuple[int, ...]) -> None:
        self._step, self._count, self._written_s = _step(shape), 0, -EVERY_S
        self._sum: NDArray[np.float64] | None = None

    def add(self, values: NDArray[Any], table: NDArray[np.uint16] | None) -> None:
        """Take a frame in: codes, given by `table` as levels, or levels."""
        small = values[:: self._step, :: self._step]
        levels = np.asarray(small if table is None else np.take(table, small), dtype=float)
        self._sum = levels if self._sum is None else self._sum + levels
        self._count += 1

    def write(self, folder: Path, top: int) -> None:
        """Keep it as a picture, if that was not done just now."""
        now = time.monotonic()
        if self._sum is None or now - self._written_s < EVERY_S:
            return
        self._written_s = now
        _write(folder, self._sum / self._count, float(top))


def _step(shape: tuple[int, ...]) -> int:
    return max(1, max(shape[:2]) // SIDE_PX)


def _write(folder: Path, levels: NDArray[Any], top: float) -> None:
    codes = np.asarray(coded(levels, top) >> 8, dtype=np.uint8)
    drawn = io.BytesIO()
    Image.fromarray(codes).save(drawn, "JPEG", quality=QUALITY)
    replace_file(folder / PREVIEW, drawn.getvalue())
