"""What focus depends on in a lens: focal length, aperture, and a clip-on in front of it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.errors import OutOfRange
from oxlen.core.units import require_positive


@dataclass(frozen=True)
class Optics:
    """True focal length (mm), f-number, and the power of a clip-on (dioptres, 0 without one)."""

    focal_mm: float
    f_number: float
    clip_on_dioptres: float = 0.0

    @property
    def aperture_mm(self) -> float:
        """Diameter (mm) of the opening."""
        return self.focal_mm / self.f_number

    def set_at_m(self, focused_m: float) -> float:
        """Distance (m) the lens itself is set to when things at `focused_m` are sharp.

        With a clip-on of P dioptres 1/s = 1/focused − P; OutOfRange farther than that reaches.
        """
        require_positive("focus distance", min(focused_m, 1e12), "m")
        if not self.clip_on_dioptres:
            return focused_m
        dioptres = 1 / focused_m - self.clip_on_dioptres
        if dioptres < -1e-9:
            farthest = 1 / self.clip_on_dioptres
            raise OutOfRange("focus distance with the clip-on", focused_m, high=farthest, unit="m")
        return 1 / dioptres if dioptres > 1e-9 else math.inf

    def magnification(self, focused_m: float) -> float:
        """Size on the sensor over size in the world of a thing in focus: m = v/s'. [RAY2002]"""
        set_mm = 1000 * self.set_at_m(focused_m)
        f_mm = self.focal_mm
        if math.isinf(set_mm):
            return 0.0 if math.isinf(focused_m) else f_mm / (1000 * focused_m)
        if not set_mm > f_mm:
            raise OutOfRange("focus distance", focused_m, low=f_mm / 1000, unit="m")
        image_mm = f_mm * set_mm / (set_mm - f_mm)
        return image_mm / (1000 * focused_m)
