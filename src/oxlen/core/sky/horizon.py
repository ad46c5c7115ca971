"""What hides the sky low down at a place, and what of a town glows there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oxlen.core.units import Real

FADES_WITH_DEG = 15.0
"""Town glow falls to a third so high over the horizon, and as far to the sides. Rule of thumb, from
10 to 25°: off by up to a factor of 1.5."""


@dataclass(frozen=True)
class HorizonPoint:
    """How high (°) what hides the sky is at a bearing (°)."""

    bearing_deg: float
    height_deg: float


@dataclass(frozen=True)
class Glow:
    """A town's glow: its bearing (°), and how many stops it lifts the sky at its middle."""

    bearing_deg: float
    stops: float


def hidden_below_deg(points: Sequence[HorizonPoint], bearing_deg: Real) -> Real:
    """Height (°) under which the sky is hidden at bearings (any, °): straight between points.

    0 all round without any; the last point goes on to the first. Finite bearings. Own
    choice: a line of hills is known no better than by a few points.

    >>> float(hidden_below_deg([HorizonPoint(90, 10), HorizonPoint(180, 20)], 135.0))
    15.0
    """
    if not points:
        return np.zeros_like(np.asarray(bearing_deg, dtype=float))[()]
    order = sorted(points, key=lambda point: point.bearing_deg % 360)
    bearings = np.array([place.bearing_deg % 360 for place in order])
    heights = np.array([place.height_deg for place in order])
    found: Real = np.interp(np.asarray(bearing_deg) % 360, bearings, heights, period=360)
    return found


def glow_stops(glows: Sequence[Glow], bearing_deg: Real, altitude_deg: Real) -> Real:
    """How many stops towns lift the sky in a direction (°): each fades with the angle.

    Takes finite angles. Rule of thumb, for towns from 5 to 40 km away: off by up to 1 stop, for
    haze and distance change how fast the glow fades.

    >>> float(glow_stops([Glow(90.0, 2.0)], 90.0, 0.0))
    2.0
    """
    lifted = np.zeros(np.broadcast(np.asarray(bearing_deg), np.asarray(altitude_deg)).shape)
    for glow in glows:
        aside = (np.asarray(bearing_deg) - glow.bearing_deg + 180) % 360 - 180
        away = np.hypot(aside / 2, np.asarray(altitude_deg)) / FADES_WITH_DEG
        lifted = lifted + (2.0**glow.stops - 1) * np.exp(-away)
    stops: Real = np.log2(1 + lifted)[()]
    return stops
