"""The background of a series taken to a stated white, without clipping what is brighter."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import CLIPPED_CODE
from oxlen.core.light.tone import linear_table, luminance_share
from oxlen.core.series.look import SeriesLook
from oxlen.core.units import require_between

BRIGHTEST = float(linear_table(255)[CLIPPED_CODE - 1])
"""Linear light of the highest code that does not count as clipped. [IEC61966-2-1]"""
LOWEST_WHITE, HIGHEST_WHITE = 200, CLIPPED_CODE - 3
"""Own choice: codes that a background may be taken to; over it too little is left for gloss."""
MOST_LIFT_STOPS = 1.0
"""Own choice: a background darker than that is lit, not developed: the thing would wash out."""


@dataclass(frozen=True)
class WhiteCurve:
    """What takes a background to white: gains that make it neutral, its level, and the new one.

    `level` and `white` are linear light in shares of white, positive and under the brightest.
    """

    gains: tuple[float, float, float]
    level: float
    white: float

    @property
    def lift_stops(self) -> float:
        """How much brighter the background gets (stops)."""
        return float(np.log2(self.white / self.level))


def white_curve(reference: SeriesLook, code: int) -> WhiteCurve | None:
    """The curve for a series, by its reference's background; `code` is sRGB, from 200 to 247.

    A background more than a stop under it is lifted by a stop. None where it shows no background.
    """
    require_between("white", code, low=LOWEST_WHITE, high=HIGHEST_WHITE, unit="")
    background = reference.background & ~reference.lost
    if not background.any():
        return None
    colour = np.clip(np.median(reference.linear[background], axis=0).astype(float), 1e-4, None)
    level = float(luminance_share(colour))
    gains = level / colour
    wanted = min(float(linear_table(255)[code]), level * 2**MOST_LIFT_STOPS)
    return WhiteCurve((float(gains[0]), float(gains[1]), float(gains[2])), level, wanted)


def lifted(curve: WhiteCurve, light: NDArray[np.float64]) -> NDArray[np.float64]:
    """Linear light (..., 3) through the curve: shares of white in and out, never clipped.

    Straight up to the background's level; above it 1 − exp(−x) towards the brightest code that is
    not clipped, of the same slope where both meet. Own choice of a shoulder.
    """
    neutral = np.asarray(light) * np.array(curve.gains)
    slope, room = curve.white / curve.level, BRIGHTEST - curve.white
    over = np.maximum(neutral - curve.level, 0.0)
    bent = curve.white + room * -np.expm1(-over * slope / room)
    return np.asarray(np.where(neutral <= curve.level, neutral * slope, bent), dtype=float)
