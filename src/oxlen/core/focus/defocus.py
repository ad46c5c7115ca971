"""Defocus: the disc a point out of focus is drawn as."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import OutOfRange
from oxlen.core.focus.optics import Optics
from oxlen.core.units import Real, require_positive

AIRY_WAVELENGTH_UM = 0.55
"""Green light, where the eye is most sensitive (µm). [RAY2002]"""


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


def blur_disc_mm(optics: Optics, focused_m: float, point_m: float) -> float:
    """Diameter (mm on the sensor) of the disc of a point at `point_m` (m): A·|s2 − s1|/s2·m.

    Takes positive distances, either infinite; a clip-on of the optics is counted. OutOfRange when
    focused inside the focal length. [RAY2002]

    >>> f"{blur_disc_mm(Optics(6.81, 1.8), 0.5, 5.0):.4f}"
    '0.0470'
    """
    require_positive("point", min(point_m, 1e12), "m")
    set_m = optics.set_at_m(focused_m)
    set_mm = 1000 * set_m
    if not set_mm > optics.focal_mm:
        raise OutOfRange("focus distance", focused_m, low=optics.focal_mm / 1000, unit="m")
    # A·f/(s1 − f)·|1 − s1/s2| is A·image distance·|1/s1 − 1/s2|, which infinity leaves whole.
    scale = 1.0 if math.isinf(set_mm) else set_mm / (set_mm - optics.focal_mm)
    off_dioptres = abs(1 / focused_m - 1 / point_m)
    return optics.aperture_mm * optics.focal_mm / 1000 * scale * off_dioptres


def airy_um(f_number: float) -> float:
    """Diameter (µm) of the Airy disc: 2.44·λ·N, at 0.55 µm. [RAY2002]

    Takes a positive f-number.

    >>> f"{airy_um(1.8):.2f}"
    '2.42'
    """
    return float(2.44 * AIRY_WAVELENGTH_UM * require_positive("N", f_number))


def airy_px(f_number: float, pitch_um: float) -> float:
    """Diameter (px) of the Airy disc: 2.44·λ·N. [RAY2002]

    Takes a positive f-number and pitch (µm).

    >>> f"{airy_px(1.8, 8.5):.2f}"
    '0.28'
    """
    return airy_um(f_number) / pitch_um
