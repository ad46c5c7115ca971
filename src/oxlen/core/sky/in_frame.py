"""Directions of the sky as they are in a picture of a level camera."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from oxlen.core.sky.place import Vectors, bearing_deg, towards

HORIZON_SHARE = 0.2
"""How much of a frame is under the level horizon, from its lower edge. Own choice."""
SPARE_SHARE = 0.35
"""How far over the middle of a frame, as a share of its view, what it is aimed at may be.
Own choice."""


def in_frame(seen: Vectors, *, field_deg: tuple[float, float], aim: Vectors) -> NDArray[np.float64]:
    """Places (2, m) of directions (3, m): from the left and the top, 0 to 1 within the frame.

    `field_deg` is the lens's view across and down; `aim` where its middle points (3,). nan behind
    the camera. By geometry: central projection, a picture without distortion.

    >>> ahead = towards(180.0, 20.0)
    >>> in_frame(ahead[:, None], field_deg=(60.0, 40.0), aim=ahead).round(6).ravel().tolist()
    [0.5, 0.5]
    """
    right = towards(float(bearing_deg(aim)) + 90.0, 0.0)
    up = np.cross(aim, right)
    ahead = aim @ seen
    ahead = np.where(ahead > 0, ahead, np.nan)
    wide, high = (math.tan(math.radians(angle / 2)) for angle in field_deg)
    x, y = (right @ seen) / ahead / wide, (up @ seen) / ahead / high
    return np.asarray(np.stack([0.5 + x / 2, 0.5 - y / 2]))


def aimed_at(bearing: float, altitude: float, *, down_deg: float) -> Vectors:
    """Where the middle (3,) of a level frame points, so that it has the horizon and a direction.

    The horizon is near the lower edge, unless the direction (° of bearing and altitude) would leave
    the frame, `down_deg` high, at the top. By geometry.

    >>> frame = aimed_at(180.0, 10.0, down_deg=60.0)
    >>> horizon = in_frame(towards(180.0, 0.0)[:, None], field_deg=(40.0, 60.0), aim=frame)
    >>> f"{float(horizon[1, 0]):.2f}"
    '0.80'
    """
    half = math.tan(math.radians(down_deg / 2))
    low = math.degrees(math.atan((1 - 2 * HORIZON_SHARE) * half))
    return towards(bearing, max(low, altitude - SPARE_SHARE * down_deg))
