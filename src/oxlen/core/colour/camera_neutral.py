"""The light from a raw patch: the white that the sensor's own colours of a neutral show."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.adaptation import xy_of
from oxlen.core.colour.patch import PatchLight
from oxlen.core.colour.temperature import mired, temperature_of
from oxlen.core.errors import BadInput, OutOfRange

START_XY = (0.3457, 0.3585)
"""The white of D50, from which the search for the light begins. [DNG1_7]"""
ROUNDS = 80
CLOSE = 1e-7
"""Own choice: a change of chromaticity far under what any file holds ends the search."""


@dataclass(frozen=True)
class ColourMatrix:
    """XYZ to camera colours, shape (3, 3), as calibrated under a light of `cct_k` (K)."""

    xyz_to_camera: NDArray[np.float64]
    cct_k: float


def camera_neutral_light(
    neutral: NDArray[np.float64], matrices: tuple[ColourMatrix, ...]
) -> PatchLight:
    """The light under which a neutral has camera colours `neutral`, shape (3,), raw and linear.

    With two matrices they are interpolated in 1/CCT of the light that is being looked for, so the
    light is found by going round. BadInput where no light fits, or without matrices. [DNG1_7]

    >>> matrix = ColourMatrix(np.eye(3), 6504.0)
    >>> found = camera_neutral_light(np.array([0.9505, 1.0, 1.0891]), (matrix,))
    >>> f"{found.temperature.cct_k:.0f} K"
    '6504 K'
    """
    if not matrices:
        raise BadInput("The file has no colour matrix.", "picture")
    if any(abs(float(np.linalg.det(matrix.xyz_to_camera))) < 1e-9 for matrix in matrices):
        raise BadInput(
            "The file's colour matrix is not valid, so its colours are unknown.", "picture"
        )
    try:
        x, y = _gone_round(neutral / neutral.max(), matrices)
        return PatchLight(x, y, temperature_of(x, y))
    except OutOfRange:
        words = "That patch is not neutral. Choose something white or grey."
        raise BadInput(words, "spot") from None


def _gone_round(
    neutral: NDArray[np.float64], matrices: tuple[ColourMatrix, ...]
) -> tuple[float, float]:
    """The x, y that gives itself back; OutOfRange on leaving the colours that lights have."""
    x, y = START_XY
    for _ in range(ROUNDS):
        light = np.linalg.solve(matrix_at(temperature_of(x, y).cct_k, matrices), neutral)
        found = xy_of(np.asarray(light, dtype=float))
        if max(abs(found[0] - x), abs(found[1] - y)) < CLOSE:
            break
        # Half way each time: two lights that send each other back do not then go on for ever.
        x, y = (x + found[0]) / 2, (y + found[1]) / 2
    return found


def matrix_at(cct_k: float, matrices: tuple[ColourMatrix, ...]) -> NDArray[np.float64]:
    """XYZ to camera colours, shape (3, 3), under a light of `cct_k`: linear in 1/CCT. [DNG1_7]

    Beyond the two calibrations the nearer one holds.

    >>> warm, cold = ColourMatrix(np.eye(3), 2856.0), ColourMatrix(2 * np.eye(3), 6504.0)
    >>> f"{matrix_at(4000.0, (warm, cold))[0, 0]:.2f}"
    '1.51'
    """
    first, last = matrices[0], matrices[-1]
    if first.cct_k == last.cct_k:
        return first.xyz_to_camera
    share = (mired(cct_k) - mired(first.cct_k)) / (mired(last.cct_k) - mired(first.cct_k))
    share = float(np.clip(share, 0, 1))
    return (1 - share) * first.xyz_to_camera + share * last.xyz_to_camera
