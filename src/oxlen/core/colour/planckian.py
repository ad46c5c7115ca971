"""Black bodies: the colour of a thing that glows by its heat alone."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.observer import OBSERVER, WAVELENGTHS_NM
from oxlen.core.units import Real, require_between

LOWEST_K, HIGHEST_K = 1000.0, 100_000.0
"""Range (K) in which colour temperatures are looked for. [OHNO2013]"""
SECOND_RADIATION_M_K = 1.4388e-2
"""Second constant of radiation (m·K) as colorimetry rounds it. [CIE015]"""


def planckian_uv(cct_k: Real) -> NDArray[np.float64]:
    """Chromaticity u, v (CIE 1960) of black bodies at `cct_k` (K, 1000 to 100000).

    Shape (2,) for a number, (n, 2) for n. Planck's law summed with the observer every 5 nm, which
    is within 2·10⁻⁶ of 1 nm. OutOfRange beyond the ends. [CIE015]

    >>> " ".join(f"{value:.4f}" for value in planckian_uv(2856.0))
    '0.2560 0.3495'
    """
    require_between("cct_k", cct_k, low=LOWEST_K, high=HIGHEST_K, unit="K")
    wavelength_m = WAVELENGTHS_NM * 1e-9
    heat = SECOND_RADIATION_M_K / (wavelength_m * np.asarray(cct_k, dtype=float)[..., None])
    colour = (wavelength_m**-5 / np.expm1(heat)) @ OBSERVER
    x, y, z = (colour[..., place] for place in range(3))
    return np.asarray(np.stack([4 * x, 6 * y], -1) / (x + 15 * y + 3 * z)[..., None])


def planckian_xy(cct_k: float) -> tuple[float, float]:
    """The chromaticity x, y (CIE 1931) of a black body at `cct_k` (K, 1000 to 100000). [CIE015]

    OutOfRange beyond those ends.

    >>> x, y = planckian_xy(2856.0)
    >>> f"{x:.4f} {y:.4f}"
    '0.4475 0.4074'
    """
    u, v = planckian_uv(cct_k)
    return uv_to_xy(float(u), float(v))


def uv_to_xy(u: float, v: float) -> tuple[float, float]:
    """The chromaticity x, y (CIE 1931) of u, v (CIE 1960), both positive. [CIE015]

    >>> f"{uv_to_xy(0.19783, 0.31222)[0]:.3f}"
    '0.313'
    """
    scale = 2 * u - 8 * v + 4
    return 3 * u / scale, 2 * v / scale


def xy_to_uv(x: float, y: float) -> tuple[float, float]:
    """The chromaticity u, v (CIE 1960) of x, y (CIE 1931), both positive. [CIE015]

    >>> f"{xy_to_uv(0.3127, 0.329)[0]:.4f}"
    '0.1978'
    """
    scale = -2 * x + 12 * y + 3
    return 4 * x / scale, 6 * y / scale
