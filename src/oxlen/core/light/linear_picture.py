"""A picture's pixels as light, whatever file they came from."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import CLIPPED_CODE, MID_LINEAR
from oxlen.core.light.tone import highest_channel, linear_table


@dataclass(frozen=True)
class LinearPicture:
    """Linear colours in multiples of the picture's own mid, and what is lost.

    `colour` is linear sRGB (h, w, 3), `lost` (h, w) marks pixels that had clipped. Raw light is
    not balanced yet; a processed picture's is.
    """

    colour: NDArray[np.float32]
    lost: NDArray[np.bool_]
    is_balanced: bool = True


def light_of_codes(codes: NDArray[np.uint8]) -> LinearPicture:
    """The light of sRGB codes (h, w, 3), the curve undone. [IEC61966-2-1]"""
    linear = np.take(linear_table(255), codes)
    lost = highest_channel(codes) >= CLIPPED_CODE
    return LinearPicture(np.asarray(linear / np.float32(MID_LINEAR)), lost)
