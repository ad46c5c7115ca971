"""How soft the edges of a thing are, by the picture blurred once more."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

FINE_PX, COARSE_PX = 0.8, 2.4
"""Own choice: the two blurs that are compared, finer and coarser than what a lens leaves."""
STRONGEST = 97.0
"""Own choice: the percentile of gradients from which on an edge counts."""
LEAST_CONTRAST = 0.004
"""Own choice: a gradient (share of white a pixel) under which there is no edge, only noise."""


def edge_blur_px(luma: NDArray[np.float32]) -> float | None:
    """Blur of the strongest edges, as the sigma of a Gaussian in pixels; None without edges.

    `luma` (h, w) is in shares of white. At an edge blurred by s, a blur of a leaves the gradient
    1/sqrt(s² + a²) of the step: two of them give s. [ZHUO2011]

    >>> step = np.repeat(np.where(np.arange(80) < 40, 0.2, 0.8)[None, :], 80, axis=0)
    >>> soft = cv2.GaussianBlur(step.astype(np.float32), (0, 0), 2.0)
    >>> f"{edge_blur_px(soft):.0f} px"
    '2 px'
    """
    fine, coarse = _gradient(luma, FINE_PX), _gradient(luma, COARSE_PX)
    limit = max(float(np.percentile(coarse, STRONGEST)), LEAST_CONTRAST)
    # Only the ridge of an edge obeys the formula: its flanks are flatter than the step.
    ridge = (coarse >= limit) & (coarse >= cv2.dilate(coarse, np.ones((3, 3), np.uint8)) * 0.999)
    if ridge.sum() < 8:
        return None
    ratio = float(np.median(fine[ridge] / coarse[ridge]))
    if ratio <= 1.0:
        return COARSE_PX * 4
    squared = (COARSE_PX**2 - (ratio * FINE_PX) ** 2) / (ratio**2 - 1)
    return float(np.sqrt(max(squared, 0.0)))


def _gradient(luma: NDArray[np.float32], blur_px: float) -> NDArray[np.float32]:
    soft = np.asarray(cv2.GaussianBlur(luma, (0, 0), blur_px))
    across = cv2.Scharr(soft, cv2.CV_32F, 1, 0) / 32
    down = cv2.Scharr(soft, cv2.CV_32F, 0, 1) / 32
    return np.asarray(cv2.magnitude(across, down), dtype=np.float32)
