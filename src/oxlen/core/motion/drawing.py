"""Drawing with a lamp: how the dark ground builds up while the lamp draws."""

from __future__ import annotations

import numpy as np

from oxlen.core.light.exposure import ev100
from oxlen.core.units import Real, require_finite

BLACK_STOPS = -6.0
"""A ground this far under mid is black: code 9 of 255."""
SHOWS_STOPS = -5.0
"""From here on, at code 18, it still shows."""


def background_stops(ambient_ev100: Real, f_number: Real, shutter_s: Real, *, iso: Real) -> Real:
    """Where the ground of a drawing lands, in stops from mid: EV100_ambient − EV100_set.

    It grows with time; the trail of the lamp does not. Takes any finite EV100. By definition.

    >>> f"{background_stops(-4.0, 1.8, 10.0, iso=50.0):.2f}"
    '-3.37'
    """
    return require_finite("ev100_ambient", ambient_ev100) - ev100(f_number, shutter_s, iso)


def longest_black_s(shutter_s: Real, level_stops: Real, black_stops: Real) -> Real:
    """Longest shutter (s) that keeps the ground black, at the same ISO: t·2^(black − level).

    Takes a positive time and any levels in stops. By definition.

    >>> longest_black_s(10.0, -4.0, -5.0)
    5.0
    """
    return float(shutter_s) * float(np.exp2(np.asarray(black_stops) - level_stops))
