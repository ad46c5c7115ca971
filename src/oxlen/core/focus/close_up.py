"""Close-ups: where a clip-on puts the focus, how large things are drawn, what fills the frame."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.focus.optics import Optics
from oxlen.core.units import require_between, require_positive


@dataclass(frozen=True)
class CloseUp:
    """In focus at `distance_m`; the image is `image_mm` behind the lens.

    `magnification` is size on the sensor over size in the world, `field_mm` how wide a thing fills
    the frame.
    """

    distance_m: float
    image_mm: float
    magnification: float
    field_mm: float


def close_up(optics: Optics, set_m: float, sensor_width_mm: float) -> CloseUp:
    """What is in focus through a clip-on with the lens itself set to `set_m` (m, or infinite).

    1/s' = 1/s + P; the image stays where the bare lens has it, v = f·s/(s − f); m = v/s'. A thin
    clip-on at the lens. OutOfRange inside the focal length. [RAY2002]

    >>> found = close_up(Optics(6.81, 1.8, 10.0), math.inf, 9.8)
    >>> f"{found.distance_m:.2f} m, {found.field_mm:.0f} mm across"
    '0.10 m, 144 mm across'
    """
    f_m = optics.focal_mm / 1000
    require_positive("sensor width", sensor_width_mm, "mm")
    if not math.isinf(set_m):
        require_positive("s beyond the focal length", set_m - f_m, "m")
    dioptres = 0.0 if math.isinf(set_m) else 1 / set_m
    require_between("P", optics.clip_on_dioptres, low=0, high=200, unit="dioptres")
    total = dioptres + optics.clip_on_dioptres
    distance_m = 1 / total if total else math.inf
    image_mm = 1000 * (f_m if math.isinf(set_m) else f_m * set_m / (set_m - f_m))
    magnification = image_mm / (1000 * distance_m)
    field_mm = sensor_width_mm / magnification if magnification else math.inf
    return CloseUp(distance_m, image_mm, magnification, field_mm=field_mm)


def dioptres_of_magnification(times: float) -> float:
    """Power (dioptres) of a clip-on sold by its magnification: P = 4·M. [RAY2002]

    A loupe of ×M shows things M times as large as from 250 mm. Takes a positive factor.

    >>> dioptres_of_magnification(2.5)
    10.0
    """
    require_positive("magnification", times, "×")
    return 4.0 * times
