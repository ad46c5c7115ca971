"""Code values and linear light: the sRGB curve, luminance of a pixel, clipped and blocked."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import (
    BLOCKED_CODE,
    CLIPPED_CODE,
    LUMA_BLUE,
    LUMA_GREEN,
    LUMA_RED,
    MID_LINEAR,
)
from oxlen.core.units import Real, require_between

ToneState = Literal["ok", "clipped", "blocked"]
LUMA = np.array([LUMA_RED, LUMA_GREEN, LUMA_BLUE])


def srgb_to_linear(value: Real) -> Real:
    """Linear light 0..1 of an sRGB value 0..1 (scalar or array). [IEC61966-2-1]

    Shares of white, no unit; light of over 1 is out of the range it holds for.

    >>> f"{srgb_to_linear(118 / 255):.4f}"
    '0.1812'
    """
    v = np.asarray(require_between("srgb_value", value, low=0, high=1), dtype=float)
    return np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4)[()]


def linear_to_srgb(linear: Real) -> Real:
    """sRGB value 0..1 of linear light 0..1 (scalar or array). [IEC61966-2-1]

    Shares of white, no unit; light of over 1 is out of the range it holds for.

    >>> f"{linear_to_srgb(0.18) * 255:.0f}"
    '118'
    """
    x = np.asarray(require_between("linear", linear, low=0, high=1), dtype=float)
    return np.where(x <= 0.0031308, 12.92 * x, 1.055 * x ** (1 / 2.4) - 0.055)[()]


def linear_table(top_code: int) -> NDArray[np.float32]:
    """Linear light of every code 0..top_code (255 or 65535), for table look-ups.

    A share of white for each code, between 0 and 1. [IEC61966-2-1]

    >>> f"{linear_table(255)[118]:.4f}"
    '0.1812'
    """
    return np.asarray(srgb_to_linear(np.arange(top_code + 1) / top_code), dtype=np.float32)


def luminance_share(linear_rgb: NDArray[np.floating]) -> NDArray[np.floating]:
    """Relative luminance Y 0..1 of linear sRGB, shape (..., 3) to (...). [IEC61966-2-1]

    A share of white for colours between 0 and 1.

    >>> f"{luminance_share(np.array([0.18, 0.18, 0.18])):.2f}"
    '0.18'
    """
    return linear_rgb @ LUMA.astype(linear_rgb.dtype)


def stops_from_mid(linear_y: Real) -> Real:
    """Stops a linear luminance share is from mid (0.18); −inf at 0.

    Takes shares of at least 0. By definition.

    >>> f"{stops_from_mid(0.36):.1f}"
    '1.0'
    """
    with np.errstate(divide="ignore"):
        return np.log2(np.asarray(linear_y, dtype=float) / MID_LINEAR)[()]


def code_state(red: float, green: float, blue: float) -> ToneState:
    """Whether an 8-bit colour carries its tone: any channel ≥ 250 is clipped, all ≤ 2 blocked.

    A single channel at the floor beside others above it is a saturated colour, not a blocked one.

    >>> code_state(250, 240, 200), code_state(1, 2, 1)
    ('clipped', 'blocked')
    """
    if max(red, green, blue) >= CLIPPED_CODE:
        return "clipped"
    return "blocked" if max(red, green, blue) <= BLOCKED_CODE else "ok"


def highest_channel(codes: NDArray[Any]) -> NDArray[Any]:
    """The largest of three channels (h, w, 3); much faster than a reduction along a short axis.

    Takes finite codes or shares, as they come. By definition.

    >>> highest_channel(np.array([[[3, 9, 4]]])).tolist()
    [[9]]
    """
    return np.asarray(np.maximum(np.maximum(codes[..., 0], codes[..., 1]), codes[..., 2]))
