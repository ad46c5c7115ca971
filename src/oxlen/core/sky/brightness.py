"""How bright the night sky is: by its class, by the Moon, and as an exposure."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from oxlen.core.constants import METER_CONSTANT_K
from oxlen.core.units import Real, require_between, require_positive

MAG_0_ARCSEC2_CD_M2 = 10.8e4
"""Luminance (cd/m²) of a sky of 0 mag in each square arcsecond. [SCHLYTER2009]"""
CLASS_MAG: Mapping[int, tuple[float, float]] = {
    1: (21.75, 22.0),
    2: (21.6, 21.75),
    3: (21.3, 21.6),
    4: (20.8, 21.3),
    5: (20.1, 20.8),
    6: (19.1, 20.1),
    7: (18.5, 19.1),
    8: (18.0, 18.5),
    9: (17.0, 18.0),
}
"""Dark-sky classes, 1 the darkest, and their brightness (mag/arcsec²). [BORTLE2001]"""
CLASS_WORDS: Mapping[int, str] = {
    1: "Darkest sky: the Milky Way casts shadows",
    2: "Truly dark: clouds look black",
    3: "Country sky: some light pollution low down",
    4: "Rural to suburban: light pollution in several directions",
    5: "Edge of town: the Milky Way is faint, overhead only",
    6: "Bright edge of town: no Milky Way",
    7: "Town: the sky is grey",
    8: "City: few stars",
    9: "City centre: very few stars",
}
EXTINCTION_MAG = 0.172
"""What clear air takes away straight up, in magnitudes. [KRISCIUNAS1991]"""
AIRGLOW_MAG = 0.3
"""How far the same moonless sky goes up and down between nights, in magnitudes. [KRISCIUNAS1997]"""
STOPS_A_MAGNITUDE = 0.4 * math.log2(10.0)
"""A magnitude is a factor of 10^0.4 in light. Exact."""
NANOLAMBERT_CD_M2 = 1e-5 / np.pi
"""Exact: one nanolambert in cd/m²."""


def sky_luminance_cd_m2(magnitude_arcsec2: Real) -> Real:
    """Luminance (cd/m²) of a sky of `m` mag/arcsec²: 10.8·10⁴·10^(−0.4·m).

    By definition of the magnitude and its zero. [SCHLYTER2009]

    Takes any from −30 to 40; OutOfRange otherwise.

    >>> f"{sky_luminance_cd_m2(21.5):.6f}"
    '0.000271'
    """
    require_between("m", magnitude_arcsec2, low=-30, high=40, unit="mag/arcsec²")
    found: Real = MAG_0_ARCSEC2_CD_M2 * np.power(10.0, -0.4 * np.asarray(magnitude_arcsec2))[()]
    return found


def sky_ev100(magnitude_arcsec2: Real) -> Real:
    """EV100 of a sky of `m` mag/arcsec² (between −30 and 40), by the meter's K. [ISO2720]

    >>> f"{sky_ev100(21.5):.2f}"
    '-8.85'
    """
    return luminance_ev100(sky_luminance_cd_m2(magnitude_arcsec2))


def luminance_ev100(luminance_cd_m2: Real) -> Real:
    """EV100 of a luminance (positive, cd/m²): log2(100·L/K). [ISO2720]

    >>> f"{luminance_ev100(0.125):.1f}"
    '0.0'
    """
    bright = np.asarray(require_positive("L", luminance_cd_m2, "cd/m²"))
    found: Real = np.log2(100 * bright / METER_CONSTANT_K)[()]
    return found


def magnitude_of(luminance_cd_m2: Real) -> Real:
    """Brightness (mag/arcsec²) of a luminance (positive, cd/m²). By definition.

    >>> f"{magnitude_of(sky_luminance_cd_m2(20.0)):.3f}"
    '20.000'
    """
    bright = np.asarray(require_positive("L", luminance_cd_m2, "cd/m²"))
    found: Real = (-2.5 * np.log10(bright / MAG_0_ARCSEC2_CD_M2))[()]
    return found


def magnitude_of_ev100(ev100: Real) -> Real:
    """Brightness (mag/arcsec²) of a sky that meters at an EV100 (any finite). [ISO2720]

    >>> f"{magnitude_of_ev100(sky_ev100(20.0)):.3f}"
    '20.000'
    """
    return magnitude_of(METER_CONSTANT_K / 100 * np.exp2(np.asarray(ev100)))


def class_magnitude(dark_sky_class: int) -> tuple[float, float]:
    """Middle and half width (mag/arcsec²) of a dark-sky class. [BORTLE2001]

    Takes 1 to 9; OutOfRange otherwise.

    >>> class_magnitude(4)
    (21.05, 0.25)
    """
    require_between("dark_sky_class", dark_sky_class, low=1, high=9)
    low, high = CLASS_MAG[int(dark_sky_class)]
    return round((low + high) / 2, 3), round((high - low) / 2, 3)


def moonlit_luminance_cd_m2(
    *, moon_altitude_deg: Real, sky_altitude_deg: Real, apart_deg: Real, elongation_deg: Real
) -> Real:
    """What the Moon adds (cd/m²) to a place of the sky so far from it; 0 while it is down.

    All in degrees: the heights of both, the angle between, and the Moon's from the Sun. A model of
    moonlight scattered in clear air, within a quarter of its value. [KRISCIUNAS1991]

    >>> full = {"moon_altitude_deg": 30.0, "sky_altitude_deg": 60.0, "apart_deg": 90.0}
    >>> f"{magnitude_of(moonlit_luminance_cd_m2(**full, elongation_deg=179.9)):.1f}"
    '18.9'
    """
    phase = 180 - np.asarray(elongation_deg, dtype=float)
    shines = np.power(10.0, -0.4 * (3.84 + 0.026 * np.abs(phase) + 4e-9 * phase**4))
    apart = np.maximum(np.asarray(apart_deg, dtype=float), 1.0)
    scattered = np.power(10.0, 5.36) * (1.06 + np.cos(np.radians(apart)) ** 2)
    scattered = scattered + np.power(10.0, 6.15 - apart / 40)
    through = np.power(10.0, -0.4 * EXTINCTION_MAG * _airmass(moon_altitude_deg))
    sky = 1 - np.power(10.0, -0.4 * EXTINCTION_MAG * _airmass(sky_altitude_deg))
    found = scattered * shines * through * sky * NANOLAMBERT_CD_M2
    lit: Real = np.where(np.asarray(moon_altitude_deg) > 0, found, 0.0)[()]
    return lit


def _airmass(altitude_deg: Real) -> Real:
    """How much air light of a height passes, 1 straight up; the model's own formula."""
    zenith = np.radians(90 - np.clip(altitude_deg, 0, 90))
    through: Real = 1 / np.sqrt(1 - 0.96 * np.sin(zenith) ** 2)
    return through
