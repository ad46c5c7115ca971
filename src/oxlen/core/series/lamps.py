"""Lamps for a series: how evenly they light the background, and how bright the thing gets."""

from __future__ import annotations

import math

import numpy as np

from oxlen.core.errors import OutOfRange
from oxlen.core.units import require_between, require_positive

ANGLE_DEG = 45.0
"""Own choice: lamps are placed 45° to the side, where gloss does not mirror them into the lens."""
NEAREST_M, FARTHEST_M = 0.15, 20.0


def falloff_stops(lamp_m: float, width_m: float, *, pair: bool) -> float:
    """How unevenly lamps 45° to the side light a background: stops, brightest over darkest place.

    `lamp_m` (0.15 to 20 m) is from the lamp to the middle of the background, `width_m` (> 0) its
    width; `pair` has a second lamp on the other side. cos θ/r² of a small lamp aimed at the middle;
    off by 0.2 stop for soft boxes as wide as their distance, which are more even. [RAY2002]

    >>> f"{falloff_stops(0.6, 0.4, pair=False):.1f}, {falloff_stops(0.6, 0.4, pair=True):.2f}"
    '2.0, 0.30'
    """
    require_between("lamp distance", lamp_m, low=NEAREST_M, high=FARTHEST_M, unit="m")
    require_positive("width", width_m, "m")
    x = np.linspace(-width_m / 2, width_m / 2, 41)
    across, off = (lamp_m * f(math.radians(ANGLE_DEG)) for f in (math.sin, math.cos))
    light = _light(x - across, off)
    if pair:
        light = light + _light(x + across, off)
    return float(np.log2(light.max() / light.min()))


def lamp_distance_m(width_m: float, most_stops: float, *, pair: bool) -> float:
    """The least distance (m) from lamps to the middle at which a background is even enough.

    `most_stops` (0.05 to 3) is the falloff allowed over `width_m`. OutOfRange where 20 m are not
    enough. By bisection of `falloff_stops`. [RAY2002]

    >>> [f"{lamp_distance_m(0.4, 0.5, pair=pair):.1f} m" for pair in (False, True)]
    ['2.4 m', '0.4 m']
    """
    require_between("falloff", most_stops, low=0.05, high=3.0, unit="stops")
    low, high = NEAREST_M, FARTHEST_M
    if falloff_stops(high, width_m, pair=pair) > most_stops:
        raise OutOfRange("background width", width_m, high=width_m / 2, unit="m")
    # Close to the background two lamps leave it dark between them: from there on it only evens out.
    while high - low > 0.01:
        middle = (low + high) / 2
        if _is_even_from(middle, width_m, most_stops, pair=pair):
            high = middle
        else:
            low = middle
    return high


def lamp_lx(lumens: float, distance_m: float) -> float:
    """Light (lx) of one flat lamp on what it is aimed at: Φ/(π·d²), for a panel. [RAY2002]

    Takes positive lumens and metres; a bare bulb gives a quarter of it, a reflector more: off by
    one stop.

    >>> f"{lamp_lx(1600, 0.8):.0f} lx"
    '796 lx'
    """
    require_positive("lumens", lumens, "lm")
    require_positive("distance", distance_m, "m")
    return lumens / (math.pi * distance_m**2)


def _is_even_from(lamp_m: float, width_m: float, most_stops: float, *, pair: bool) -> bool:
    further = np.geomspace(lamp_m, FARTHEST_M, 12)
    return all(falloff_stops(float(d), width_m, pair=pair) <= most_stops for d in further)


def _light(across: np.ndarray, off: float) -> np.ndarray:
    """Light of a lamp on a flat background: cos θ/r² = off/r³."""
    return np.asarray(off / (across**2 + off**2) ** 1.5)
