"""Colour of raw files: what turns camera colours into luminance and into the colour of light."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL.ExifTags import Base

from oxlen.core.colour.camera_neutral import ColourMatrix
from oxlen.pictures.exposure_tags import number, numbers

COLOUR_MATRICES = (
    (Base.ColorMatrix1, Base.CalibrationIlluminant1),
    (Base.ColorMatrix2, Base.CalibrationIlluminant2),
)
D65_K = 6504.0
ILLUMINANTS_K: Mapping[int, float] = {
    1: 5500,
    2: 4150,
    3: 2856,
    4: 5500,
    9: 5500,
    10: 6500,
    11: 7500,
    12: 6430,
    13: 5000,
    14: 4150,
    15: 3450,
    17: 2856,
    18: 4874,
    19: 6774,
    20: 5503,
    21: D65_K,
    22: 7504,
    23: 5003,
    24: 3200,
}
"""Colour temperature of the light sources that Exif numbers. [CIPA-DC008]"""


@dataclass(frozen=True)
class RawColour:
    """What turns camera colours into luminance: weights of R, G, B, and where mid sits."""

    weights: NDArray[np.float64]
    baseline_exposure_stops: float


def matrices_of(tags: Mapping[int, Any]) -> tuple[ColourMatrix, ...]:
    """The colour matrices a file carries, the warm one first; empty where it has none."""
    found = []
    for tag, illuminant in COLOUR_MATRICES:
        matrix = numbers(tags.get(tag))
        if matrix.size == 9:
            source = int(number(tags.get(illuminant)) or 21)
            cct_k = ILLUMINANTS_K.get(source, D65_K)
            found.append(ColourMatrix(matrix.reshape(3, 3), cct_k))
    return tuple(sorted(found, key=lambda light: light.cct_k))
