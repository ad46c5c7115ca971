"""What is usual for a phone with pixels of a size, where no file and no one tells it yet."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.units import require_positive

WELL_E_PER_UM2 = 5000.0
"""Electrons a pixel holds per µm² of its area, between about 3500 and 7000. [FONTAINE2015]"""
WELL_SPREAD = 0.35
"""Its spread, as a share (1σ). Derived from the range above."""
FLOOR_NOISE_E, FIRST_NOISE_E = 1.6, 2.4
"""Read noise of the pixel, and what the converter adds at base ISO. [FONTAINE2015]"""
NOISE_SPREAD = 0.4
"""Spread of either, as a share (1σ). [FONTAINE2015]"""
USUAL_PRNU, PRNU_SPREAD = 0.006, 0.004
"""Rule of thumb, from 0.3 to 1 %: off by up to a factor of 2. [EMVA1288]"""
PROCESSED_HEADROOM, RAW_HEADROOM = 2.5, 3.1
"""Stops from mid to clipping. Rule of thumb, from 2 to 3.5: off by up to 0.5. [ISO12232]"""
HEADROOM_SPREAD_STOPS = 0.4
"""Derived from the range of the headroom (1σ)."""
READOUT_S, READOUT_SPREAD = 0.018, 0.5
"""Rolling readout. Rule of thumb, from 8 to 35 ms: off by up to a factor of 2. [FONTAINE2015]"""
STABILISED_STOPS, BARE_STOPS, STABILISER_SPREAD_STOPS = 2.0, 1.0, 1.0
"""Rule of thumb, from 0 to 4 stops: off by up to 2 until takes say better."""
BARE_BELOW_MM = 20.0
"""Wide lenses of phones are seldom stabilised. Rule of thumb, off by up to 4 mm."""


@dataclass(frozen=True)
class Assumed:
    """A figure assumed, and how far it may be off, in its own unit."""

    value: float
    plus_minus: float


def usual_full_well_e(pixel_pitch_um: float) -> Assumed:
    """Electrons a written pixel holds, from its pitch in µm. [FONTAINE2015]

    Takes a positive pitch; OutOfRange otherwise.

    >>> usual_full_well_e(2.0)
    Assumed(value=20000.0, plus_minus=7000.0)
    """
    require_positive("pixel_pitch", pixel_pitch_um, "µm")
    well = WELL_E_PER_UM2 * pixel_pitch_um**2
    return Assumed(well, WELL_SPREAD * well)


def usual_read_noise_e(iso: float, base_iso: float) -> Assumed:
    """Read noise in electrons: the pixel's own, and the converter's, which shrinks as ISO rises.

    sqrt(pixel² + (converter·S0/S)²). Takes positive ISOs; OutOfRange otherwise. [FONTAINE2015]

    >>> [round(usual_read_noise_e(iso, 100.0).value, 2) for iso in (100.0, 1600.0)]
    [2.88, 1.61]
    """
    require_positive("iso", iso)
    require_positive("base_iso", base_iso)
    noise = math.hypot(FLOOR_NOISE_E, FIRST_NOISE_E * min(1.0, base_iso / iso))
    return Assumed(noise, NOISE_SPREAD * noise)


def usual_stabiliser_stops(focal35_mm: float) -> Assumed:
    """Stops a phone's stabiliser adds to the handheld rule, by its 35 mm-equivalent focal length.

    In stops. Wide lenses have less of it. [RAY2002]

    >>> usual_stabiliser_stops(24.0).value, usual_stabiliser_stops(13.0).value
    (2.0, 1.0)
    """
    require_positive("focal35_mm", focal35_mm, "mm")
    stops = BARE_STOPS if focal35_mm < BARE_BELOW_MM else STABILISED_STOPS
    return Assumed(stops, STABILISER_SPREAD_STOPS)
