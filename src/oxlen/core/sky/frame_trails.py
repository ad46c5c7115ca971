"""Trails in the corners of a lens's frame, where it draws them longest."""

from __future__ import annotations

import numpy as np

from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.sky.trailing import Star, projected_trail_px


def corner_stars(lens: Lens, mode: Mode, axis_dec_deg: float) -> tuple[Star, ...]:
    """Stars in the four corners of a frame whose long side is along the equator (°)."""
    half_wide, half_high = (side / 2 / lens.focal_mm for side in mode.sensor_mm)
    return tuple(
        _star_at(x, y, axis_dec_deg)
        for x in (-half_wide, half_wide)
        for y in (-half_high, half_high)
    )


def corner_trail_px(lens: Lens, mode: Mode, shutter_s: float, *, axis_dec_deg: float) -> float:
    """Longest trail (px) of any of the corners in a shutter (positive, s). [RAY2002]

    The axis is at a declination between −89° and 89°. Example: `tests.core.sky.test_night`.

    >>> corner_trail_px.__name__
    'corner_trail_px'
    """
    focal, pitch = lens.focal_mm, mode.pixel_pitch_um
    found = [
        float(projected_trail_px(focal, pitch, shutter_s, axis_dec_deg=axis_dec_deg, star=star))
        for star in corner_stars(lens, mode, axis_dec_deg)
    ]
    return float(np.nanmax(found))


def _star_at(x: float, y: float, axis_dec_deg: float) -> Star:
    """The star at standard coordinates about an axis at hour angle 0."""
    dec0 = np.radians(axis_dec_deg)
    ahead = np.cos(dec0) - y * np.sin(dec0)
    up = np.sin(dec0) + y * np.cos(dec0)
    hour = np.arctan2(x, ahead)
    return Star(float(np.degrees(hour)), float(np.degrees(np.arctan2(up, np.hypot(x, ahead)))))
