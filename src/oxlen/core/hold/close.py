"""Close up: the hand also drifts sideways, and no stabiliser follows that."""

from __future__ import annotations

import math

from oxlen.core.hold.hand import Support

SWAY_MM_S = {"handheld": 5.0, "braced": 1.0, "tripod": 0.0}
"""Usual drift across the subject: our own figures, meant to be measured. Rule of thumb, off by up
to a factor of 2 between people."""


def usual_sway_mm_s(support: Support) -> float:
    """Drift (mm/s) that is assumed until it is measured, at least 0.

    Rule of thumb, for standing adults: off by up to a factor of 2 until takes show better.

    >>> usual_sway_mm_s("braced")
    1.0
    """
    return SWAY_MM_S[support]


def magnification(focal_mm: float, distance_m: float) -> float:
    """Size on the sensor over size in the world, a ratio: f/(D − f). [RAY2002]

    Takes a focal length in mm and a distance in m, at least the focal length.

    >>> f"{magnification(5.66, 0.06):.3f}"
    '0.104'
    """
    return focal_mm / max(1e-6, 1000 * distance_m - focal_mm)


def held_close_s(hand_limit_s: float, image_drift_mm_s: float, circle_mm: float) -> float:
    """Longest shutter (s) under shake and drift: (t/t_max)² + (m·v·t/c)² ≤ 1.

    Takes the positive limit without drift, the drift of the image on the sensor, and what still
    counts as sharp. Derived: two independent blurs add as squares. [JCGM100]

    >>> f"{1 / held_close_s(0.333, 0.521, 0.0068):.0f}"
    '77'
    """
    return 1 / math.hypot(1 / hand_limit_s, image_drift_mm_s / circle_mm)
