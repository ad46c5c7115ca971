"""Photosites of one colour from the middle of a raw frame, untouched: for measuring noise."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.pictures.opening import Picture
from oxlen.pictures.raw import RawPicture

GREEN = 1


@dataclass(frozen=True)
class GreenPatch:
    """Green photosites in DN, shape (h, w), and the levels of black and white."""

    photosites: NDArray[np.uint16]
    black_dn: float
    white_dn: float


def green_patch(picture: Picture, side: int) -> GreenPatch:
    """Green photosites from the middle of a raw frame, at most side × side.

    BadInput for a file that is not RAW, or whose colours were made whole already.
    """
    raw = picture.source
    name = picture.facts.name
    if not isinstance(raw, RawPicture):
        raise BadInput(f"{name} is not RAW. Noise can be measured only in RAW files.", "files")
    if raw.mosaic.ndim != 2:
        raise BadInput(f"{name} is already processed, so its noise cannot be measured.", "files")
    period = raw.pattern.shape[0]
    rows, columns = np.argwhere(raw.pattern == GREEN)[0]
    green = raw.mosaic[rows::period, columns::period]
    top, left = (max(0, (length - side) // 2) for length in green.shape)
    black, white = raw.levels
    middle = np.array(green[top : top + side, left : left + side])
    return GreenPatch(middle, float(black[GREEN]), white)
