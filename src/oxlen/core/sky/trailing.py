"""Stars trailing: the sky turns while the shutter is open, and three rules for how long is fine."""

from __future__ import annotations

import numpy as np

from oxlen.core.units import Real, require_between, require_positive

SIDEREAL_RAD_S = float(np.radians(15.041 / 3600))
"""How fast the sky turns, rad/s: once in a sidereal day."""
RULE_500_MM_S = 500.0


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


def exact_trail_time_s(
    focal_mm: Real, pixel_pitch_um: Real, trail_px: Real, *, declination_deg: Real
) -> Real:
    """Time (s) in which a star trails by so many pixels: inverse of `star_trail_px`. [RAY2002]

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
    """Time (s) by the rule of 500: 500/f35, whatever the pixels. By definition.

    Takes a positive focal length in mm.

    >>> f"{rule_500_s(24.0):.1f}"
    '20.8'
    """
    time_s: Real = RULE_500_MM_S / np.asarray(require_positive("f35", focal35_mm, "mm"))[()]
    return time_s


def _cosine(declination_deg: Real) -> Real:
    require_between("dec", declination_deg, low=-89.9, high=89.9, unit="°")
    return np.cos(np.radians(declination_deg))
