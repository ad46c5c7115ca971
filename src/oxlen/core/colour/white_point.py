"""The white point of a colour temperature, in CIE 1931 xy and as linear sRGB."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oxlen.core.units import require_between

LOWEST_K, HIGHEST_K = 1667.0, 25_000.0
XYZ_TO_SRGB = np.array(
    [[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]]
)
"""XYZ to linear sRGB: IEC 61966-2-1."""


def planckian_xy(cct_k: float) -> tuple[float, float]:
    """Chromaticity of a black body at `cct_k` (K, 1667 to 25000), by cubic splines. [KIM2002]

    OutOfRange beyond those ends.

    >>> x, y = planckian_xy(2856.0)
    >>> f"{x:.4f} {y:.4f}"
    '0.4471 0.4075'
    """
    require_between("cct_k", cct_k, low=LOWEST_K, high=HIGHEST_K, unit="K")
    t = 1e3 / cct_k
    if cct_k <= 4000:
        x = ((-0.2661239 * t - 0.2343589) * t + 0.8776956) * t + 0.179910
    else:
        x = ((-3.0258469 * t + 2.1070379) * t + 0.2226347) * t + 0.240390
    if cct_k <= 2222:
        y = ((-1.1063814 * x - 1.34811020) * x + 2.18555832) * x - 0.20219683
    elif cct_k <= 4000:
        y = ((-0.9549476 * x - 1.37418593) * x + 2.09137015) * x - 0.16748867
    else:
        y = ((3.0817580 * x - 5.87338670) * x + 3.75112997) * x - 0.37001483
    return float(x), float(y)


def white_linear_srgb(cct_k: float) -> NDArray[np.float64]:
    """A white of that colour temperature (K) as linear sRGB, green at 1; shape (3,).

    Takes 1667 to 25000 K, OutOfRange otherwise. [KIM2002]

    >>> " ".join(f"{v:.2f}" for v in white_linear_srgb(6504.0))
    '1.06 1.00 1.05'
    """
    x, y = planckian_xy(cct_k)
    colour = XYZ_TO_SRGB @ np.array([x / y, 1.0, (1 - x - y) / y])
    return np.asarray(np.maximum(colour, 1e-3) / colour[1])
