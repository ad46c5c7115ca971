"""Frames of the night sky for a stack: how long each and in all, how far the sky drifts."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from oxlen.core.sky.trailing import SIDEREAL_RAD_S
from oxlen.core.units import Real, require_between, require_positive

SKY_OVER_READ = 10.0
"""Sky electrons over read noise squared, from which read noise adds under 5 %. Derived: √(1 + 1/10)
− 1."""
ARCSEC_S = 15.041
"""How fast the sky turns (″/s). [SEIDELMANN1992]"""


@dataclass(frozen=True)
class Drift:
    """What a stack takes and how far the sky goes on meanwhile."""

    time_s: float
    drift_arcsec: float
    drift_px: float
    turn_deg: float


def shortest_sub_frame_s(sky_e_s: Real, read_noise_e: Real) -> Real:
    """Shortest frame (s) in which the sky drowns the read noise: 10·r²/sky. [HOWELL2006]

    Takes a positive flow (e⁻ per pixel and second) and read noise (e⁻).

    >>> f"{shortest_sub_frame_s(1.0, 2.0):.0f}"
    '40'
    """
    noise = np.square(require_positive("read_noise", read_noise_e, "e-"))
    return SKY_OVER_READ * noise / require_positive("sky_e", sky_e_s, "e-/px/s")


def read_noise_excess(sky_e: Real, read_noise_e: Real) -> Real:
    """How much read noise adds to the sky's own noise, as a share: √(1 + r²/sky) − 1.

    Takes positive electrons. Derived: independent noise adds as squares. [EMVA1288]

    >>> f"{read_noise_excess(40.0, 2.0):.4f}"
    '0.0488'
    """
    ratio = np.square(read_noise_e) / require_positive("sky_e", sky_e, "e-")
    excess: Real = np.sqrt(1 + ratio) - 1
    return excess


def stack_drift(
    frames: float,
    shutter_s: float,
    gap_s: float,
    *,
    declination_deg: float,
    focal_mm: float,
    pitch_um: float,
) -> Drift:
    """How long frames with gaps take, and how far stars of a declination go on the sensor.

    Takes at least one frame, positive figures, and a drift of less than a quarter turn; OutOfRange
    otherwise. The last gap is counted. [RAY2002]

    >>> drift = stack_drift(20, 15.0, 1.0, declination_deg=0.0, focal_mm=6.81, pitch_um=1.22)
    >>> f"{drift.time_s:.0f} s, {drift.drift_px:.1f} px"
    '320 s, 130.3 px'
    """
    require_between("frames", frames, low=1, high=1e6)
    require_between("gap", gap_s, low=0, high=1e6, unit="s")
    time_s = frames * (float(require_positive("t", shutter_s, "s")) + gap_s)
    across = ARCSEC_S * math.cos(math.radians(declination_deg)) * time_s
    angle = math.radians(across / 3600)
    require_between("drift", math.degrees(angle), low=-89.9, high=89.9, unit="°")
    focal_um = 1000 * float(require_positive("f", focal_mm, "mm"))
    return Drift(
        time_s,
        across,
        focal_um * math.tan(angle) / float(require_positive("p", pitch_um, "µm")),
        turn_deg=math.degrees(SIDEREAL_RAD_S) * time_s,
    )
