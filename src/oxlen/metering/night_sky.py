"""A picture of the night sky read: how bright the sky is, how its stars look."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np

from oxlen.core.kit.file_optics import FULL_FRAME_DIAGONAL_MM
from oxlen.core.light.exposure import ev100
from oxlen.core.light.tone import LUMA
from oxlen.core.review.night_frame import NightFrame, night_frame
from oxlen.pictures.opening import open_picture


def read_night_frame(path: Path, name: str, *, meter_offset_stops: float = 0.0) -> NightFrame:
    """Read a file; its sky has a level only where it says how it was exposed.

    Raises PictureError for what is no picture.
    """
    with open_picture(path, name) as picture:
        width, height = picture.facts.width or 0, picture.facts.height or 0
        exposure = picture.exposure
        light = picture.light(max(width, height, 1))
    luminance = np.asarray(light.colour @ LUMA.astype(np.float32))
    known = (exposure.f_number, exposure.shutter_s, exposure.iso)
    mid = None
    if all(value is not None for value in known):
        f_number, shutter_s, iso = (float(value or math.nan) for value in known)
        mid = float(ev100(f_number, shutter_s, iso)) + meter_offset_stops
    scale = max(1.0, max(width, height) / max(luminance.shape))
    focal_px = None
    if exposure.focal35_mm:
        focal_px = exposure.focal35_mm / FULL_FRAME_DIAGONAL_MM * math.hypot(*luminance.shape)
    return night_frame(luminance, mid_ev100=mid, scale=scale, focal_px=focal_px)
