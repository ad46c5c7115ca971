"""Every frame of a place at once: frames written on disk, then stacked band by band."""

from __future__ import annotations

import os
import shutil
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.frames.combine import Combine, combined
from oxlen.core.frames.middle import near_middle, two_middles
from oxlen.pictures.whole import TOP_8
from oxlen.stacking.ask import THREADS

BAND_BYTES = 40_000_000
"""Of all frames of a band, on disk; working on them takes a few times it."""
MISSING = 65535
PART_VALUES = 1_000_000
"""Values of all frames worked on at a time: about what a processor keeps close."""
SPARE = 1.05


class Spool:
    """A file that holds, band after band, the rows of every frame.

    `shape` is that of a frame, `kind` its values' type. Values are codes, given by `table` as
    levels, or levels themselves.
    """

    def __init__(
        self, path: Path, shape: tuple[int, ...], kind: np.dtype[Any], *, frames: int
    ) -> None:
        self.path, self.shape, self.kind, self.frames = path, shape, kind, frames
        self._row_bytes = int(np.prod(shape[1:])) * kind.itemsize
        rows = max(1, BAND_BYTES // (frames * self._row_bytes))
        self._firsts = list(range(0, shape[0], rows))
        self._rows = rows

    @property
    def size_bytes(self) -> int:
        """What it takes on disk."""
        return self.frames * self.shape[0] * self._row_bytes

    @property
    def words(self) -> str:
        """What it takes on disk, in words."""
        return f"{max(0.1, self.size_bytes / 1e9):.1f} GB of disk space"

    def check_room(self) -> None:
        """BadInput where the disk has no room for it."""
        free = shutil.disk_usage(self.path.parent).free
        there = self.path.stat().st_size if self.path.exists() else 0
        if free + there < SPARE * self.size_bytes:
            raise BadInput(
                f"This needs {self.size_bytes / 1e9:.1f} GB of disk space and "
                f"{free / 1e9:.1f} GB are free. Averaging the frames needs none.",
                "combine",
            )

    def put(self, place: int, values: NDArray[Any]) -> None:
        """Put a frame at its place among the frames."""
        with self._open(os.O_RDWR | os.O_CREAT) as number:
            for first in self._firsts:
                rows = np.ascontiguousarray(values[first : first + self._rows], dtype=self.kind)
                os.pwrite(number, rows.data, self._offset(first, place, len(rows)))

    def bands(self, begin: int = 0) -> Iterator[tuple[int, NDArray[Any]]]:
        """First row and all frames' rows (frames, rows, ...) of each band, from a row on."""
        with self._open(os.O_RDWR | os.O_CREAT) as number:
            # The last frames may have been left out: their places are read, and hold nothing.
            if os.fstat(number).st_size < self.size_bytes:
                os.ftruncate(number, self.size_bytes)
            for first in self._firsts:
                if first < begin:
                    continue
                rows = min(self._rows, self.shape[0] - first)
                wanted = self.frames * rows * self._row_bytes
                read = os.pread(number, wanted, self._offset(first, 0, rows))
                shape = (self.frames, rows, *self.shape[1:])
                yield first, np.frombuffer(read, dtype=self.kind).reshape(shape)

    def _offset(self, first: int, place: int, rows: int) -> int:
        return (self.frames * first + place * rows) * self._row_bytes

    def _open(self, flags: int) -> _Opened:
        return _Opened(self.path, flags)


class _Opened:
    """A file by its number, closed at the end."""

    def __init__(self, path: Path, flags: int) -> None:
        self._path, self._flags = path, flags

    def __enter__(self) -> int:
        self._number = os.open(self._path, self._flags, 0o600)
        return self._number

    def __exit__(self, *_: object) -> None:
        os.close(self._number)


def band_together(
    band: NDArray[Any],
    how: Combine,
    *,
    table: NDArray[np.uint16] | None,
    reference: int,
) -> NDArray[np.float64]:
    """Levels (rows, ...) of all frames' rows (frames, rows, ...), a part of them at a time.

    Where a frame holds nothing, the reference replaces it.
    """
    flat = band.reshape(band.shape[0], -1)
    result = np.empty(flat.shape[1])
    step = max(1, PART_VALUES // band.shape[0])

    def work(at: int) -> None:
        part = np.ascontiguousarray(flat[:, at : at + step])
        if table is None:
            part = np.where(part == MISSING, part[reference], part)
        result[at : at + step] = _together(part, how, table)

    with ThreadPoolExecutor(THREADS) as pool:
        list(pool.map(work, range(0, flat.shape[1], step)))
    return result.reshape(band.shape[1:])


def _together(
    codes: NDArray[Any], how: Combine, table: NDArray[np.uint16] | None
) -> NDArray[np.float32]:
    """Levels of frames' codes (n, values): what is in the middle, or near it."""
    middles = two_middles(codes)
    lower, upper = (_levels(codes, table) for codes in middles)
    middle = np.asarray((lower + upper) * np.float32(0.5))
    if how == "median":
        return middle
    spread = _rounding(middle, table)
    if table is not None and table[-1] <= TOP_8:
        low, high = (np.take(table, codes) for codes in middles)
        return near_middle(np.asarray(cv2.LUT(codes, table)), (low, high), spread)
    return np.asarray(combined(_levels(codes, table), how, least_spread=spread))


def _levels(codes: NDArray[Any], table: NDArray[np.uint16] | None) -> NDArray[np.float32]:
    return np.asarray(codes if table is None else np.take(table, codes), dtype=np.float32)


def _rounding(levels: NDArray[np.float32], table: NDArray[np.uint16] | None) -> NDArray[np.float32]:
    """What rounding to codes leaves at some levels: half of the step to the next code."""
    if table is None:
        return np.full(levels.shape, 0.5, dtype=np.float32)
    steps = np.diff(table.astype(np.float32), append=np.float32(table[-1]) + 1)
    at = np.searchsorted(table, levels).clip(0, len(table) - 1)
    return np.asarray(0.5 * np.maximum(steps[at], 1.0), dtype=np.float32)
