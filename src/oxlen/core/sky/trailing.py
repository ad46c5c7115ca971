"""Stars trailing: the sky turns while the shutter is open, and three rules for how long is fine."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from oxlen.core.units import Real, require_between, require_positive

SIDEREAL_RAD_S = float(np.radians(15.041 / 3600))
"""How fast the sky turns, rad/s: once in a sidereal day. [SEIDELMANN1992]"""
RULE_500_MM_S = 500.0
"""Rule of thumb, off by up to a factor of 4: see `rule_500_s`."""
ARC_STEP_S = 60.0
"""Own choice: a quarter of a degree, straight to within 10⁻⁶."""


@dataclass(frozen=True)
class Star:
    """Where a star is from the camera's meridian (° westward) and from the equator (°)."""

    hour_angle_deg: float
    declination_deg: float


def star_trail_px(
    focal_mm: Real, pixel_pitch_um: Real, shutter_s: Real, *, declination_deg: Real
) -> Real:
    """Length (px) of a star's trail near the optical axis: f·10³·tan(ω·t·cos δ)/p. [RAY2002]

    Takes a positive true focal length (mm), pitch (µm) and time (s) in which the sky turns by
    less than a quarter.

    >>> f"{star_trail_px(6.81, 1.22, 15.0, declination_deg=0.0):.2f}"
    '6.11'
    """
    turned = SIDEREAL_RAD_S * require_positive("t", shutter_s, "s")
    require_between("t", shutter_s, low=0, high=20_000, unit="s")
    across = np.tan(turned * np.cos(np.radians(declination_deg)))
    focal_um = 1000 * np.asarray(require_positive("f", focal_mm, "mm"))
    trail: Real = (focal_um * across / require_positive("p", pixel_pitch_um, "µm"))[()]
    return trail


def projected_trail_px(
    focal_mm: Real, pixel_pitch_um: Real, shutter_s: Real, *, axis_dec_deg: Real, star: Star
) -> Real:
    """Length (px) of a star's trail anywhere in the frame, a straight line between its ends.

    f·10³·|s1/(s1·a) − s0/(s0·a)|/p, with the camera's axis `a` at a declination and hour angle 0.
    Takes a positive focal length (mm), pitch (µm) and time (s); nan for a star that is not before
    the lens. Trails longer than a few degrees are arcs: `arc_trail_px`. [RAY2002]

    >>> in_the_corner = Star(hour_angle_deg=35.0, declination_deg=0.0)
    >>> f"{projected_trail_px(6.81, 1.22, 15.0, axis_dec_deg=0.0, star=in_the_corner):.2f}"
    '9.11'
    """
    require_positive("t", shutter_s, "s")
    ends = [
        _on_sensor(axis_dec_deg, star.hour_angle_deg + turned, star.declination_deg)
        for turned in (0.0, np.degrees(SIDEREAL_RAD_S * np.asarray(shutter_s, dtype=float)))
    ]
    (x0, y0), (x1, y1) = ends
    focal_um = 1000 * np.asarray(require_positive("f", focal_mm, "mm"))
    across = np.hypot(x1 - x0, y1 - y0)
    trail: Real = (focal_um * across / require_positive("p", pixel_pitch_um, "µm"))[()]
    return trail


def arc_trail_px(
    focal_mm: float, pixel_pitch_um: float, shutter_s: float, *, axis_dec_deg: float, star: Star
) -> float:
    """Length (px) of a long trail: short steps of the projected form, summed. [RAY2002]

    Takes positive figures as `projected_trail_px`, for one star.

    >>> hour = arc_trail_px(6.81, 1.22, 3600, axis_dec_deg=90.0, star=Star(0.0, 60.0))
    >>> f"{hour:.0f}"  # an hour about the pole
    '846'
    """
    steps = max(1, math.ceil(shutter_s / ARC_STEP_S))
    turned = np.linspace(0, np.degrees(SIDEREAL_RAD_S * shutter_s), steps + 1)
    x, y = _on_sensor(axis_dec_deg, star.hour_angle_deg + turned, star.declination_deg)
    return float(1000 * focal_mm / pixel_pitch_um * np.hypot(np.diff(x), np.diff(y)).sum())


def _on_sensor(axis_dec_deg: Real, hour_angle_deg: Real, dec_deg: Real) -> tuple[Real, Real]:
    """Standard coordinates of a star about an axis at hour angle 0; nan behind the lens."""
    dec0, dec, hour = (np.radians(degrees) for degrees in (axis_dec_deg, dec_deg, hour_angle_deg))
    ahead = np.sin(dec0) * np.sin(dec) + np.cos(dec0) * np.cos(dec) * np.cos(hour)
    ahead = np.where(ahead > 1e-9, ahead, np.nan)
    x = np.cos(dec) * np.sin(hour) / ahead
    y = (np.cos(dec0) * np.sin(dec) - np.sin(dec0) * np.cos(dec) * np.cos(hour)) / ahead
    return x, y


def exact_trail_time_s(
    focal_mm: Real, pixel_pitch_um: Real, trail_px: Real, *, declination_deg: Real
) -> Real:
    """Time (s) in which a star trails by so many pixels: inverse of `star_trail_px`.

    Takes positive figures. [RAY2002]

    >>> f"{exact_trail_time_s(6.81, 1.22, 1.0, declination_deg=0.0):.2f}"
    '2.46'
    """
    trail_um = require_positive("px", trail_px, "px") * np.asarray(pixel_pitch_um)
    angle = np.arctan(trail_um / (1000 * np.asarray(require_positive("f", focal_mm, "mm"))))
    time_s: Real = (angle / (SIDEREAL_RAD_S * _cosine(declination_deg)))[()]
    return time_s


def npf_time_s(
    f_number: Real, focal_mm: Real, pixel_pitch_um: Real, *, declination_deg: Real
) -> Real:
    """Time (s) by the NPF rule: (16.856·N + 0.0997·f + 13.713·p)/(f·cos δ). [MICHAUD]

    Takes positive numbers. Grows without end towards the pole: use the smallest declination in the
    frame.

    >>> f"{npf_time_s(1.8, 6.81, 1.22, declination_deg=0.0):.2f}"
    '7.01'
    """
    focal = np.asarray(require_positive("f", focal_mm, "mm"))
    allowed: Real = 16.856 * np.asarray(require_positive("N", f_number)) + 0.0997 * focal
    allowed = allowed + 13.713 * np.asarray(require_positive("p", pixel_pitch_um, "µm"))
    time_s: Real = (allowed / (focal * _cosine(declination_deg)))[()]
    return time_s


def rule_500_s(focal35_mm: Real) -> Real:
    """Time (s) by the rule of 500: 500/f35, whatever the pixels.

    Takes a positive focal length in mm. Rule of thumb, from 14 to 85 mm: off by up to a factor
    of 4. Its trail grows with the pixels (4 px on a frame 4,000 px wide, 8 px on 8,000) and
    shrinks with the declination (half of it at 60°).

    >>> f"{rule_500_s(24.0):.1f}"
    '20.8'
    """
    time_s: Real = RULE_500_MM_S / np.asarray(require_positive("f35", focal35_mm, "mm"))[()]
    return time_s


def _cosine(declination_deg: Real) -> Real:
    require_between("dec", declination_deg, low=-89.9, high=89.9, unit="°")
    return np.cos(np.radians(declination_deg))
