"""Sharpness of a picture: how much fine detail a patch shows beyond its noise."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput

Floats = NDArray[np.float32]
SMALLEST_PX = 16
BLOCKS = 8
QUIET_SHARE = 0.1


@dataclass(frozen=True)
class PatchSharpness:
    """Fine detail of a patch, as the variance of the Laplacian of its linear luminance.

    Taken of luminance over its mean, so that brighter is not sharper. `noise` is what the quietest
    parts show: detail and noise together are `energy`; `sigma` is the doubt about `energy`.
    """

    energy: float
    noise: float
    sigma: float


def patch_sharpness(luminance: Floats) -> PatchSharpness:
    """Sharpness of a patch of linear luminance, shape (h, w), at least 16 px a side. [PERTUZ2013]

    BadInput for a smaller patch or one without light.

    >>> stripes = np.tile([1.0, 1.0, 2.0, 2.0], (32, 8)).astype(np.float32)
    >>> patch_sharpness(stripes).energy > patch_sharpness(cv2.blur(stripes, (3, 3))).energy
    True
    """
    height, width = luminance.shape
    if min(height, width) < SMALLEST_PX:
        words = f"The spot must be at least {SMALLEST_PX} px across to judge its sharpness."
        raise BadInput(words, "spot")
    mean = float(luminance.mean())
    if not mean > 0:
        raise BadInput("The spot is black: there is nothing to judge its sharpness by.", "spot")
    response = cv2.Laplacian(luminance / np.float32(mean), cv2.CV_32F, ksize=1)[1:-1, 1:-1]
    blocks = _block_energies(np.asarray(response, dtype=np.float32))
    energy, noise = float(blocks.mean()), float(np.quantile(blocks, QUIET_SHARE))
    # Neighbouring responses hang together: about a ninth of the pixels are independent.
    independent = max(4.0, response.size / 9)
    return PatchSharpness(energy, noise, noise * float(np.sqrt(2 / independent)))


def _block_energies(response: Floats) -> NDArray[np.float64]:
    """Mean square of the response in blocks, flat; noise has the same in each."""
    side = max(4, min(response.shape) // BLOCKS)
    rows, columns = (size // side * side for size in response.shape)
    squares = response[:rows, :columns].astype(np.float64) ** 2
    whole = squares.reshape(rows // side, side, columns // side, side)
    return np.asarray(whole.mean(axis=(1, 3)).ravel())
