"""Defocus: the disc a point out of focus is drawn as."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oxlen.core.units import Real

AIRY_WAVELENGTH_UM = 0.55


def defocus_px(
    distance_m: Real | NDArray[np.float32],
    *,
    focused_m: float,
    focal_mm: float,
    f_number: float,
    pitch_um: float,
) -> Real:
    """Diameter (px) of the blur disc of points at a distance: A·|s2 − s1|/s2·m. [RAY2002]

    Takes positive distances; focus nearer than the lens can is taken at least that far away.

    >>> f"{defocus_px(4.0, focused_m=2.0, focal_mm=5.66, f_number=1.8, pitch_um=8.5):.2f}"
    '0.52'
    """
    s1 = max(focused_m, 1.05 * focal_mm / 1000)
    magnification = focal_mm / (1000 * s1 - focal_mm)
    aperture_um = 1000 * focal_mm / f_number
    widest = aperture_um * magnification / pitch_um
    return np.abs(widest - widest * s1 / np.asarray(distance_m))[()]


def airy_px(f_number: float, pitch_um: float) -> float:
    """Diameter (px) of the Airy disc: 2.44·λ·N. [RAY2002]

    Takes a positive f-number and pitch (µm).

    >>> f"{airy_px(1.8, 8.5):.2f}"
    '0.28'
    """
    return 2.44 * AIRY_WAVELENGTH_UM * f_number / pitch_um
