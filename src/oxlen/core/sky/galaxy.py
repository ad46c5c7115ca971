"""The Milky Way: where it is among the stars, and how it appears over a place."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.sky.ephemeris import equatorial
from oxlen.core.sky.in_frame import in_frame
from oxlen.core.sky.place import Vectors, altitude_deg, bearing_deg, towards

CENTRE_RA_DEG, CENTRE_DEC_DEG = 266.417, -29.008
"""[BLAAUW1960]"""
POLE_RA_DEG, POLE_DEC_DEG = 192.85948, 27.12825
"""Its centre and north pole (J2000). [BLAAUW1960]"""
BAND_STEP_DEG = 3.0
"""Own choice: finer than its clouds."""
BRIGHT_REACH_DEG = 60.0
"""How far from its centre the Milky Way is bright enough to be the picture. Own choice."""


@dataclass(frozen=True)
class BandView:
    """How the bright part of the Milky Way appears: its top over the horizon, and its lean.

    `tilt_deg` is how it leaves the centre's place: 0 upright, 90 level, positive leaning to
    the right going up. `up_share` is how much of the bright part is above the horizon.
    """

    centre_altitude_deg: float
    centre_bearing_deg: float
    tilt_deg: float
    up_share: float


def band(reach_deg: float = 180.0) -> Vectors:
    """Directions (3, m) along it (J2000) as far as `reach_deg` from its centre. [BLAAUW1960]

    >>> band(6.0).shape
    (3, 5)
    """
    count = round(reach_deg / BAND_STEP_DEG)
    along = np.radians(BAND_STEP_DEG * np.arange(-count, count + 1))
    pole = equatorial(POLE_RA_DEG, POLE_DEC_DEG)
    centre = equatorial(CENTRE_RA_DEG, CENTRE_DEC_DEG)
    ahead = centre - (centre @ pole) * pole
    ahead /= np.sqrt(ahead @ ahead)
    aside = np.cross(pole, ahead)
    return np.asarray(ahead[:, None] * np.cos(along) + aside[:, None] * np.sin(along))


def band_view(seen: Vectors) -> BandView:
    """How the bright part appears, from its directions (3, m) as seen, the centre in the middle.

    Takes an odd number of directions, from one end to the other. By geometry.
    """
    middle = seen.shape[1] // 2
    centre = seen[:, middle]
    bearing, height = float(bearing_deg(centre)), float(altitude_deg(centre))
    right = towards(bearing + 90.0, 0.0)
    up = np.cross(centre, right)
    step = seen[:, middle + 1] - seen[:, middle - 1]
    if step @ up < 0:
        step = -step
    tilt = float(np.degrees(np.arctan2(step @ right, step @ up)))
    return BandView(height, bearing, tilt, up_share=float(np.mean(seen[2] > 0)))


def band_held_share(seen: Vectors, *, field_deg: tuple[float, float], aim: Vectors) -> float:
    """How much of the bright band's directions (3, m) a frame holds that is aimed level at a place.

    `field_deg` is the lens's view across and down; `aim` where its middle points (3,). What is
    under the horizon counts as not held, a ratio from 0 to 1. By geometry: central
    projection, a picture without distortion.

    >>> wall = np.stack([towards(180.0, height) for height in range(0, 61)], axis=1)
    >>> f"{band_held_share(wall, field_deg=(40.0, 40.0), aim=towards(180.0, 30.0)):.2f}"
    '0.66'
    """
    x, y = in_frame(seen, field_deg=field_deg, aim=aim)
    # A place behind the camera is not a number, and nowhere in the frame.
    held = (np.abs(x - 0.5) <= 0.5) & (np.abs(y - 0.5) <= 0.5) & (seen[2] > 0)
    return float(np.mean(held))
