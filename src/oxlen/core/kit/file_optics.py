"""A sensor's size and pixel pitch from what a picture file says of its lens."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.units import require_positive

FULL_FRAME_DIAGONAL_MM = 43.267
"""Diagonal of 36 × 24 mm, which a 35 mm-equivalent focal length refers to. [CIPA-DC008]"""
ROUNDED_MM = 0.5
"""Files give the 35 mm-equivalent focal length in whole millimetres. [CIPA-DC008]"""
FOCAL_ROUNDED_MM = 0.005
"""Files give the focal length in hundredths of a millimetre. [CIPA-DC008]"""


@dataclass(frozen=True)
class Pitch:
    """Pixel pitch in µm, and the most that rounding in the file may hide."""

    pitch_um: float
    plus_minus_um: float


def sensor_diagonal_mm(focal_mm: float, focal35_mm: float) -> float:
    """Diagonal (mm) of the part of a sensor that is used: 43.27·f/f35. [CIPA-DC008]

    Takes positive focal lengths in mm; OutOfRange otherwise.

    >>> f"{sensor_diagonal_mm(5.66, 24.0):.2f}"
    '10.20'
    """
    require_positive("focal_mm", focal_mm, "mm")
    require_positive("focal35_mm", focal35_mm, "mm")
    return FULL_FRAME_DIAGONAL_MM * focal_mm / focal35_mm


def pitch_of_written(focal_mm: float, focal35_mm: float, *, width_px: int, height_px: int) -> Pitch:
    """Pitch (µm) of the pixels written to a file, from its focal lengths (mm) and its pixels.

    The ± is what rounding of both focal lengths can hide. [CIPA-DC008]

    >>> found = pitch_of_written(5.66, 24.0, width_px=4080, height_px=3060)
    >>> f"{found.pitch_um:.3f} ± {found.plus_minus_um:.3f}"
    '2.001 ± 0.043'
    """
    diagonal = sensor_diagonal_mm(focal_mm, focal35_mm)
    require_positive("width", width_px, "px")
    require_positive("height", height_px, "px")
    pitch = 1000 * diagonal / math.hypot(width_px, height_px)
    return Pitch(pitch, pitch * (ROUNDED_MM / focal35_mm + FOCAL_ROUNDED_MM / focal_mm))
