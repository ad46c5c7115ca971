"""Codes that tell things apart: printed by Oxlen, read off the frame they are held in."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import cv2
import numpy as np
import zxingcpp
from numpy.typing import NDArray

PREFIX = "oxlen-thing:"
SIDES_PX = (1600, 900)
"""Own choice: sizes a frame is read at. A smaller one hides blur, a larger one small codes."""
SOFT_SIGMA, SHARPER = 2.0, 1.5
FORMATS = zxingcpp.barcode_formats_from_str("QRCode,DataMatrix")


def code_text(thing_uid: str) -> str:
    """What the code of a thing contains."""
    return f"{PREFIX}{thing_uid}"


def thing_of_code(codes: NDArray[np.uint8]) -> str | None:
    """The uid of the thing whose code (QR or Data Matrix) is in a picture (h, w, 3); else None.

    Read smaller and sharpened too: a code in front of the lens is often soft.
    """
    texts = (text for view in _views(codes) for text in _read(view))
    return next(_uids(texts), None)


def _uids(texts: Iterable[str]) -> Iterator[str]:
    for text in texts:
        if text.startswith(PREFIX):
            yield text.removeprefix(PREFIX)


def _views(codes: NDArray[np.uint8]) -> Iterator[NDArray[np.uint8]]:
    grey = np.asarray(cv2.cvtColor(codes, cv2.COLOR_RGB2GRAY), dtype=np.uint8)
    for side in SIDES_PX:
        scale = min(1.0, side / max(grey.shape))
        size = (round(grey.shape[1] * scale), round(grey.shape[0] * scale))
        small = np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
        yield small
        soft = cv2.GaussianBlur(small, (0, 0), SOFT_SIGMA)
        yield np.asarray(cv2.addWeighted(small, 1 + SHARPER, soft, -SHARPER, 0), dtype=np.uint8)


def _read(grey: NDArray[np.uint8]) -> list[str]:
    return [found.text for found in zxingcpp.read_barcodes(grey, formats=FORMATS)]
