"""Pixels of a processed TIFF as grey or RGB code values, whichever way they are stored."""

from __future__ import annotations

from typing import Any

import numpy as np
import tifffile
from numpy.typing import NDArray

from oxlen.core.errors import PixelsUnreadable

SEPARATED, PALETTE = tifffile.PHOTOMETRIC.SEPARATED, tifffile.PHOTOMETRIC.PALETTE


def as_codes(array: NDArray[Any], page: Any, shape: tuple[int, int], *, name: str) -> NDArray[Any]:
    """8 or 16-bit code values, grey or RGB, from what the decoder gave."""
    if array.ndim == 3 and array.shape[0] in (3, 4) and array.shape[1:] == shape:
        array = np.moveaxis(array, 0, -1)  # planes stored one after another
    if array.dtype == bool:
        array = array.view(np.uint8)
        np.multiply(array, 255, out=array)
    if array.dtype not in (np.uint8, np.uint16) or array.shape[:2] != shape:
        raise PixelsUnreadable(name, f"its pixels are {array.dtype}; Oxlen reads 8 and 16 bits.")
    photometric = int(page.photometric)
    if array.ndim == 3 and photometric == SEPARATED and array.shape[-1] >= 4:
        return _cmyk_to_rgb(array)
    if array.ndim == 3:
        array = array[..., :3] if array.shape[-1] >= 3 else array[..., 0]
    if photometric == 0:  # white is zero
        np.subtract(np.iinfo(array.dtype).max, array, out=array)
    return _palette(array, page) if photometric == PALETTE else array


def made_bytes(page: Any, sample_bytes: int) -> int:
    """Bytes a pixel takes once more, when what is stored has to be made into grey or RGB."""
    photometric = int(page.photometric)
    if photometric == SEPARATED:
        return 3 * sample_bytes
    return 6 if photometric == PALETTE else 0


def _cmyk_to_rgb(array: NDArray[Any]) -> NDArray[Any]:
    """Ink as light (h, w, 3), row by row so that the fractions take little room."""
    top = float(np.iinfo(array.dtype).max)
    made = np.empty((*array.shape[:2], 3), array.dtype)
    for row, inks in zip(made, array, strict=True):
        share = inks[:, :4].astype(np.float32) / top
        row[:] = (1 - share[:, :3]) * (1 - share[:, 3:]) * top + 0.5
    return made


def _palette(array: NDArray[Any], page: Any) -> NDArray[Any]:
    colours = np.asarray(page.colormap)
    return np.asarray(np.moveaxis(colours, 0, -1)[array])
