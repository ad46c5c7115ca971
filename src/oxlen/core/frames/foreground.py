"""The foreground under a sky that turns: where it is in the frame, below a line drawn once."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput

FEATHER_PX = 6.0
Line = Sequence[tuple[float, float]]


def foreground_weight(line: Line, size: tuple[int, int]) -> NDArray[np.float32]:
    """How much of each pixel is foreground (0 to 1), shape (h, w), below a line across the frame.

    The line runs through places in shares of the frame's sides (x right, y down), in any order of
    x, and level on to the edges; it is soft by a few pixels. BadInput for fewer than two places.

    >>> share = foreground_weight([(0.0, 0.5), (1.0, 0.5)], (40, 40))
    >>> share[::13, 20].round(1).astype(str).tolist()
    ['0.0', '0.1', '0.9', '1.0']
    """
    if len(line) < 2:
        raise BadInput("A horizon line needs at least 2 points.", "horizon")
    width, height = size
    places = sorted(line)
    x = (np.arange(width) + 0.5) / width
    edge = np.interp(x, [place[0] for place in places], [place[1] for place in places]) * height
    rows = np.arange(height)[:, None] + 0.5
    below = np.asarray(rows > edge[None, :], dtype=np.float32)
    soft = cv2.GaussianBlur(below, (0, 0), FEATHER_PX, borderType=cv2.BORDER_REPLICATE)
    return np.asarray(soft, dtype=np.float32)
