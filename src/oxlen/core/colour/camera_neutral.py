"""The light from a raw patch: which white the sensor's own colours of a neutral stand for."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.adaptation import xy_of
from oxlen.core.colour.patch import PatchLight
from oxlen.core.colour.temperature import mired, temperature_of
from oxlen.core.errors import BadInput, OutOfRange

START_XY = (0.3457, 0.3585)
ROUNDS = 60
CLOSE = 1e-7


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
    x, y = START_XY
    for _ in range(ROUNDS):
        matrix = matrix_at(temperature_of(x, y).cct_k, matrices)
        light = np.linalg.solve(matrix, neutral / neutral.max())
        if light.min() <= 0:
            break
        found = xy_of(light)
        step = max(abs(found[0] - x), abs(found[1] - y))
        x, y = found
        if step < CLOSE:
            break
    else:
        # Two lights that send each other back: half way between them is as good as either.
        x, y = (x + found[0]) / 2, (y + found[1]) / 2
    if light.min() <= 0:
        raise BadInput("That patch has a colour that no light gives a neutral.", "spot")
    try:
        return PatchLight(x, y, temperature_of(x, y))
    except OutOfRange:
        words = "That patch has a colour that no light gives a neutral."
        raise BadInput(words, "spot") from None


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
