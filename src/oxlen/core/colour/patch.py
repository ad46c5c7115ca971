"""A white or grey patch: what its colour in a picture says of the light on it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.adaptation import adapted, xy_of
from oxlen.core.colour.daylight import dial_white_xy
from oxlen.core.colour.temperature import (
    Temperature,
    kelvin,
    mired,
    temperature_of,
)
from oxlen.core.colour.white_point import SRGB_TO_XYZ
from oxlen.core.errors import OutOfRange

PICTURE_WHITE = (0.3127, 0.3290)
"""Chromaticity of r = g = b in sRGB. [IEC61966-2-1]"""


@dataclass(frozen=True)
class PatchLight:
    """The light on a patch: its white x, y, and its temperature."""

    x: float
    y: float
    temperature: Temperature


@dataclass(frozen=True)
class PatchCast:
    """What a patch looks like in a processed picture: its own white, and its cast in mired.

    `light_k` is the light by the plain mired shift of the setting it was taken at.
    """

    x: float
    y: float
    temperature: Temperature
    cast_mired: float
    light_k: float


def patch_cast(linear: NDArray[np.float64], dial_k: float) -> PatchCast:
    """Cast of a patch that should be neutral, from its linear sRGB, shape (3,). [IEC61966-2-1]

    Positive is warm. The light is the dial's with the cast added: right to first order, up to 10
    mired off for strong casts (`patch_light` does better). OutOfRange where the cast is more than
    any light makes.

    >>> found = patch_cast(np.array([0.4564, 0.4020, 0.3050]), 5000.0)
    >>> f"{found.cast_mired:.0f} mired, {found.light_k:.0f} K"
    '37 mired, 4212 K'
    """
    x, y = xy_of(SRGB_TO_XYZ @ linear)
    found = temperature_of(x, y)
    cast = float(mired(found.cct_k) - mired(temperature_of(*PICTURE_WHITE).cct_k))
    warmth = mired(dial_k) + cast
    if warmth <= 0:
        raise OutOfRange("cast", cast, low=-float(mired(dial_k)), unit="mired")
    return PatchCast(x, y, found, cast_mired=cast, light_k=float(kelvin(warmth)))


def patch_light(linear: NDArray[np.float64], dial_k: float) -> PatchLight:
    """The light on a neutral patch from a processed picture taken at `dial_k` (1000 to 25000 K).

    `linear` is the patch as linear sRGB, shape (3,). The camera is taken to have turned the dial's
    white into the picture's by Bradford; the patch goes back the same way. [LAM1985]

    >>> found = patch_light(np.array([0.4564, 0.4020, 0.3050]), 5000.0)
    >>> f"{found.temperature.cct_k:.0f} K"
    '4273 K'
    """
    seen = SRGB_TO_XYZ @ linear
    x, y = xy_of(adapted(seen / seen[1], PICTURE_WHITE, dial_white_xy(dial_k)))
    return PatchLight(x, y, temperature_of(x, y))
