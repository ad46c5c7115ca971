"""Colour temperature: of a light, in kelvin, with how far it is greenish or pinkish beside it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.planckian import (
    HIGHEST_K,
    LOWEST_K,
    planckian_uv,
    uv_to_xy,
    xy_to_uv,
)
from oxlen.core.errors import OutOfRange
from oxlen.core.units import Real, require_positive

MILLION = 1e6
"""Exact: mired are reciprocal megakelvin."""
SEARCH_RATIO = 1.01
"""Ratio of neighbouring temperatures in the table. [OHNO2013]"""
FINER = (20, 20, 20)
"""Points laid between neighbours, again and again, round the nearest black body."""


@dataclass(frozen=True)
class Temperature:
    """Correlated colour temperature (K), and Duv: the distance from black bodies in CIE 1960 uv.

    Duv is positive on the greenish side, negative on the pinkish.
    """

    cct_k: float
    duv: float


def mired(kelvin: Real) -> Real:
    """Reciprocal colour temperature: 10⁶/K. A step of it looks alike anywhere, unlike kelvin.

    Takes positive kelvin, or mired to get kelvin back. By definition.

    >>> f"{mired(5000.0):.0f}"
    '200'
    """
    return MILLION / require_positive("K", kelvin, "K")


def kelvin(mired_value: Real) -> Real:
    """Colour temperature (K) of a value in mired, which must be positive. By definition.

    >>> f"{kelvin(200.0):.0f}"
    '5000'
    """
    return MILLION / require_positive("mired", mired_value, "mired")


def picture_warmth_mired(light_k: Real, dial_k: Real) -> Real:
    """How warm (positive) or cool a picture is: mired of the light less those of the dial.

    Takes positive kelvin. Raising the dial therefore warms a picture, though a light of more kelvin
    is bluer. By definition.

    >>> f"{picture_warmth_mired(3000.0, 6500.0):.0f}"
    '179'
    """
    return mired(light_k) - mired(dial_k)


def temperature_of(x: float, y: float) -> Temperature:
    """Colour temperature and Duv of a chromaticity x, y (CIE 1931). [OHNO2013]

    The nearest black body in CIE 1960 uv, 1000 to 100000 K; OutOfRange where the nearest is past
    these ends or x, y is no chromaticity.

    >>> found = temperature_of(0.3127, 0.3290)
    >>> f"{found.cct_k:.0f} {found.duv:.4f}"
    '6504 0.0032'
    """
    for name, value in (("x", x), ("y", y)):
        if not 0 < value < 1:
            raise OutOfRange(name, value, low=0, high=1)
    point = np.array(xy_to_uv(x, y))
    cct_k, duv = _nearest(point)
    if not LOWEST_K * SEARCH_RATIO <= cct_k <= HIGHEST_K / SEARCH_RATIO:
        raise OutOfRange("cct_k", cct_k, low=LOWEST_K, high=HIGHEST_K, unit="K")
    return Temperature(cct_k, duv)


def _nearest(point: NDArray[np.float64]) -> tuple[float, float]:
    steps_k, steps_uv = _table()
    for count in FINER:
        at = int(np.argmin(np.sum((steps_uv - point) ** 2, axis=1)))
        low, high = steps_k[max(0, at - 1)], steps_k[min(len(steps_k) - 1, at + 1)]
        steps_k = np.geomspace(low, high, 2 * count + 1)
        steps_uv = planckian_uv(steps_k)
    at = int(np.argmin(np.sum((steps_uv - point) ** 2, axis=1)))
    off = point - steps_uv[at]
    return float(steps_k[at]), math.copysign(float(np.hypot(*off)), off[1])


@cache
def _table() -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    count = math.ceil(math.log(HIGHEST_K / LOWEST_K) / math.log(SEARCH_RATIO)) + 1
    steps_k = np.geomspace(LOWEST_K, HIGHEST_K, count)
    return steps_k, planckian_uv(np.clip(steps_k, LOWEST_K, HIGHEST_K))


def chromaticity_of(temperature: Temperature) -> tuple[float, float]:
    """CIE 1931 x, y of a colour temperature (1000 to 99000 K) and its Duv. [OHNO2013]

    OutOfRange beyond these ends. The point Duv away from the black body, square to their curve.

    >>> x, y = chromaticity_of(Temperature(6504.0, 0.0032))
    >>> f"{x:.4f} {y:.4f}"
    '0.3127 0.3290'
    """
    u, v = planckian_uv(temperature.cct_k)
    if not temperature.duv:
        return uv_to_xy(float(u), float(v))
    along_u, along_v = planckian_uv(temperature.cct_k * 1.0001) - (u, v)
    length = math.hypot(along_u, along_v)
    # Towards bluer black bodies both shrink: a quarter turn to the greenish side from there.
    away_u, away_v = along_v / length, -along_u / length
    return uv_to_xy(float(u + temperature.duv * away_u), float(v + temperature.duv * away_v))
