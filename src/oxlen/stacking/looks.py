"""Small and whole looks at a frame's light, for judging and laying it."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.frames.misfit import SmallLook
from oxlen.core.light.tone import LUMA
from oxlen.pictures.whole import TOP_8, WholeFrame, level_table

SIDE_PX, ROWS_OF_STEP = 320, 3
LUMA_F = LUMA.astype(np.float32)


def small_look(frame: WholeFrame) -> SmallLook:
    """A frame's luminance with its longer side about 320 pixels, white = 1."""
    height, width = frame.values.shape[:2]
    # Whole steps of pixels: anything between takes many times as long.
    step = max(1, max(height, width) // SIDE_PX)
    size = (max(1, width // step), max(1, height // step))
    lines = max(1, step // ROWS_OF_STEP)  # not every line: a look needs no more
    whole = frame.values[: size[1] * step : lines, : size[0] * step]
    small = cv2.resize(whole, size, interpolation=cv2.INTER_AREA)
    return SmallLook(_light(frame, small), float(step))


def quick_look(path: Path) -> SmallLook | None:
    """The same of a JPEG from a decode at an eighth of its size; None where it is damaged."""
    try:
        with Image.open(path) as image:
            image.draft("RGB", (image.width // 8, image.height // 8))
            codes = np.asarray(image.convert("RGB"))
    except (OSError, ValueError, SyntaxError):  # it is named when its turn comes
        return None
    return small_look(WholeFrame(codes, level_table(255), TOP_8))


def luminance(frame: WholeFrame) -> NDArray[np.float32]:
    """A frame's luminance at its own size, white = 1."""
    if frame.values.ndim == 3 and frame.table is not None and frame.values.dtype == np.uint8:
        grey = np.asarray(cv2.cvtColor(frame.values, cv2.COLOR_RGB2GRAY))
        table = (frame.table / frame.top).astype(np.float32)
        return np.asarray(cv2.LUT(grey, table), dtype=np.float32)
    return _light(frame, frame.values)


def _light(frame: WholeFrame, values: NDArray[Any]) -> NDArray[np.float32]:
    levels = np.asarray(values) if frame.table is None else np.take(frame.table, values)
    black = 0.0 if frame.black is None else float(frame.black.mean())
    linear = (levels.astype(np.float32) - np.float32(black)) / np.float32(frame.top - black)
    return np.asarray(linear @ LUMA_F if linear.ndim == 3 else linear, dtype=np.float32)
