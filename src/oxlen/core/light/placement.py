"""Placing tones: which EV100 to expose for so that a spot lands where it is wanted."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.constants import SATURATION_CONSTANT
from oxlen.core.units import Real, require_finite, require_positive, stops_between


@dataclass(frozen=True)
class TonePlace:
    """A named tone: stops from mid, and why it belongs there."""

    id: str
    name: str
    stops: float
    reason: str


TONE_PLACES: tuple[TonePlace, ...] = (
    TonePlace("snow", "Snow or fog in light", 2.0, reason="white with texture"),
    TonePlace("paper", "White paper, white hull", 1.7, reason="white, just short of glare"),
    TonePlace("pale-skin", "Pale skin", 1.0, reason="1 stop brighter than mid"),
    TonePlace("mid", "Green grass, weathered stone", 0.0, reason="mid, as metered"),
    TonePlace("dark-skin", "Dark skin", -1.0, reason="1 stop darker than mid"),
    TonePlace("deep-wood", "Deep wood, tarred timber", -2.0, reason="dark, with texture"),
    TonePlace("night-sky", "Night sky between stars", -3.0, reason="night sky"),
    TonePlace("black-cloth", "Black cloth", -4.0, reason="nearly black"),
)
"""Rule of thumb, each for its material: off by up to 0.5 stop, and meant to be changed.
[ISO2720]"""


@dataclass(frozen=True)
class GuardResult:
    """How far the brightest kept detail is from clipping; negative margin = clipped by that."""

    margin_stops: Real
    kept: bool
    raise_ev_by_stops: Real


def placed_ev100(spot_ev100: Real, place_stops: Real) -> Real:
    """EV100 to expose for so that a spot lands `place_stops` from mid: EV_spot − place.

    Takes finite EV100 and stops. By definition.

    >>> f"{placed_ev100(14.3, 2.0):.1f}"
    '12.3'
    """
    return require_finite("spot_ev100", spot_ev100) - require_finite("place_stops", place_stops)


def highlight_guard(brightest_ev100: Real, ev100_set: Real, headroom_stops: Real) -> GuardResult:
    """Whether the brightest detail stays under clipping: EV_hi ≤ EV_set + headroom. [ISO12232]

    >>> f"{highlight_guard(15.0, 12.0, 2.5).raise_ev_by_stops:.1f}"
    '0.5'
    """
    margin = require_finite("ev100_set", ev100_set) + headroom_stops - brightest_ev100
    kept = bool(np.all(np.asarray(margin) >= 0))
    return GuardResult(margin, kept, np.maximum(0.0, -np.asarray(margin))[()] + 0.0)


def headroom_at_iso(headroom_stops: Real, *, iso: Real, base_iso: float) -> Real:
    """Stops from mid to clipping at an ISO; below base ISO it shrinks by log2(S0/S). [ISO12232]

    Takes a positive ISO and base ISO.

    >>> f"{headroom_at_iso(3.0, iso=50, base_iso=100):.1f}"
    '2.0'
    """
    require_positive("iso", iso)
    return headroom_stops - np.maximum(0.0, stops_between(base_iso, iso))


def saturation_headroom_stops(meter_constant: Real, lens_factor: Real) -> Real:
    """Stops from a metered surface to sensor saturation: log2(78/(q·K)). [ISO12232]

    Takes a positive meter constant and lens factor.

    >>> f"{saturation_headroom_stops(12.5, 0.65):.2f}"
    '3.26'
    """
    require_positive("meter_constant", meter_constant)
    require_positive("lens_factor", lens_factor)
    return np.log2(SATURATION_CONSTANT / (lens_factor * np.asarray(meter_constant)))[()]
