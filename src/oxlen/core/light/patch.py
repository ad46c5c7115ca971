"""A patch of a picture: the same box of it as one colour and as pixels."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray


@dataclass(frozen=True)
class Patch:
    """Mean linear colour, shape (3,), of camera or sRGB; luminance, shape (h, w); share clipped."""

    colour: NDArray[np.float64]
    luminance: NDArray[np.float32]
    clipped_share: float
