"""The frame that a drawing with a lamp will give: its line over the background."""

from __future__ import annotations

from collections.abc import Mapping

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import MID_LINEAR
from oxlen.core.motion.drawing import LampColour
from oxlen.core.motion.strokes import Strokes

Floats = NDArray[np.float32]
TINTS: Mapping[LampColour, tuple[float, float, float]] = {
    "white": (1.0, 0.95, 0.85),
    "warm": (1.0, 0.55, 0.15),
    "red": (1.0, 0.08, 0.04),
    "green": (0.1, 1.0, 0.35),
    "blue": (0.15, 0.4, 1.0),
}
"""Linear light of each colour, its strongest channel at 1: that is the one which burns first."""
SUB_PX = 16
SUB_BITS = 4
GLOW_SHARE, GLOW_OF_HEIGHT = 0.004, 0.03
"""What a lens scatters about a bright line, and how far."""


def lamp_line(
    ground: Floats,
    strokes: Strokes,
    *,
    height_share: float,
    level_stops: float,
    wide_px: float,
    colour: LampColour = "white",
    part: Strokes | None = None,
) -> Floats:
    """A background (h, w, 3) in linear light, white = 1, with strokes drawn over its middle.

    `height_share` of the frame’s height are they high, `level_stops` from mid the line’s middle,
    `wide_px` its width; a line narrower than a pixel is dimmer instead. With a `part` only that of
    the strokes is drawn, where it is in the whole.
    """
    high, wide = ground.shape[:2]
    size = height_share * high
    left, top = wide / 2 - strokes.width * size / 2, high / 2 - size / 2
    drawn = np.zeros((high, wide), dtype=np.float32)
    xs = min(float(line[:, 0].min()) for line in strokes.lit)
    thick = max(1, round(wide_px))
    for stroke in (part or strokes).lit:
        points = (stroke - np.array([xs, 0.0])) * size + np.array([left, top])
        path = np.rint(points * SUB_PX).astype(np.int32)[:, None]
        cv2.polylines(drawn, [path], False, 1.0, thick, cv2.LINE_AA, SUB_BITS)
    level = MID_LINEAR * 2.0**level_stops * min(1.0, wide_px)
    soft = cv2.GaussianBlur(drawn, (0, 0), max(0.6, wide_px / 6))
    glow = cv2.GaussianBlur(drawn, (0, 0), GLOW_OF_HEIGHT * high)
    light = level * (soft + GLOW_SHARE * glow)
    tint = np.asarray(TINTS[colour], dtype=np.float32)
    return np.asarray(ground + light[..., None] * tint, dtype=np.float32)
