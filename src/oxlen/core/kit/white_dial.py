"""The white balance dial of a phone: the kelvin it offers, and tint where it has one."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from oxlen.core.colour.daylight import dial_white_xy
from oxlen.core.colour.temperature import mired, temperature_of
from oxlen.core.units import require_positive

SEEN_DUV = 0.001
"""A shift of less towards green or pink is not seen, and the table of usual lights is no better.
Own choice. [OHNO2013]"""


@lru_cache(maxsize=512)
def dial_duv(dial_k: float) -> float:
    """Duv of the white of a dial: daylight is a little greenish beside black bodies.

    Takes 1000 to 25000 K, OutOfRange otherwise. [CIE015]

    >>> f"{dial_duv(3000.0):.4f} {dial_duv(6500.0):.4f}"
    '0.0000 0.0033'
    """
    return temperature_of(*dial_white_xy(dial_k)).duv


@dataclass(frozen=True)
class DialledWhite:
    """What is dialled: kelvin, and tint in the phone's own steps, None where it has none.

    `residual_mired` is how much warmer (positive) the picture is than was wanted.
    """

    dial_k: float
    tint: float | None
    residual_mired: float


@dataclass(frozen=True)
class WhiteDial:
    """Kelvin from `low_k` to `high_k` in steps; tint from −most to +most, 0 for none.

    `offset_mired` is how much warmer it renders than its number says, and `plus_minus_mired` how
    far that may be off. A step of tint shifts the
    white by `tint_duv`; plus is towards pink, against greenish light.
    """

    low_k: float = 2300.0
    high_k: float = 10_000.0
    step_k: float = 100.0
    tint_most: float = 0.0
    tint_step: float = 1.0
    tint_duv: float = 0.0003
    offset_mired: float = 0.0
    plus_minus_mired: float = 0.0

    @cached_property
    def steps_k(self) -> tuple[float, ...]:
        """Every kelvin value it can be set to, ascending."""
        count = int((self.high_k - self.low_k) / self.step_k + 1e-9)
        return tuple(self.low_k + place * self.step_k for place in range(count + 1))

    def nearest(self, wanted_k: float, duv: float = 0.0) -> DialledWhite:
        """The setting nearest to a white, nearest in mired, since those are what is seen."""
        require_positive("K", wanted_k, "K")
        steps = np.array(self.steps_k)
        dial_k = float(steps[np.argmin(np.abs(1e6 / steps - 1e6 / wanted_k - self.offset_mired))])
        residual = float(mired(wanted_k) - mired(dial_k)) + self.offset_mired
        if not self.tint_most:
            return DialledWhite(dial_k, None, residual)
        off_duv = duv - dial_duv(dial_k)
        if abs(off_duv) < SEEN_DUV:
            return DialledWhite(dial_k, 0.0, residual)
        steps_off = round(off_duv / self.tint_duv / self.tint_step) * self.tint_step
        tint = float(np.clip(steps_off, -self.tint_most, self.tint_most))
        return DialledWhite(dial_k, tint, residual)

    @property
    def coarsest_mired(self) -> float:
        """The widest gap between neighbouring settings, in mired: at its warm end."""
        if len(self.steps_k) < 2:
            return 0.0
        return 1e6 / self.steps_k[0] - 1e6 / self.steps_k[1]
