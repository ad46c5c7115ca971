"""A neutral patch with one clipped channel: its cast from the two channels that are left."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.adaptation import adapted, xyz_of
from oxlen.core.colour.daylight import dial_white_xy
from oxlen.core.colour.patch import PICTURE_WHITE
from oxlen.core.colour.temperature import kelvin, mired
from oxlen.core.colour.white_point import SRGB_TO_XYZ

NEAR_CLIPPED = 0.93
"""Linear sRGB of a patch's mean from which a second channel holds clipped pixels too. Own choice:
code 247, above which phones roll off."""
LIGHTS_MIRED = np.arange(60.0, 560.0, 4.0)
"""Lights tried, 16,700 K to 1,800 K. Own choice: candle to deep shade."""


def cast_of_clipped(linear: NDArray[np.float64], dial_k: float) -> float | None:
    """Cast (mired, warm positive) of a neutral patch whose brightest channel alone is clipped.

    `linear` is its linear sRGB, shape (3,), all above 0; `dial_k` 1000 to 25000 K. A clipped
    channel says only "at least"; the light is the black body or daylight whose neutral has the
    ratio of the other two. None where a second channel is clipped, or no light has that ratio.
    Bradford adaptation. [LAM1985]

    >>> found = cast_of_clipped(np.array([0.80, 0.90, 1.0]), 5000.0)
    >>> f"{found:.0f}"
    '-26'
    """
    clipped = int(np.argmax(linear))
    first, second = (index for index in range(3) if index != clipped)
    if max(linear[first], linear[second]) >= NEAR_CLIPPED:
        return None
    wanted = math.log2(linear[first] / linear[second])
    casts = LIGHTS_MIRED - float(mired(dial_k))
    ratios = np.array([_ratio(light, dial_k, (first, second)) for light in LIGHTS_MIRED])
    order = np.argsort(ratios)
    if not ratios[order[0]] <= wanted <= ratios[order[-1]]:
        return None
    return float(np.interp(wanted, ratios[order], casts[order]))


def _ratio(light_mired: float, dial_k: float, channels: tuple[int, int]) -> float:
    """Log ratio of two channels of a neutral under a light, in a picture taken at a dial."""
    light_xy = dial_white_xy(float(kelvin(light_mired)))
    seen = adapted(xyz_of(*light_xy), dial_white_xy(dial_k), PICTURE_WHITE)
    rgb = np.maximum(np.linalg.solve(SRGB_TO_XYZ, seen), 1e-4)
    first, second = channels
    return math.log2(rgb[first] / rgb[second])
