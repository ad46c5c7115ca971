"""What of a frame of the night sky rises above its grain: stars, and nothing else."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.star_points import MAD_SIGMA

GRID_PX, CLEAR_SIGMAS, STEP_PX = 16, 3.0, 5


@dataclass(frozen=True)
class StarFloor:
    """The level above which light is a star's and no grain, on a grid of every 16th pixel."""

    grid: NDArray[np.float32]
    width: int

    def stands_out(self, levels: NDArray[Any], first: int) -> NDArray[np.bool_]:
        """Which pixels of rows from `first` on, shape (rows, w[, 3]), are above it in a channel."""
        last = first + len(levels)
        low, high = first // GRID_PX, min(-(-last // GRID_PX), len(self.grid))
        wide = cv2.resize(self.grid[low:high], (self.width, (high - low) * GRID_PX))
        floor = wide[first - low * GRID_PX :][: len(levels)]
        channels = np.asarray(levels[: len(floor)] > floor)
        over = channels if channels.ndim == 2 else np.asarray(channels.any(axis=2))
        # The last rows may reach past the grid by less than a cell.
        return np.asarray(np.pad(over, ((0, len(levels) - len(over)), (0, 0)), mode="edge"))


def star_floor(levels: NDArray[np.uint16]) -> StarFloor:
    """The floor of a frame's levels (h, w[, 3]), at least 80 pixels wide and high.

    The sky's own light is a median of the means of cells; grain is the median deviation.

    >>> plain = np.full((160, 160), 1000, dtype=np.uint16)
    >>> plain[80, 80] = 3000
    >>> int(star_floor(plain).stands_out(plain[64:96], 64).sum())
    1
    """
    height, width = levels.shape[:2]
    size = (-(-width // GRID_PX), -(-height // GRID_PX))
    cells = cv2.medianBlur(cv2.resize(levels, size, interpolation=cv2.INTER_AREA), 5)
    near = cv2.resize(cells, (width // STEP_PX, height // STEP_PX), interpolation=cv2.INTER_NEAREST)
    some = levels[STEP_PX // 2 :: STEP_PX, STEP_PX // 2 :: STEP_PX][: len(near), : near.shape[1]]
    off = np.abs(some.astype(np.float32) - near)
    grain = MAD_SIGMA * np.median(off, axis=(0, 1))
    return StarFloor(np.asarray(cells + CLEAR_SIGMAS * grain, dtype=np.float32), width)
