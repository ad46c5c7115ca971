"""A look at what a drawing with a lamp will give, as a small JPEG."""

from __future__ import annotations

import io
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from oxlen.core.constants import MID_LINEAR
from oxlen.core.drawing.plan import DrawingPlan
from oxlen.core.light.tone import linear_to_srgb
from oxlen.core.simulate.lamp_line import lamp_line
from oxlen.pictures.opening import open_picture

WIDE_PX, HIGH_PX = 960, 720
QUALITY = 90
UNREAD_STOPS = -8.0


def drawing_jpeg(
    planned: DrawingPlan,
    *,
    picture: tuple[Path, str] | None,
    file_px: int,
) -> bytes:
    """The planned drawing over its background: the sheet’s picture at its level, else plain.

    `file_px` is the width of the phone’s own frame.
    """
    level = UNREAD_STOPS if planned.level_stops is None else planned.level_stops
    ground = _ground(picture) * np.float32(MID_LINEAR * 2.0**level)
    frame = ground
    for lamp_pass in planned.passes:
        drawn_on = lamp_line(
            ground,
            planned.strokes,
            height_share=planned.drawing.height_m / planned.room.high_m,
            level_stops=planned.trail_stops or 0.0,
            wide_px=planned.line_px * WIDE_PX / file_px,
            colour=lamp_pass.colour,
            part=lamp_pass.strokes,
        )
        frame = np.maximum(frame, drawn_on)
    codes = np.asarray(np.rint(255 * linear_to_srgb(np.clip(frame, 0, 1))), dtype=np.uint8)
    drawn = io.BytesIO()
    Image.fromarray(codes).save(drawn, "JPEG", quality=QUALITY)
    return drawn.getvalue()


def _ground(picture: tuple[Path, str] | None) -> np.ndarray[tuple[int, ...], np.dtype[np.float32]]:
    """The background, its brightest at 1 (h, w, 3)."""
    if picture is None:
        return np.ones((HIGH_PX, WIDE_PX, 3), dtype=np.float32)
    with open_picture(*picture) as opened:
        light = opened.light(WIDE_PX).colour
    seen = cv2.resize(light, (WIDE_PX, HIGH_PX), interpolation=cv2.INTER_AREA)
    return np.asarray(seen / max(float(np.quantile(seen, 0.98)), 1e-6), dtype=np.float32)
