"""Subject motion: blur on the sensor, sharp and streaked shutters, things that vanish."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.errors import OutOfRange
from oxlen.core.units import Real, require_between, require_positive

VANISHING_SHARE = 0.02
"""A crosser that covers a point for less of the exposure than this leaves no trace of itself. Own
choice: about the least contrast that is seen at a glance."""


@dataclass(frozen=True)
class Mover:
    """Something that moves: speed in m/s, distance in m, angle between its way and the view axis.

    90° crosses the frame, 0° comes straight at the camera.
    """

    speed_m_s: Real
    distance_m: Real
    angle_deg: Real = 90.0

    def __post_init__(self) -> None:
        require_positive("speed", self.speed_m_s, "m/s")
        require_positive("distance", self.distance_m, "m")
        require_between("angle", self.angle_deg, low=0, high=180, unit="degrees")


def blur_rate_um_s(mover: Mover, focal_mm: Real) -> Real:
    """Speed of the mover's image on the sensor in µm/s: f·10³·v·sin θ/(D − f/1000). [RAY2002]

    Holds while the mover's distance hardly changes; raises OutOfRange inside the focal length.

    >>> f"{blur_rate_um_s(Mover(1.4, 5.0), 6.81):.1f}"
    '1909.4'
    """
    require_positive("focal_mm", focal_mm, "mm")
    beyond_lens_m = np.asarray(mover.distance_m) - np.asarray(focal_mm) / 1000
    require_positive("distance beyond the focal length", beyond_lens_m, "m")
    crossing = np.sin(np.radians(mover.angle_deg))
    return (np.asarray(focal_mm) * 1e3 * mover.speed_m_s * crossing / beyond_lens_m)[()]


def motion_blur_um(mover: Mover, focal_mm: Real, shutter_s: Real) -> Real:
    """Length of the mover's blur on the sensor in µm over a shutter time. [RAY2002]

    Takes a positive focal length (mm) and time (s).

    >>> f"{motion_blur_um(Mover(14.0, 20.0, 45.0), 6.81, 0.001):.3f}"
    '3.372'
    """
    return blur_rate_um_s(mover, focal_mm) * require_positive("shutter_s", shutter_s, "s")


def shutter_for_blur_s(mover: Mover, focal_mm: Real, blur_um: Real) -> Real:
    """Shutter (s) over which the mover blurs by `blur_um` on the sensor. [RAY2002]

    For a sharp subject `blur_um` is the circle of confusion and the result an upper bound; for a
    streak it is a share of the frame. OutOfRange for a mover that does not cross the frame: see
    `approach_shift_mm` for one that comes straight at the camera.

    >>> f"{shutter_for_blur_s(Mover(1.4, 5.0), 6.81, 8.1):.5f}"
    '0.00424'
    """
    rate = blur_rate_um_s(mover, focal_mm)
    if np.any(np.asarray(rate) <= 0):
        raise OutOfRange("angle", mover.angle_deg, low=0, high=180, unit="degrees")
    return require_positive("blur_um", blur_um, "µm") / rate


def share_of_height(blur_um: Real, pixel_pitch_um: Real, height_px: Real) -> Real:
    """A blur as a share of the frame's short side.

    Takes a blur in µm of any size, a positive pitch (µm) and height (px). By geometry.

    >>> f"{share_of_height(60.0, 2.0, 3000):.3f}"
    '0.010'
    """
    return blur_um / (
        require_positive("pixel_pitch_um", pixel_pitch_um, "µm")
        * require_positive("height_px", height_px, "px")
    )


def approach_shift_mm(
    off_axis_mm: Real, speed_m_s: Real, shutter_s: Real, *, distance_m: Real
) -> Real:
    """Shift (mm) of a point off the axis of something coming straight on: y·v·t/(D − v·t).

    `speed_m_s` is positive towards the camera. OutOfRange when it would arrive during the
    shutter. By geometry: central projection.

    >>> f"{approach_shift_mm(2.0, 10.0, 0.01, distance_m=20.0):.5f}"
    '0.01005'
    """
    travelled = np.asarray(speed_m_s) * require_positive("shutter_s", shutter_s, "s")
    left_m = require_positive("distance left", np.asarray(distance_m) - travelled, "m")
    return (np.asarray(off_axis_mm) * travelled / left_m)[()]


def covered_share(width_m: Real, speed_m_s: Real, shutter_s: Real) -> Real:
    """Share of the exposure for which a crosser of a width covers a point: min(1, w/(v·t)).

    A share between 0 and 1; takes positive m, m/s and s. Derived: path over speed.

    >>> f"{covered_share(0.5, 1.4, 30.0):.4f}"
    '0.0119'
    """
    require_positive("width_m", width_m, "m")
    path_m = require_positive("speed", speed_m_s, "m/s") * require_positive("t", shutter_s, "s")
    return np.minimum(1.0, np.asarray(width_m) / path_m)[()]


def left_contrast(share: Real, stops_from_background: Real) -> Real:
    """Contrast a crosser leaves on its background: share·|2^k − 1|; under 0.02 it vanishes.

    Takes a share from 0 to 1. A dark boat vanishes where a lamp of the same size does not. Derived:
    the mean of light over the exposure.

    >>> f"{left_contrast(0.0119, -3.0):.4f} {left_contrast(0.0119, 6.0):.2f}"
    '0.0104 0.75'
    """
    contrast: Real = share * np.abs(np.exp2(stops_from_background) - 1)
    return contrast
