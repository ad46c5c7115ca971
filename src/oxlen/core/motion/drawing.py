"""Drawing with a lamp: how the dark background builds up while the lamp draws."""

from __future__ import annotations

from typing import Literal

import numpy as np

from oxlen.core.constants import METER_CONSTANT_K
from oxlen.core.light.exposure import ev100
from oxlen.core.units import Real, require_between, require_finite, require_positive

LampColour = Literal["white", "warm", "red", "green", "blue"]
BLACK_STOPS = -6.0
"""A background this far under mid is black: code 9 of 255. [IEC61966-2-1]"""
SHOWS_STOPS = -5.0
"""From here on, at code 18, it still shows. [IEC61966-2-1]"""


def background_stops(ambient_ev100: Real, f_number: Real, shutter_s: Real, *, iso: Real) -> Real:
    """Where the background of a drawing lands, in stops from mid: EV100_ambient − EV100_set.

    It grows with time; the trail of the lamp does not. Takes any finite EV100. By definition.

    >>> f"{background_stops(-4.0, 1.8, 10.0, iso=50.0):.2f}"
    '-3.37'
    """
    return require_finite("ev100_ambient", ambient_ev100) - ev100(f_number, shutter_s, iso)


def longest_black_s(shutter_s: Real, level_stops: Real, black_stops: Real) -> Real:
    """Longest shutter (s) that keeps the background black, at the same ISO: t·2^(black − level).

    Takes a positive time and finite levels in stops. Derived: light grows with time.

    >>> longest_black_s(10.0, -4.0, -5.0)
    5.0
    """
    return float(shutter_s) * float(np.exp2(np.asarray(black_stops) - level_stops))


def dwell_s(image_mm: Real, speed_mm_s: Real) -> Real:
    """Time (s) a lamp's image of a diameter (mm on the sensor) is over one place: d/u.

    Takes positive figures; on the sensor, at the drawing's distance. Derived: width over
    speed.

    >>> dwell_s(0.02, 2.0)
    0.01
    """
    require_positive("d", image_mm, "mm")
    return image_mm / require_positive("u", speed_mm_s, "mm/s")


def trail_stops(luminance_cd_m2: Real, iso: Real, f_number: Real, *, dwell_s: Real) -> Real:
    """How bright a lamp's trail is drawn, in stops from mid: log2(Ls·S·dwell/(12.5·N²)).

    A longer shutter does not brighten it: only how long the lamp is over a place counts. A filter
    on the lens takes its stops from it. Takes positive figures. [ISO2720]

    >>> f"{trail_stops(10000.0, 50.0, 1.8, dwell_s=0.01):.2f}"
    '6.95'
    """
    light = require_positive("Ls", luminance_cd_m2, "cd/m²") * require_positive("iso", iso)
    through = METER_CONSTANT_K * np.square(require_positive("N", f_number))
    return np.log2(light * require_positive("dwell", dwell_s, "s") / through)[()]


def spread_luminance_cd_m2(luminance_cd_m2: Real, image_mm: Real, blur_mm: Real) -> Real:
    """Luminance (cd/m²) of a lamp smaller than its blur, spread over it: Ls·(d/de)².

    Unchanged where the image is larger than the blur; takes positive figures. Derived: the
    same light over a larger disc.

    >>> f"{spread_luminance_cd_m2(8000.0, 0.01, 0.02):.0f}"
    '2000'
    """
    ratio = np.minimum(1.0, np.asarray(image_mm) / require_positive("de", blur_mm, "mm"))
    return luminance_cd_m2 * ratio**2


def drawing_time_s(
    path_m: Real, speed_m_s: Real, start_s: Real = 0.0, *, stop_s: Real = 0.0
) -> Real:
    """Time (s) a drawing takes: path/speed, and margins before and after.

    Derived: path over speed. Takes a positive path (m) and speed (m/s) and margins of zero or more.

    >>> drawing_time_s(3.0, 0.5, 1.0, stop_s=1.0)
    8.0
    """
    require_between("start", start_s, low=0, high=1e6, unit="s")
    require_between("stop", stop_s, low=0, high=1e6, unit="s")
    draws_s = require_positive("path", path_m, "m") / require_positive("speed", speed_m_s, "m/s")
    return draws_s + start_s + stop_s
