"""Several lamps at once: the white of their sum, and how far apart they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oxlen.core.colour.adaptation import xy_of, xyz_of
from oxlen.core.colour.temperature import Temperature, mired, temperature_of
from oxlen.core.errors import BadInput
from oxlen.core.units import require_positive

ONE_SETTING_MIRED = 30.0
"""Zones further apart than this cannot be served by one setting of white balance. Rule of thumb,
from 20 to 40 mired: off by up to 10, for skin shows less than white walls."""


@dataclass(frozen=True)
class Lit:
    """What one lamp adds: its white x, y (CIE 1931) and the illuminance (lx) it gives."""

    x: float
    y: float
    illuminance_lx: float


@dataclass(frozen=True)
class Mixture:
    """The white of several lamps together; `spread_mired` is between the two extremes."""

    x: float
    y: float
    temperature: Temperature
    spread_mired: float


def mixture(lamps: Sequence[Lit]) -> Mixture:
    """The white where lamps overlap: their XYZ added by illuminance. [CIE015]

    BadInput without a lamp; OutOfRange where one gives no light.

    >>> both = mixture([Lit(0.44758, 0.40745, 100), Lit(0.3127, 0.329, 100)])
    >>> f"{both.temperature.cct_k:.0f} K, {both.spread_mired:.0f} mired apart"
    '4120 K, 196 mired apart'
    """
    if not lamps:
        raise BadInput("A mixture needs at least one lamp.", "lamps")
    light = np.zeros(3)
    for lamp in lamps:
        light += require_positive("lx", lamp.illuminance_lx, "lx") * xyz_of(lamp.x, lamp.y)
    x, y = xy_of(light)
    warmths = [mired(temperature_of(lamp.x, lamp.y).cct_k) for lamp in lamps]
    return Mixture(x, y, temperature_of(x, y), spread_mired=float(max(warmths) - min(warmths)))
