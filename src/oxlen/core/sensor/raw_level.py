"""Levels of a raw mosaic: black and white, the place of mid, luminance through a colour matrix."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import MID_LINEAR
from oxlen.core.errors import BadInput
from oxlen.core.units import Real

RAW_CLIPPED_SHARE = 0.99
"""Share of the white level from which a photosite counts as clipped: well walls are not sharp. Own
choice. [EMVA1288]"""


def raw_linear(dn: Real | NDArray[np.uint16], black_dn: Real, white_dn: Real) -> Real:
    """Linear share 0..1 of white of a raw value: (DN − black)/(white − black). [DNG1.7]

    >>> f"{raw_linear(782, 64, 4095):.4f}"
    '0.1781'
    """
    if np.any(np.asarray(white_dn) <= np.asarray(black_dn)):
        raise BadInput("The white level must be above the black level.", "white")
    return (np.asarray(dn, dtype=float) - black_dn)[()] / (np.asarray(white_dn) - black_dn)


def raw_mid_linear(baseline_exposure_stops: Real) -> Real:
    """Share of white at which a raw file holds mid: 0.18·2^−BaselineExposure. [DNG1.7]

    Takes any finite stops; the share may be above 1.

    >>> f"{raw_mid_linear(1.0):.2f}"
    '0.09'
    """
    share: Real = MID_LINEAR * np.exp2(-np.asarray(baseline_exposure_stops, dtype=float))[()]
    return share


def luminance_weights(
    xyz_to_camera: NDArray[np.floating], neutral: NDArray[np.floating]
) -> NDArray[np.float64]:
    """Weights that turn a camera colour (linear shares) into luminance of a neutral's level.

    `xyz_to_camera` is the 3×3 ColorMatrix, `neutral` the camera's response to white (3,). A patch
    of that white at balanced level s (its largest channel at s) gives exactly s. [DNG1.7]
    BadInput for a matrix that cannot be inverted.

    >>> matrix = np.eye(3)
    >>> weights = luminance_weights(matrix, np.array([0.9505, 1.0, 1.089]))
    >>> f"{weights.sum():.2f}"
    '1.09'
    """
    matrix = np.asarray(xyz_to_camera, dtype=float)
    white = np.asarray(neutral, dtype=float)
    if matrix.shape != (3, 3) or abs(np.linalg.det(matrix)) < 1e-9 or np.any(white <= 0):
        return np.array([0.0, 1.0, 0.0])
    y_row = np.linalg.inv(matrix)[1]
    scale = float(y_row @ (white / white.max()))
    return y_row / scale if scale > 0 else np.array([0.0, 1.0, 0.0])
