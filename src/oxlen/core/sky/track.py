"""Sun and Moon through hours or a year: worked now and then, smooth in between."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oxlen.core.sky.ephemeris import Bodies, bodies
from oxlen.core.sky.place import Place, Vectors

Times = NDArray[np.float64]
DAY_STEP_S, YEAR_STEP_S = 900.0, 5400.0
"""Own choice: steps of a night, and of many."""
SHORT_S = 8 * 86_400.0
"""Own choice: so long the finer step is used."""


@dataclass(frozen=True)
class Crossing:
    """A moment (seconds since 1970 UTC) at which a body passes a height, upward or downward."""

    unix_s: float
    rises: bool


@dataclass(frozen=True)
class Track:
    """Directions of Sun and Moon over a span; between the worked times by cubic splines.

    With a quarter of an hour between them that is good to 0.05 seconds of arc, with an hour and a
    half to 20.
    """

    samples: Bodies

    @cached_property
    def sun(self) -> Callable[[Times], Vectors]:
        """Where the Sun is at times (n,), as (3, n)."""
        return smooth(self.samples.unix_s, self.samples.sun)

    @cached_property
    def moon(self) -> Callable[[Times], Vectors]:
        """Where the Moon is at times (n,), as (3, n)."""
        return smooth(self.samples.unix_s, self.samples.moon)

    def sun_crossings(self, altitude_deg: float) -> tuple[Crossing, ...]:
        """When the Sun's middle passes a height (°), in order."""
        return crossings(self.samples.unix_s, self.samples.sun[2], altitude_deg)

    def moon_crossings(self, altitude_deg: float) -> tuple[Crossing, ...]:
        """When the Moon's middle passes a height (°), in order."""
        return crossings(self.samples.unix_s, self.samples.moon[2], altitude_deg)


def track(place: Place, first_unix_s: float, last_unix_s: float) -> Track:
    """Sun and Moon from a place over a span of time (seconds since 1970 UTC). [RHODES2019]

    BadInput before 1900 and from 2050 on.
    """
    step_s = DAY_STEP_S if last_unix_s - first_unix_s <= SHORT_S else YEAR_STEP_S
    count = max(4, int(np.ceil((last_unix_s - first_unix_s) / step_s)) + 1)
    return Track(
        bodies(place, np.asarray(first_unix_s + step_s * np.arange(count), dtype=np.float64))
    )


def crossings(unix_s: Times, up: Times, altitude_deg: float) -> tuple[Crossing, ...]:
    """When a height of the sky's sphere (`up` is its sine, at times) passes an altitude (°).

    Roots of a cubic spline through it; takes at least four times in order. [DEBOOR1978]
    """
    from scipy.interpolate import CubicSpline

    level = float(np.sin(np.radians(altitude_deg)))
    if up.min() > level or up.max() < level:
        return ()
    # Counted from the first time: squares of seconds since 1970 would lose what tells them apart.
    spline: Any = CubicSpline(unix_s - unix_s[0], up)
    roots = np.sort(spline.solve(level, extrapolate=False))
    slopes = spline(roots, 1)
    return tuple(
        Crossing(float(unix_s[0] + root), bool(slope > 0))
        for root, slope in zip(roots, slopes, strict=True)
        if slope != 0
    )


def smooth(unix_s: Times, directions: Vectors) -> Callable[[Times], Vectors]:
    """A function that tells directions (3, n) at any times between worked ones. [DEBOOR1978]"""
    from scipy.interpolate import CubicSpline

    spline: Any = CubicSpline(unix_s - unix_s[0], directions, axis=1)

    def at(times: Times) -> Vectors:
        found = spline(np.asarray(times, dtype=float) - unix_s[0])
        return np.asarray(found / np.sqrt(np.sum(np.square(found), axis=0)))

    return at
