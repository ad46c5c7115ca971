"""Exposure values: settings, luminance, illuminance and APEX in one currency, EV100."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.constants import (
    APEX_BRIGHTNESS_TO_EV100,
    APEX_SPEED_BASE,
    METER_CONSTANT_C,
    METER_CONSTANT_K,
)
from oxlen.core.units import Real, require_finite, require_positive

PLACEHOLDER_DISTANCE_STOPS = 3.0
"""A file's brightness value further than this from its settings is not believed. Own choice: no
automatic compensation goes further. [CIPA-DC008]"""


@dataclass(frozen=True)
class ExposureSettings:
    """What a frame was exposed with: ISO, shutter in seconds, f-number."""

    iso: float
    shutter_s: float
    f_number: float

    @property
    def ev100(self) -> float:
        """EV100 the settings expose for."""
        return float(ev100(self.f_number, self.shutter_s, self.iso))


@dataclass(frozen=True)
class Apex:
    """APEX values of an exposure; `brightness` is what the meter would have seen."""

    aperture: Real
    time: Real
    speed: Real
    brightness: Real


def ev100(f_number: Real, shutter_s: Real, iso: Real) -> Real:
    """EV100 that f-number, shutter (s) and ISO expose for; scalars or arrays, all positive.

    log2(N²/t) − log2(S/100). Raises OutOfRange. [ISO2720]

    >>> f"{ev100(1.8, 0.01, 100):.3f}"
    '8.340'
    """
    require_positive("f_number", f_number)
    require_positive("shutter_s", shutter_s, "s")
    require_positive("iso", iso)
    return 2 * np.log2(f_number) - np.log2(shutter_s) - np.log2(np.asarray(iso) / 100)


def shutter_for_ev100(ev100_set: Real, f_number: Real, iso: Real) -> Real:
    """Shutter (s) that exposes for `ev100_set` at f-number and ISO: 100·N²/(S·2^EV). [ISO2720]

    Takes any finite EV100, a positive f-number and a positive ISO.

    >>> f"{shutter_for_ev100(12.3, 1.8, 50):.6f}"
    '0.001285'
    """
    require_finite("ev100_set", ev100_set, "EV100")
    require_positive("f_number", f_number)
    require_positive("iso", iso)
    shutter_s: Real = 100.0 * np.square(f_number) / (np.asarray(iso) * np.exp2(ev100_set))
    return shutter_s


def luminance_cd_m2(ev: Real) -> Real:
    """Luminance (cd/m²) of a surface metered at EV100 `ev`: K/100·2^EV, K = 12.5. [ISO2720]

    Takes any finite EV100; OutOfRange otherwise.

    >>> f"{luminance_cd_m2(15.0):.0f}"
    '4096'
    """
    return METER_CONSTANT_K / 100 * np.exp2(require_finite("ev100", ev, "EV100"))


def illuminance_lux(ev: Real) -> Real:
    """Illuminance (lx) for EV100 `ev` by an incident meter: C/100·2^EV, C = 250. [ISO2720]

    K with C implies a 15.7 % card, so spot and incident readings of an 18 % card differ by 0.20
    stop; readings carry that in their ±. Takes any finite EV100; OutOfRange otherwise.

    >>> f"{illuminance_lux(10.0):.0f}"
    '2560'
    """
    return METER_CONSTANT_C / 100 * np.exp2(require_finite("ev100", ev, "EV100"))


def ev100_from_illuminance(lux: Real) -> Real:
    """EV100 an incident meter gives for `lux` (lx, positive): log2(E/2.5). [ISO2720]

    >>> f"{ev100_from_illuminance(2560.0):.1f}"
    '10.0'
    """
    ev: Real = np.log2(require_positive("lux", lux, "lx")) - np.log2(METER_CONSTANT_C / 100)
    return ev


def apex(f_number: Real, shutter_s: Real, iso: Real) -> Apex:
    """APEX values: Av = 2·log2 N, Tv = −log2 t, Sv = log2(S/3.125), Bv = Av + Tv − Sv. [CIPA-DC008]

    >>> f"{apex(2.0, 0.5, 50).brightness:.1f}"
    '-1.0'
    """
    aperture = 2 * np.log2(require_positive("f_number", f_number))
    time = -np.log2(require_positive("shutter_s", shutter_s, "s"))
    speed = np.log2(np.asarray(require_positive("iso", iso)) / APEX_SPEED_BASE)
    return Apex(aperture, time, speed, brightness=aperture + time - speed)


def compensation_stops(settings_ev100: Real, brightness_value: Real) -> Real:
    """Stops the file was made brighter than its meter asked for: (Bv + 5) − EV100. [CIPA-DC008]

    Takes any finite EV100 and APEX brightness; OutOfRange otherwise.

    >>> f"{compensation_stops(8.0, 4.0):.1f}"
    '1.0'
    """
    return require_finite("brightness_value", brightness_value) + (
        APEX_BRIGHTNESS_TO_EV100 - require_finite("ev100", settings_ev100)
    )


def believable_brightness_ev100(
    brightness_value: float | None, settings_ev100: float | None
) -> float | None:
    """EV100 the phone's meter saw, or None when its brightness value cannot be believed.

    Some phones write 0 for "unknown": a value more than three stops from the settings is
    distrusted, and so is a bare 0 with no settings to compare it with. Takes any number or None
    for either. [CIPA-DC008]

    >>> believable_brightness_ev100(4.0, 8.5), believable_brightness_ev100(0.0, 12.0)
    (9.0, None)
    """
    if brightness_value is None or not np.isfinite(brightness_value):
        return None
    if settings_ev100 is None:
        return None if brightness_value == 0 else brightness_value + APEX_BRIGHTNESS_TO_EV100
    off_by = abs(float(compensation_stops(settings_ev100, brightness_value)))
    return (
        None if off_by > PLACEHOLDER_DISTANCE_STOPS else brightness_value + APEX_BRIGHTNESS_TO_EV100
    )
