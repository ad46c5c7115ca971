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
"""Share of a patch, the quietest, that shows the noise. Own choice."""
SCALES_PX = (1, 2, 4)
NOISE_KERNEL = np.array([[1, -2, 1], [-2, 4, -2], [1, -2, 1]], dtype=np.float32)
"""Answers to noise and hardly to edges. [IMMERKAER1996]"""
LAPLACIAN_NOISE, KERNEL_NOISE = 20.0, 36.0
"""Energy of plain noise through either: the sums of their squared weights. Exact. [PERTUZ2013]"""


@dataclass(frozen=True)
class PatchSharpness:
    """Detail of a patch at one scale: the variance of the Laplacian of its linear luminance.

    Taken of luminance over its mean, so that brighter is not sharper. `noise` is what the quietest
    parts show: detail and noise together are `energy`; `sigma` is the doubt about `energy`.
    """

    energy: float
    noise: float
    sigma: float


def patch_sharpness(luminance: Floats) -> tuple[PatchSharpness, ...]:
    """Sharpness of a patch of linear luminance, shape (h, w), at 1, 2 and 4 px. [PERTUZ2013]

    Finer scales show focus more exactly, coarser ones are clear in more noise. BadInput for a patch
    under 16 px a side or one without light.

    >>> stripes = np.tile([1.0, 1.0, 2.0, 2.0], (32, 8)).astype(np.float32)
    >>> soft = patch_sharpness(cv2.blur(stripes, (3, 3)))
    >>> patch_sharpness(stripes)[0].energy > soft[0].energy
    True
    """
    height, width = luminance.shape
    if min(height, width) < SMALLEST_PX:
        words = f"The spot must be at least {SMALLEST_PX} px across to judge its sharpness."
        raise BadInput(words, "spot")
    mean = float(luminance.mean())
    if not mean > 0:
        raise BadInput("The spot is black. Choose a brighter one.", "spot")
    relative = np.asarray(luminance / np.float32(mean), dtype=np.float32)
    scales = [
        scale_px for scale_px in SCALES_PX if min(height, width) // scale_px >= SMALLEST_PX // 2
    ]
    return tuple(_at_scale(relative, scale) for scale in scales)


def _at_scale(relative: Floats, scale_px: int) -> PatchSharpness:
    height, width = relative.shape
    size = (width // scale_px, height // scale_px)
    small = relative if scale_px == 1 else cv2.resize(relative, size, interpolation=cv2.INTER_AREA)
    response = cv2.Laplacian(small, cv2.CV_32F, ksize=1)[1:-1, 1:-1]
    blocks = _block_energies(np.asarray(response, dtype=np.float32))
    crossed = np.asarray(cv2.filter2D(small, cv2.CV_32F, NOISE_KERNEL)[1:-1, 1:-1], np.float32)
    by_kernel = float(np.quantile(_block_energies(crossed), 0.5)) * LAPLACIAN_NOISE / KERNEL_NOISE
    energy = float(blocks.mean())
    noise = min(float(np.quantile(blocks, QUIET_SHARE)), by_kernel)
    # Neighbouring responses are correlated: about a fourth of the pixels are independent.
    independent = max(4.0, response.size / 4)
    return PatchSharpness(energy, noise, noise * float(np.sqrt(2 / independent)))


def _block_energies(response: Floats) -> NDArray[np.float64]:
    """Mean square of the response in blocks, flat; noise has the same in each."""
    side = max(4, min(response.shape) // BLOCKS)
    side = min(side, *response.shape)
    rows, columns = (size // side * side for size in response.shape)
    squares = response[:rows, :columns].astype(np.float64) ** 2
    whole = squares.reshape(rows // side, side, columns // side, side)
    return np.asarray(whole.mean(axis=(1, 3)).ravel())
