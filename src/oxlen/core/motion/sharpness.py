"""What counts as sharp: by circle of confusion, by pixel, or by the size it will be seen at."""

from __future__ import annotations

from typing import Literal

import numpy as np

from oxlen.core.units import Real, require_positive

SharpBy = Literal["circle", "pixel", "output"]
SHARP_BY: tuple[SharpBy, ...] = ("circle", "pixel", "output")

CIRCLE_DIVISOR = 1500.0
"""Rule of thumb, from 1000 to 2000: off by up to half a stop of depth. [RAY2002]"""
PIXELS = 2.0
"""Own choice: a blur of two pixels is the least that detail of two pixels shows."""
OUTPUT_PIXELS = 2.0
"""Blur of so many pixels of the output is not seen at the size the output is looked at. Own
choice."""


def circle_of_confusion_um(
    width_px: Real, height_px: Real, pitch_um: Real, *, divisor: Real = CIRCLE_DIVISOR
) -> Real:
    """Circle of confusion (µm on the sensor): the frame's diagonal divided by 1500. [RAY2002]

    Takes positive sides (px), pitch (µm) and divisor.

    >>> f"{circle_of_confusion_um(4080, 3060, 2.0):.1f}"
    '6.8'
    """
    require_positive("divisor", divisor)
    return np.hypot(width_px, height_px) * require_positive("pitch_um", pitch_um, "µm") / divisor


def output_blur_um(
    short_side_px: Real, pitch_um: Real, output_short_side_px: Real, *, pixels: Real = OUTPUT_PIXELS
) -> Real:
    """Blur (µm on the sensor) that covers so many pixels of an output of a height in pixels.

    Takes positive figures. By geometry: the frame made as high as the output.

    >>> f"{output_blur_um(3060, 2.0, 1440):.1f}"
    '8.5'
    """
    require_positive("output height", output_short_side_px, "px")
    return pixels * np.asarray(short_side_px) * pitch_um / output_short_side_px
