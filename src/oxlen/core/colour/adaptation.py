"""Adaptation: what a colour seen under one white looks like under another."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oxlen.core.units import require_positive

BRADFORD = np.array(
    [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]]
)
"""XYZ to the sharpened cone responses of the Bradford transform. [LAM1985]"""


def xyz_of(x: float, y: float) -> NDArray[np.float64]:
    """XYZ (Y = 1), shape (3,), of a chromaticity x, y with y above 0. By definition.

    >>> " ".join(f"{value:.4f}" for value in xyz_of(0.3127, 0.3290))
    '0.9505 1.0000 1.0891'
    """
    require_positive("y", y)
    return np.array([x / y, 1.0, (1 - x - y) / y])


def xy_of(xyz: NDArray[np.float64]) -> tuple[float, float]:
    """Chromaticity x, y of XYZ, shape (3,), with a positive sum. By definition.

    >>> f"{xy_of(np.array([0.9505, 1.0, 1.0891]))[0]:.4f}"
    '0.3127'
    """
    total = float(xyz.sum())
    require_positive("X + Y + Z", total)
    return float(xyz[0]) / total, float(xyz[1]) / total


def adapted(
    xyz: NDArray[np.float64], white: tuple[float, float], to_white: tuple[float, float]
) -> NDArray[np.float64]:
    """XYZ, shape (3,), as it looks once a white x, y has become another: Bradford. [LAM1985]

    Takes any XYZ and whites with y above 0.

    >>> seen = adapted(xyz_of(0.4475, 0.4074), (0.4475, 0.4074), (0.3127, 0.3290))
    >>> f"{xy_of(seen)[0]:.4f}"
    '0.3127'
    """
    gains = (BRADFORD @ xyz_of(*to_white)) / (BRADFORD @ xyz_of(*white))
    return np.asarray(np.linalg.solve(BRADFORD, gains * (BRADFORD @ xyz)))
