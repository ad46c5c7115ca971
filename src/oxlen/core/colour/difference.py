"""How different two colours look: CIEDE2000, from linear sRGB."""

from __future__ import annotations

from math import atan2, cos, degrees, exp, hypot, radians, sin, sqrt

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.white_point import SRGB_TO_XYZ

KAPPA, EPSILON = 24389 / 27, 216 / 24389
"""Of CIELAB's curve. [CIE015]"""


def lab_of_linear(linear: NDArray[np.float64]) -> NDArray[np.float64]:
    """CIELAB of a linear sRGB colour, shape (3,), against the white of sRGB. [CIE015]

    Takes shares of white, 0 to 1, of a colour in XYZ that is not negative.

    >>> lab_of_linear(np.array([0.18, 0.18, 0.18])).round(1).tolist()
    [49.5, 0.0, 0.0]
    """
    white = SRGB_TO_XYZ @ np.ones(3)
    share = SRGB_TO_XYZ @ np.asarray(linear, dtype=float) / white
    f = np.where(share > EPSILON, np.cbrt(share), (KAPPA * share + 16) / 116)
    return np.array([116 * f[1] - 16, 500 * (f[0] - f[1]), 200 * (f[1] - f[2])]) + 0.0


def delta_e_2000(first: NDArray[np.float64], second: NDArray[np.float64]) -> float:
    """CIEDE2000 of two CIELAB colours, shape (3,); 2 is seen side by side. [SHARMA2005]

    It has no unit and is at least 0; takes any finite CIELAB with lightness from 0 to 100.

    >>> pair = np.array([50.0, 2.6772, -79.7751]), np.array([50.0, 0.0, -82.7485])
    >>> f"{delta_e_2000(*pair):.4f}"
    '2.0425'
    """
    l1, l2 = float(first[0]), float(second[0])
    chroma = (hypot(first[1], first[2]) + hypot(second[1], second[2])) / 2
    stretch = 1 + 0.5 * (1 - sqrt(chroma**7 / (chroma**7 + 25.0**7)))
    c1, h1 = _polar(stretch * float(first[1]), float(first[2]))
    c2, h2 = _polar(stretch * float(second[1]), float(second[2]))
    turn = h2 - h1
    if c1 * c2 == 0:
        turn = 0.0
    elif abs(turn) > 180:
        turn -= 360 if turn > 0 else -360
    hue = 2 * sqrt(c1 * c2) * sin(radians(turn) / 2)
    c, h = (c1 + c2) / 2, _mean_hue(h1, h2, is_grey=c1 * c2 == 0)
    light = ((l1 + l2) / 2 - 50) ** 2
    s_l = 1 + 0.015 * light / sqrt(20 + light)
    s_c, s_h = 1 + 0.045 * c, 1 + 0.015 * c * _hue_weight(h)
    rotation = -2 * sqrt(c**7 / (c**7 + 25.0**7))
    rotation *= sin(radians(60 * exp(-(((h - 275) / 25) ** 2))))
    dl, dc, dh = (l2 - l1) / s_l, (c2 - c1) / s_c, hue / s_h
    return sqrt(max(0.0, dl**2 + dc**2 + dh**2 + rotation * dc * dh))


def _polar(a: float, b: float) -> tuple[float, float]:
    return hypot(a, b), degrees(atan2(b, a)) % 360 if a or b else 0.0


def _mean_hue(h1: float, h2: float, *, is_grey: bool) -> float:
    if is_grey:
        return h1 + h2
    if abs(h1 - h2) <= 180:
        return (h1 + h2) / 2
    return (h1 + h2 + (360 if h1 + h2 < 360 else -360)) / 2


def _hue_weight(h: float) -> float:
    return (
        1
        - 0.17 * cos(radians(h - 30))
        + 0.24 * cos(radians(2 * h))
        + 0.32 * cos(radians(3 * h + 6))
        - 0.20 * cos(radians(4 * h - 63))
    )
