"""A predicted frame as a file: JPEG, PNG, or 16-bit TIFF."""

from __future__ import annotations

import io
from typing import Literal

import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.constants import MID_LINEAR
from oxlen.core.light.tone import linear_to_srgb
from oxlen.core.simulate.capture import Capture
from oxlen.core.simulate.develop import Balance, demosaiced
from oxlen.preview.cache import Quality

FileKind = Literal["jpeg", "png", "tiff"]
JPEG_QUALITY: dict[Quality, int] = {"coarse": 80, "full": 92}


def encoded(
    codes: NDArray[np.uint8], frame: Capture, balance: Balance, *, kind: FileKind, quality: Quality
) -> tuple[bytes, str]:
    """The frame as a file, and its media type; TIFF is developed anew, neutrally and deep."""
    buffer = io.BytesIO()
    if kind == "tiff":
        tifffile.imwrite(
            buffer, _deep(frame, balance), photometric="rgb", metadata=None, software=False
        )
        return buffer.getvalue(), "image/tiff"
    image = Image.fromarray(codes)
    if kind == "png":
        image.save(buffer, "PNG")
        return buffer.getvalue(), "image/png"
    image.save(buffer, "JPEG", quality=JPEG_QUALITY[quality])
    return buffer.getvalue(), "image/jpeg"


def _deep(frame: Capture, balance: Balance) -> NDArray[np.uint16]:
    """The frame neutrally developed, in 16 bits."""
    linear = demosaiced(frame.raw, balance, MID_LINEAR)
    coded = 65535 * np.asarray(linear_to_srgb(np.clip(linear, 0, 1)))
    return np.asarray(np.rint(coded), dtype=np.uint16)
