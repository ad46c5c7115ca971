"""A place on the ground, and directions as seen from it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.units import Real, require_between

Vectors = NDArray[np.float64]
"""Unit vectors (3, ...): north, east, up."""


@dataclass(frozen=True)
class Place:
    """An observer's position: degrees north and east. OutOfRange beyond ±90 and ±180."""

    latitude_deg: float
    longitude_deg: float

    def __post_init__(self) -> None:
        require_between("latitude", self.latitude_deg, low=-90, high=90, unit="°")
        require_between("longitude", self.longitude_deg, low=-180, high=180, unit="°")


def altitude_deg(direction: Vectors) -> Real:
    """Height over the level horizon (°) of unit vectors (3, ...), finite; no air. By definition.

    >>> float(altitude_deg(np.array([0.0, 0.0, 1.0])))
    90.0
    """
    height: Real = np.degrees(np.arcsin(np.clip(direction[2], -1, 1)))
    return height


def bearing_deg(direction: Vectors) -> Real:
    """Bearing (°, 0 to 360) of finite directions (3, ...): north 0, east 90. By definition.

    >>> float(bearing_deg(np.array([0.0, -1.0, 0.0])))
    270.0
    """
    bearing: Real = np.degrees(np.arctan2(direction[1], direction[0])) % 360
    return bearing


def towards(bearing: Real, altitude: Real) -> Vectors:
    """Unit vectors (3, ...) of bearings and heights in degrees, any range. By definition.

    >>> towards(90.0, 0.0).round(6).tolist()
    [0.0, 1.0, 0.0]
    """
    b, a = np.radians(bearing), np.radians(altitude)
    return np.array([np.cos(a) * np.cos(b), np.cos(a) * np.sin(b), np.sin(a) + 0 * b])


def between_deg(vectors: Vectors, other: Vectors) -> Real:
    """Angle (°) between directions (3, ...) of any shapes that broadcast. By definition.

    >>> float(round(between_deg(towards(10.0, 0.0), towards(55.0, 0.0)), 3))
    45.0
    """
    across = np.clip(np.sum(vectors * other, axis=0), -1, 1)
    angle: Real = np.degrees(np.arccos(across))
    return angle
