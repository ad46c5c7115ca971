"""Lens choice: equivalence, the pull on a background, stretch towards the edge."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.units import Real, require_between, require_positive


@dataclass(frozen=True)
class Stretch:
    """How a rectilinear lens stretches solid things off its axis."""

    angle_deg: Real
    radial: Real
    tangential: Real

    @property
    def shape(self) -> Real:
        """Radial over tangential: how much rounder things turn into ovals."""
        return self.radial / self.tangential


def equivalent_focal_mm(focal_mm: Real, crop: Real) -> Real:
    """35 mm-equivalent focal length (mm): f·crop. [RAY2002]

    Takes a positive focal length and crop.

    >>> f"{equivalent_focal_mm(6.81, 3.52):.1f}"
    '24.0'
    """
    return require_positive("focal", focal_mm, "mm") * require_positive("crop", crop)


def equivalent_f_number(f_number: Real, crop: Real) -> Real:
    """Aperture with the same depth of field and total light on the 35 mm frame: N·crop. [RAY2002]

    Takes a positive f-number and crop.

    >>> f"{equivalent_f_number(1.8, 3.52):.1f}"
    '6.3'
    """
    return require_positive("f_number", f_number) * require_positive("crop", crop)


def distance_for_same_size_m(distance_m: Real, focal_ratio: Real) -> Real:
    """Distance (m) that keeps the subject's size on a lens `focal_ratio` times as long: D·f2/f1.

    Takes a positive distance and ratio. [RAY2002]

    >>> distance_for_same_size_m(1.5, 2.0)
    3.0
    """
    return require_positive("distance", distance_m, "m") * require_positive("ratio", focal_ratio)


def background_growth(distance_m: Real, depth_m: Real, focal_ratio: Real) -> Real:
    """How much larger a background `depth_m` behind the subject is, subject size kept.

    (D1 + z)/D1 · D2/(D2 + z). [RAY2002] A ratio; takes a positive distance and ratio, and a depth
    of at least 0 m.

    >>> f"{background_growth(1.5, 10.0, 2.0):.3f}"
    '1.769'
    """
    require_between("depth", depth_m, low=0, high=1e9, unit="m")
    moved = distance_for_same_size_m(distance_m, focal_ratio)
    near = (np.asarray(distance_m) + depth_m) / distance_m
    return (near * moved / (moved + np.asarray(depth_m)))[()]


def edge_stretch(focal_mm: Real, off_axis_mm: Real) -> Stretch:
    """Stretch of solid things at `off_axis_mm` from the frame's centre: 1/cos²φ and 1/cos φ.

    φ = atan(r/f), at any distance. [RAY2002]

    >>> f"{edge_stretch(6.81, 6.1).shape:.3f}"
    '1.343'
    """
    require_between("off_axis", off_axis_mm, low=0, high=1e4, unit="mm")
    angle = np.arctan2(off_axis_mm, require_positive("focal", focal_mm, "mm"))
    return Stretch(np.degrees(angle), 1 / np.cos(angle) ** 2, 1 / np.cos(angle))
