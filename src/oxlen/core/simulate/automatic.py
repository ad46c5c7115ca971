"""The failings of an automatic mode: what its meter reads of a scene, and what its focus grabs."""

from __future__ import annotations

import cv2
import numpy as np

from oxlen.core.light.exposure import luminance_cd_m2
from oxlen.core.simulate.capture import scene_luminance
from oxlen.core.simulate.scene import Scene

FOCUS_GRID = (9, 12)
CENTRE_PULL = 1.6
"""How much more a patch in the middle counts for focus than one at the edge."""
METER_CLIP = 24.0
"""Metering looks at a frame in which nothing is brighter than so many times its median."""


def metered_ev100(framed: Scene, meter_offset_stops: float) -> float:
    """What a phone's meter reads of the frame: a mean in which lamps do not count without end."""
    light = scene_luminance(framed)
    top = METER_CLIP * float(np.median(light)) + 1e-9
    mean = float(np.minimum(light, top).mean())
    return float(np.log2(mean / float(luminance_cd_m2(0.0)))) + meter_offset_stops


def auto_focus_m(scene: Scene) -> float:
    """Distance the automatic focus grabs: that of the patch with most contrast, middle preferred.

    Grain behind a smooth subject wins, as it does on real phones.
    """
    light = np.log2(scene_luminance(scene).astype(np.float32) + 1e-6)
    contrast = np.abs(cv2.Laplacian(cv2.blur(light, (3, 3)), cv2.CV_32F))
    rows, columns = FOCUS_GRID
    best, distance = -1.0, 10.0
    for row in range(1, rows - 1):
        for column in range(1, columns - 1):
            part = _patch(scene, row, column)
            off = np.hypot((row + 0.5) / rows - 0.5, (column + 0.5) / columns - 0.5)
            score = float(contrast[part].mean()) * (1 + CENTRE_PULL * (0.5 - off))
            if score > best:
                best, distance = score, float(np.median(scene.distance_m[part]))
    return distance


def _patch(scene: Scene, row: int, column: int) -> tuple[slice, slice]:
    rows, columns = FOCUS_GRID
    height, width = scene.height_px // rows, scene.width_px // columns
    return (
        slice(row * height, (row + 1) * height),
        slice(column * width, (column + 1) * width),
    )
