"""Sizes and distances through a thin lens: how large a thing is drawn, and from where."""

from __future__ import annotations

from oxlen.core.units import require_positive


def drawn_size_mm(focal_mm: float, size_m: float, distance_m: float) -> float:
    """Size (mm on the sensor) of a thing of `size_m` at `distance_m`: f·size/(D − f). [RAY2002]

    OutOfRange inside the focal length.

    >>> f"{drawn_size_mm(5.66, 1.8, 3.0):.3f}"
    '3.402'
    """
    beyond_m = distance_m - focal_mm / 1000
    require_positive("distance beyond the focal length", beyond_m, "m")
    return focal_mm * size_m / beyond_m


def distance_for_size_m(focal_mm: float, size_m: float, drawn_mm: float) -> float:
    """Distance (m) from which a thing of `size_m` is drawn `drawn_mm` large: f·(1 + size/drawn).

    The inverse of `drawn_size_mm`. OutOfRange for nothing drawn. [RAY2002]

    >>> f"{distance_for_size_m(5.66, 1.8, 3.402):.2f}"
    '3.00'
    """
    require_positive("drawn", drawn_mm, "mm")
    return focal_mm / 1000 * (1 + 1000 * size_m / drawn_mm)
