"""A look at several exposures in one frame before, or after, they are shot."""

from __future__ import annotations

import io
from collections.abc import Sequence
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.constants import MID_LINEAR
from oxlen.core.errors import BadInput
from oxlen.core.frames.combine import Combine, combined
from oxlen.core.light.tone import linear_to_srgb
from oxlen.pictures.opening import open_picture

SIDE_PX, QUALITY = 960, 90
Floats = NDArray[np.float32]


def shared_jpeg(files: Sequence[tuple[Path, str, float]], rule: Combine) -> bytes:
    """Pictures stacked small by a rule, as a JPEG; each a path, a name and stops to add.

    BadInput without a picture.
    """
    if not files:
        raise BadInput("No picture yet.", "frames")
    frames = [_read(path, name) * np.float32(2.0**stops) for path, name, stops in files]
    size = (frames[0].shape[1], frames[0].shape[0])
    same = np.stack([cv2.resize(frame, size, interpolation=cv2.INTER_AREA) for frame in frames])
    codes = np.rint(255 * linear_to_srgb(np.clip(combined(same, rule), 0, 1)))
    drawn = io.BytesIO()
    Image.fromarray(np.asarray(codes, dtype=np.uint8)).save(drawn, "JPEG", quality=QUALITY)
    return drawn.getvalue()


def _read(path: Path, name: str) -> Floats:
    """A picture's linear light, white = 1 (h, w, 3)."""
    with open_picture(path, name) as picture:
        return np.asarray(picture.light(SIDE_PX).colour * np.float32(MID_LINEAR), np.float32)
