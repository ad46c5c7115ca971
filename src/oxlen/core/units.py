"""Conversions every domain shares, and the guards on what a quantity may be."""

from __future__ import annotations

import math
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import OutOfRange

Real: TypeAlias = float | NDArray[np.float64]
"""A float or a numpy array of floats; functions broadcast."""
NUMBERS = (float, int)
"""As a tuple: asked for at every formula, and twice as fast as the union."""


def require_positive(name: str, value: Real, unit: str = "") -> Real:
    """Return `value` when every element is finite and above zero; OutOfRange names it otherwise.

    >>> require_positive("shutter_s", 0.5)
    0.5
    """
    if isinstance(value, NUMBERS):  # the usual case, many times faster than through an array
        good = 0 < value < math.inf
    else:
        good = bool(np.all(np.isfinite(value) & (np.asarray(value) > 0)))
    if not good:
        raise OutOfRange(name, value, low=0, unit=unit)
    return value


def require_finite(name: str, value: Real, unit: str = "") -> Real:
    """Return `value` when every element is finite; OutOfRange names it otherwise."""
    finite = math.isfinite(value) if isinstance(value, NUMBERS) else np.all(np.isfinite(value))
    if not finite:
        raise OutOfRange(name, value, unit=unit)
    return value


def require_between(name: str, value: Real, *, low: float, high: float, unit: str = "") -> Real:
    """Return `value` when every element is in [low, high]; OutOfRange names it otherwise."""
    if isinstance(value, NUMBERS):
        inside = low <= value <= high
    else:
        inside = bool(np.all((np.asarray(value) >= low) & (np.asarray(value) <= high)))
    if not inside:
        raise OutOfRange(name, value, low=low, high=high, unit=unit)
    return value


def stops_between(larger: Real, smaller: Real) -> Real:
    """Stops from `smaller` up to `larger`: log2 of their ratio; both positive, same unit.

    >>> f"{stops_between(8.0, 2.0):.1f}"
    '2.0'
    """
    return np.log2(larger) - np.log2(smaller)
