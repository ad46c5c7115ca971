"""Between light and the picture's own colours: sRGB, and what a white is in it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.adaptation import xyz_of
from oxlen.core.colour.daylight import DAYLIGHT_HIGHEST_K, dial_white_xy
from oxlen.core.colour.planckian import LOWEST_K
from oxlen.core.colour.temperature import Temperature, chromaticity_of, temperature_of
from oxlen.core.units import require_between

XYZ_TO_SRGB = np.array(
    [[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]]
)
"""XYZ to linear sRGB: IEC 61966-2-1. [IEC61966-2-1]"""
SRGB_TO_XYZ = np.array(
    [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]
)
"""Linear sRGB to XYZ: IEC 61966-2-1. [IEC61966-2-1]"""


def dial_linear_srgb(dial_k: float, tint_duv: float = 0.0) -> NDArray[np.float64]:
    """The white of a dial at `dial_k`, as linear sRGB, green at 1; shape (3,).

    Tint shifts it by so much Duv. Takes 1000 to 25000 K, OutOfRange otherwise. [CIE015]

    >>> " ".join(f"{v:.2f}" for v in dial_linear_srgb(6504.0))
    '1.00 1.00 1.00'
    """
    require_between("dial_k", dial_k, low=LOWEST_K, high=DAYLIGHT_HIGHEST_K, unit="K")
    white = dial_white_xy(dial_k)
    if tint_duv:
        own = temperature_of(*white)
        white = chromaticity_of(Temperature(own.cct_k, own.duv + tint_duv))
    colour = XYZ_TO_SRGB @ xyz_of(*white)
    return np.asarray(np.maximum(colour, 1e-3) / colour[1])
