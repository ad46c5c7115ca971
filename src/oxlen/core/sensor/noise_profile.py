"""Full well and read noise out of the noise a raw file declares of itself."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.units import require_between, require_positive


@dataclass(frozen=True)
class DeclaredNoise:
    """Electrons at the raw file's white at its ISO, and read noise in electrons there."""

    white_e: float
    read_noise_e: float


def declared_noise(scale: float, offset: float) -> DeclaredNoise:
    """What a DNG's NoiseProfile says: variance = scale·x + offset, x from black 0 to white 1.

    Poisson light of n electrons at white has variance x/n on that scale, so n = 1/scale, and the
    read noise is sqrt(offset)/scale. Takes a positive scale and an offset not negative; OutOfRange
    otherwise. [DNG1_7]

    >>> found = declared_noise(1 / 6000, (3.0 / 6000) ** 2)
    >>> f"{found.white_e:.0f}, {found.read_noise_e:.1f}"
    '6000, 3.0'
    """
    require_positive("scale", scale)
    require_between("offset", offset, low=0, high=1)
    return DeclaredNoise(1 / scale, math.sqrt(offset) / scale)


def base_well_e(white_e: float, iso: float, base_iso: float) -> float:
    """Full well (e⁻) at base ISO of a sensor that has `white_e` electrons at white at an ISO.

    Above base ISO white is reached by so much fewer; below it the well itself is full. Takes
    positive ISOs; OutOfRange otherwise. [ISO12232]

    >>> base_well_e(1500.0, 400.0, 100.0)
    6000.0
    """
    require_positive("iso", iso)
    require_positive("base_iso", base_iso)
    return white_e * max(1.0, iso / base_iso)
