"""Daylight: the white of sun and sky, and the white of a dial in kelvin."""

from __future__ import annotations

from oxlen.core.colour.planckian import planckian_xy
from oxlen.core.units import require_between

DAYLIGHT_LOWEST_K, DAYLIGHT_HIGHEST_K = 4000.0, 25_000.0
"""Between these the daylight locus is defined. [CIE015]"""
BRANCH_K = 7000.0
"""Where its two polynomials meet. [CIE015]"""


def daylight_xy(cct_k: float) -> tuple[float, float]:
    """Chromaticity x, y (CIE 1931) of daylight at `cct_k` (K, 4000 to 25000). [CIE015]

    OutOfRange beyond those ends.

    >>> x, y = daylight_xy(6504.0)
    >>> f"{x:.4f} {y:.4f}"
    '0.3127 0.3291'
    """
    low, high = DAYLIGHT_LOWEST_K, DAYLIGHT_HIGHEST_K
    require_between("cct_k", cct_k, low=low, high=high, unit="K")
    t = 1e3 / cct_k
    if cct_k <= BRANCH_K:
        x = ((-4.6070 * t + 2.9678) * t + 0.09911) * t + 0.244063
    else:
        x = ((-2.0064 * t + 1.9018) * t + 0.24748) * t + 0.237040
    return x, -3 * x * x + 2.870 * x - 0.275


def dial_white_xy(dial_k: float) -> tuple[float, float]:
    """The white (CIE 1931 x, y) a camera set to `dial_k` takes for neutral.

    Takes 1000 to 25000 K, OutOfRange otherwise. Daylight from 4000 K up, a black body below:
    what the scales of cameras are drawn for. [CIE015]

    >>> f"{dial_white_xy(3200.0)[0]:.3f}"
    '0.423'
    """
    return planckian_xy(dial_k) if dial_k < DAYLIGHT_LOWEST_K else daylight_xy(dial_k)
