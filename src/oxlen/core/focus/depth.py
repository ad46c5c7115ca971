"""Depth of field: from where to where things look sharp, and the distance that makes the most."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.errors import OutOfRange
from oxlen.core.focus.optics import Optics
from oxlen.core.units import require_positive

CIRCLE_DIVISOR = 1500.0
"""Frame diagonals a circle of confusion is a part of. Rule of thumb, from 1000 to 2000: off by up
to half a stop of depth. [RAY2002]"""


@dataclass(frozen=True)
class Depth:
    """What looks sharp: from `near_m` to `far_m`, which may be infinite; both in metres."""

    near_m: float
    far_m: float

    @property
    def extent_m(self) -> float:
        """How deep it is in metres; infinite where it has no far end."""
        return self.far_m - self.near_m

    def holds(self, near_m: float, far_m: float) -> bool:
        """Whether all from `near_m` to `far_m` (metres, either may be infinite) is inside."""
        return self.near_m <= near_m and far_m <= self.far_m


def default_circle_mm(width_mm: float, height_mm: float) -> float:
    """Circle of confusion (mm) of a sensor: its diagonal divided by 1500. [RAY2002]

    Takes positive sides in mm.

    >>> f"{default_circle_mm(9.8, 7.3):.4f}"
    '0.0081'
    """
    require_positive("width", width_mm, "mm")
    return math.hypot(width_mm, require_positive("height", height_mm, "mm")) / CIRCLE_DIVISOR


def hyperfocal_mm(optics: Optics, circle_mm: float) -> float:
    """Distance (mm) to focus at so that all from half of it to infinity looks sharp. [RAY2002]

    f²/(N·c) + f. Takes a positive circle in mm.

    >>> f"{hyperfocal_mm(Optics(6.81, 1.8), 0.0082):.0f}"
    '3149'
    """
    f_mm = optics.focal_mm
    require_positive("c", circle_mm, "mm")
    return f_mm**2 / (optics.f_number * circle_mm) + f_mm


def depth_of_field(optics: Optics, circle_mm: float, focused_m: float) -> Depth:
    """Depth of field of a lens focused at a distance (m, or infinite). [RAY2002]

    near = s(H − f)/(H + s − 2f), far = s(H − f)/(H − s), infinite from the hyperfocal distance on.
    A clip-on of the optics is counted: in dioptres the depth is 1/s ± 1/H, plus its power.
    OutOfRange inside the focal length.

    >>> found = depth_of_field(Optics(6.81, 1.8), 0.0082, 1.0)
    >>> f"{found.near_m:.3f} {found.far_m:.3f}"
    '0.760 1.462'
    """
    f_mm, hyper_mm = optics.focal_mm, hyperfocal_mm(optics, circle_mm)
    set_m = optics.set_at_m(focused_m)
    s_mm = 1000 * set_m
    if not s_mm > f_mm:
        raise OutOfRange("focus distance", focused_m, low=f_mm / 1000, unit="m")
    if math.isinf(s_mm):
        near_mm, far_mm = hyper_mm - f_mm, math.inf
    else:
        near_mm = s_mm * (hyper_mm - f_mm) / (hyper_mm + s_mm - 2 * f_mm)
        far_mm = s_mm * (hyper_mm - f_mm) / (hyper_mm - s_mm) if s_mm < hyper_mm else math.inf
    if not optics.clip_on_dioptres:
        return Depth(near_mm / 1000, far_mm / 1000)
    return _through_clip_on(optics, circle_mm, set_m)


def _through_clip_on(optics: Optics, circle_mm: float, set_m: float) -> Depth:
    """1/near = 1/s + 1/H + P and 1/far = 1/s − 1/H + P, where the lens itself is set to s."""
    half = 1000 / hyperfocal_mm(optics, circle_mm)
    middle = 1 / set_m + optics.clip_on_dioptres
    return Depth(1 / (middle + half), 1 / (middle - half) if middle > half else math.inf)


def focus_between_m(near_m: float, far_m: float) -> float:
    """Distance (m) that splits the dioptres between two evenly: both are as sharp. [RAY2002]

    Takes positive distances, the far one may be infinite.

    >>> f"{focus_between_m(1.0, 3.0):.2f}"
    '1.50'
    """
    require_positive("near", near_m, "m")
    return 2 / (1 / near_m + 1 / far_m)
