"""Monotone cubics through points (PCHIP), written out: loading a library for it takes a second."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


def monotone_cubic(x: Floats, y: Floats, at: Floats) -> Floats:
    """Values at `at`, shape (n,), of monotone cubics through (x, y), x ascending, two or more.

    Takes any y, no unit; `at` is inside the ends. Slopes by weighted harmonic means, ends by the
    three-point rule kept in shape. [FRITSCH1980]

    >>> found = monotone_cubic(np.array([0, 0.5, 1]), np.array([10.0, 2, 0]), np.array([0.25]))
    >>> f"{found[0]:.3f}"
    '5.025'
    """
    step, secant = np.diff(x), np.diff(y) / np.diff(x)
    slope = _slopes(step, secant)
    place = np.clip(np.searchsorted(x, at, side="right") - 1, 0, len(step) - 1)
    h, t = step[place], at - x[place]
    c = (3 * secant[place] - 2 * slope[place] - slope[place + 1]) / h
    b = (slope[place] - 2 * secant[place] + slope[place + 1]) / h**2
    return np.asarray(y[place] + t * (slope[place] + t * (c + t * b)), dtype=float)


def _slopes(step: Floats, secant: Floats) -> Floats:
    """Slope at every point, shape (n + 1,) for n steps."""
    if len(step) == 1:
        return np.array([secant[0], secant[0]])
    slope = np.zeros(len(step) + 1)
    before, after = secant[:-1], secant[1:]
    same = before * after > 0
    w1, w2 = 2 * step[1:] + step[:-1], step[1:] + 2 * step[:-1]
    with np.errstate(divide="ignore", invalid="ignore"):
        mean = (w1 + w2) / (w1 / before + w2 / after)
    slope[1:-1] = np.where(same, mean, 0.0)
    slope[0] = _end(step[0], step[1], secant[0], beyond=secant[1])
    slope[-1] = _end(step[-1], step[-2], secant[-1], beyond=secant[-2])
    return slope


def _end(h0: float, h1: float, secant: float, *, beyond: float) -> float:
    """One-sided three-point slope, limited so that the curve keeps its shape."""
    slope = ((2 * h0 + h1) * secant - h0 * beyond) / (h0 + h1)
    if np.sign(slope) != np.sign(secant):
        return 0.0
    if np.sign(secant) != np.sign(beyond) and abs(slope) > 3 * abs(secant):
        return 3 * secant
    return float(slope)
