"""Foreground under a night sky: how little lamp light lifts it to the level of the sky."""

from __future__ import annotations

import math
from collections.abc import Mapping

from oxlen.core.units import require_between, require_positive

GRASS_SHARE = 0.15
"""What grass, earth and weathered wood throw back. [IES1984]"""
GROUNDS: Mapping[float, str] = {
    0.05: "Tarred wood, dark rock",
    GRASS_SHARE: "Grass, earth, old wood",
    0.4: "Pale sand, concrete",
    0.75: "Snow, a white hull",
}
"""What the foreground may be, by the share of light it throws back. [IES1984]"""


def foreground_needs_lx(
    sky_cd_m2: float, *, stops_from_sky: float = 0.0, reflects: float = GRASS_SHARE
) -> float:
    """Illuminance (lx) that brings a dull foreground to the sky's luminance, or stops from it.

    π·L·2^stops/ρ. Takes a positive luminance (cd/m²) and a share 0 to 1. [RAY2002]

    >>> f"{foreground_needs_lx(3e-4):.4f}"
    '0.0063'
    """
    require_positive("sky", sky_cd_m2, "cd/m²")
    require_between("reflects", reflects, low=0.01, high=1)
    return float(math.pi * sky_cd_m2 * 2.0**stops_from_sky / reflects)


def foreground_luminance_cd_m2(illuminance_lx: float, *, reflects: float = GRASS_SHARE) -> float:
    """Luminance (cd/m²) of dull foreground under so much light (lx): ρ·E/π.

    Takes a positive illuminance and a share 0.01 to 1. Derived: Lambert's
    cosine law for a dull surface. [IES1984]

    >>> f"{foreground_luminance_cd_m2(0.0063):.1e}"
    '3.0e-04'
    """
    require_between("reflects", reflects, low=0.01, high=1)
    return float(reflects * require_positive("illuminance", illuminance_lx, "lx") / math.pi)


def bare_lamp_distance_m(lumens: float, illuminance_lx: float) -> float:
    """Distance (m) from which a lamp that shines all round gives an illuminance: √(Φ/(4π·E)).

    Takes positive figures (lm, lx). Derived: light spread over a sphere, without walls or shade.

    >>> f"{bare_lamp_distance_m(1.0, 0.0063):.1f}"
    '3.6'
    """
    require_positive("lumens", lumens, "lm")
    require_positive("illuminance", illuminance_lx, "lx")
    return math.sqrt(lumens / (4 * math.pi * illuminance_lx))
