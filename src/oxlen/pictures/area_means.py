"""Pictures made smaller by the mean of each area."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray


def area_means(values: NDArray[Any], size: tuple[int, int]) -> NDArray[np.float32]:
    """Means of areas at a size (w, h)."""
    import cv2  # only for a dry run: metering does without it

    return np.asarray(cv2.resize(values, size, interpolation=cv2.INTER_AREA), np.float32)
