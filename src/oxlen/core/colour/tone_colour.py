"""A tone of a picture as a colour, and what it becomes at another setting of white balance."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.camera_neutral import ColourMatrix, matrix_at
from oxlen.core.colour.white_point import XYZ_TO_SRGB

SHOWN_LUMINANCE = 0.2
"""A raw tone is shown as bright as a mid grey: its file says no more than its colour. Own
choice."""
RAW_AT_K = 5000.0
"""Own choice: about D50, to which DNG files refer. [DNG1_7]"""
AS_DAYLIGHT_K = 6504.0
"""D65, the white of sRGB. [IEC61966-2-1]"""


@dataclass(frozen=True)
class ToneColour:
    """Linear sRGB of a tone, and the dial (K) its picture was taken at.

    `taken_at_k` None: the phone balanced it by itself, and a neutral is assumed to be neutral.
    """

    linear_srgb: tuple[float, float, float]
    taken_at_k: float | None


def raw_tone(camera_rgb: NDArray[np.float64], matrices: tuple[ColourMatrix, ...]) -> ToneColour:
    """A raw colour, shape (3,), as a picture balanced for daylight would show it. [DNG1_7]

    >>> grey = raw_tone(np.array([0.9505, 1.0, 1.0891]), (ColourMatrix(np.eye(3), 6504.0),))
    >>> " ".join(f"{v:.2f}" for v in grey.linear_srgb)
    '0.20 0.20 0.20'
    """
    xyz = np.linalg.solve(matrix_at(RAW_AT_K, matrices), camera_rgb)
    linear = np.maximum(XYZ_TO_SRGB @ (xyz * SHOWN_LUMINANCE / xyz[1]), 0.0)
    return ToneColour((float(linear[0]), float(linear[1]), float(linear[2])), AS_DAYLIGHT_K)
