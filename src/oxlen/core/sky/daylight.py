"""Light of the Sun and the Moon on the ground by their height, and what a meter would say of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import METER_CONSTANT_C
from oxlen.core.units import Real

Cloud = Literal["clear", "partly", "overcast"]
Facing = Literal["open", "shade", "away", "towards"]
FACINGS: Mapping[Facing, str] = {
    "open": "Open ground",
    "away": "Sun behind you",
    "towards": "Towards the Sun",
    "shade": "Open shade",
}
CLOUDS: Mapping[Cloud, str] = {
    "clear": "Clear",
    "partly": "Partly cloudy",
    "overcast": "Overcast",
}
PLUS_MINUS_STOPS: Mapping[Cloud, float] = {"clear": 0.5, "partly": 1.0, "overcast": 1.0}
"""Rule of thumb: off by up to this by sky. [IES1984]"""
STARLIGHT_LX = 1e-3
"""What a clear night without a Moon leaves on open ground. [SCHLYTER2009]"""
FIVE_DEG = 5.0
"""Height from which the split into Sun and sky is given. [IES1984]"""
_Row = tuple[float, float, tuple[float, float, float, float]]
_SUN: tuple[_Row, ...] = (
    (20, 90, (3.74, 3.97, -4.07, 1.47)),
    (5, 20, (3.05, 13.28, -45.98, 64.33)),
    (-0.8, 5, (2.88, 22.26, -207.64, 1034.30)),
    (-5, -0.8, (2.88, 21.81, -258.11, -858.36)),
    (-12, -5, (2.70, 12.17, -431.69, -1899.83)),
    (-18, -12, (13.84, 262.72, 1447.42, 2797.93)),
)
"""Polynomials of log10 lx by height of the Sun. [JANICZEK1987]"""
_MOON: tuple[_Row, ...] = (
    (20, 90, (-1.95, 4.06, -4.24, 1.56)),
    (5, 20, (-2.58, 12.58, -42.58, 59.06)),
    (-0.8, 5, (-2.79, 24.27, -252.95, 1321.29)),
)
"""The same for the full Moon at its mean distance. [JANICZEK1987]"""


@dataclass(frozen=True)
class GroundLight:
    """Light (lx) on open level ground, and of it what comes straight from the Sun."""

    level_lx: NDArray[np.float64]
    straight_lx: NDArray[np.float64]


def sunlight_lx(altitude_deg: Real) -> Real:
    """Illuminance (lx) of clear sunlight and twilight on level ground, Sun at a height (°).

    0 where the Sun is more than 18° down; any finite height. [JANICZEK1987]

    >>> f"{sunlight_lx(0.0):.0f}, {sunlight_lx(-6.0):.1f}, {sunlight_lx(60.0):.0f}"
    '759, 3.4, 103118'
    """
    return _worked(_SUN, altitude_deg)


def moonlight_lx(altitude_deg: Real, elongation_deg: Real) -> Real:
    """Illuminance (lx) of the Moon at mean distance on level ground, by height and phase (°).

    `elongation_deg` is its angle from the Sun: 180 full, 0 new. Takes heights from −90 to 90; 0
    while it is down. [JANICZEK1987]

    >>> f"{moonlight_lx(60.0, 180.0):.3f}, {moonlight_lx(60.0, 90.0):.3f}"
    '0.216, 0.026'
    """
    phase = 180 - np.asarray(elongation_deg, dtype=float)
    faded = np.power(10.0, -0.00868 * phase - 2.2e-9 * phase**4)
    lit: Real = _worked(_MOON, altitude_deg) * faded
    return lit


def ground_light(
    sun_altitude_deg: Real,
    cloud: Cloud,
    *,
    moon_altitude_deg: Real = -90.0,
    moon_elongation_deg: Real = 0.0,
) -> GroundLight:
    """Light of Sun, Moon and stars on level ground under a kind of sky; heights in degrees.

    Cloud takes its share by the daylight model of the IES, which is good above 5° and held at
    that share below. [JANICZEK1987] [IES1984]
    """
    sun = np.atleast_1d(np.asarray(sun_altitude_deg, dtype=float))
    clear = np.asarray(sunlight_lx(sun))
    kept = _level_klx(np.maximum(sun, FIVE_DEG), cloud)
    share = kept / _level_klx(np.maximum(sun, FIVE_DEG), "clear")
    night = np.asarray(moonlight_lx(moon_altitude_deg, moon_elongation_deg)) + STARLIGHT_LX
    straight = _straight_klx(sun, cloud) / np.maximum(_level_klx(sun, cloud), 1e-12)
    level = clear * share
    # Cloud takes from moonlight what it takes from a Sun as high.
    moon = np.maximum(np.asarray(moon_altitude_deg, dtype=float), FIVE_DEG)
    moon_share = _level_klx(moon, cloud) / _level_klx(moon, "clear")
    return GroundLight(level + night * moon_share, level * straight)


def facing_lx(light: GroundLight, sun_altitude_deg: Real, facing: Facing) -> Real:
    """Light (lx) on what is photographed: level ground, or an upright face.

    With the Sun behind the photographer it shines full on the face; towards it the face sees the
    half of the sky; in open shade the ground sees the sky and no Sun.
    Takes heights from −90 to 90. [IES1984]

    >>> noon = ground_light(50.0, "clear")
    >>> [f"{facing_lx(noon, 50.0, one)[0] / 1000:.0f}" for one in ("away", "towards", "shade")]
    ['69', '7', '14']
    """
    sky = light.level_lx - light.straight_lx
    if facing == "open":
        return light.level_lx
    if facing == "shade":
        return sky
    height = np.radians(np.clip(np.asarray(sun_altitude_deg, dtype=float), 0.5, 90))
    on_face = light.straight_lx / np.tan(height) if facing == "away" else 0.0
    return on_face + sky / 2


def incident_ev100(illuminance_lx: Real) -> Real:
    """EV100 of an illuminance (positive, lx): log2(E·100/C). [ISO2720]

    >>> f"{incident_ev100(2.5):.1f}, {incident_ev100(100_000.0):.1f}"
    '0.0, 15.3'
    """
    found: Real = np.log2(np.maximum(illuminance_lx, 1e-12) * 100 / METER_CONSTANT_C)
    return found


def _worked(rows: tuple[_Row, ...], altitude_deg: Real) -> Real:
    height = np.asarray(altitude_deg, dtype=float)
    x = height / 90
    found = np.zeros_like(height)
    for low, high, (c0, c1, c2, c3) in rows:
        inside = (height >= low) & ((height < high) | ((high == 90) & (height <= 90)))
        log_lx = c0 + c1 * x + c2 * x**2 + c3 * x**3
        found = np.where(inside, np.power(10.0, np.where(inside, log_lx, 0.0)), found)
    value: Real = found[()]
    return value


def _straight_klx(altitude_deg: Real, cloud: Cloud) -> Real:
    """Light of the Sun itself on level ground (klx)."""
    if cloud == "overcast":
        return np.zeros_like(np.asarray(altitude_deg, dtype=float))
    sine = np.sin(np.radians(np.maximum(altitude_deg, 0.1)))
    depth = 0.21 if cloud == "clear" else 0.80
    lit = 127.5 * np.exp(-depth / sine) * sine
    return np.where(np.asarray(altitude_deg) > 0, lit, 0.0)


def _level_klx(altitude_deg: Real, cloud: Cloud) -> Real:
    """Sun and sky on level ground (klx)."""
    sine = np.sin(np.radians(np.maximum(altitude_deg, 0.0)))
    sky: Real = {
        "clear": 0.8 + 15.5 * np.sqrt(sine),
        "partly": 0.3 + 45 * sine,
        "overcast": 0.3 + 21 * sine,
    }[cloud]
    return sky + _straight_klx(altitude_deg, cloud)
