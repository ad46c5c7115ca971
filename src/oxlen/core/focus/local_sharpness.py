"""Where a picture is sharp: fine detail against coarse, block by block, whatever the texture."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.focus.sharpness import KERNEL_NOISE
from oxlen.core.light.meter import Spot, disc_box

Floats = NDArray[np.float32]
BLOCK_PX = 32
"""Side of a block of the map, in pixels of the picture."""
LEVELS = 12
"""Bands of brightness in which noise is judged apart."""
QUIET_SHARE = 0.05
"""Share of blocks, the quietest, that show the noise. Own choice."""
ROWS_APART = 4
"""Of so many rows of blocks one is looked at for noise."""
DETAIL_OVER_NOISE = 3.0
"""A block must show so many times its noise, or its sharpness is not judged. Own
choice."""
LEAST_DETAIL = 1e-5
"""Relative energy of coarse detail under which a block is plain, however clean it is. Own
choice."""
SHARPEST_SHARE = 0.9
"""The rest is as sharp as its sharpest tenth: that is what the eye goes to. Own choice."""
SMALLEST_PX = 64
SECOND = np.array([1, -2, 1], dtype=np.float32)
"""Once along each side it answers to noise and hardly to edges. [IMMERKAER1996]"""
FINE_NOISE, COARSE_NOISE = 20.0, 20.0 / 4
"""Energy of plain noise through the Laplacian, and through it after halving: by their kernels.
Exact."""


@dataclass(frozen=True)
class SharpnessMap:
    """Sharpness by block, shape (rows, columns): 0 soft, about 1 for pixel-sharp edges.

    NaN where a block is too plain to tell. `fine` and `coarse` are the energies behind each, for
    adding up. `covers` is how much of the picture's width and height whole blocks take.
    """

    sharpness: Floats
    fine: Floats
    coarse: Floats
    covers: tuple[float, float] = (1.0, 1.0)


@dataclass(frozen=True)
class SpotVerdict:
    """Sharpness under a spot and of the rest's sharpest places; `ratio` is spot over rest.

    Above 1 the spot is the sharper. None where there is too little detail to tell.
    """

    spot: float | None
    rest: float | None
    ratio: float | None


def sharpness_map(luminance: Floats) -> SharpnessMap:
    """Local sharpness of linear luminance, shape (h, w): √(fine/coarse detail), noise taken off.

    Detail at one pixel against detail at two: blur takes the first and leaves the second, whatever
    the texture. BadInput for a picture under 64 px. After the idea of scale ratios in [PERTUZ2013].

    >>> stripes = np.tile([1, 1, 1, 2, 2, 2], (96, 16)).astype(np.float32)
    >>> soft = sharpness_map(cv2.blur(stripes, (3, 3))).sharpness
    >>> bool(np.nanmean(soft) < np.nanmean(sharpness_map(stripes).sharpness))
    True
    """
    if min(luminance.shape) < SMALLEST_PX:
        raise BadInput(f"The picture must be at least {SMALLEST_PX} px a side.", "picture")
    rows, columns = (side // BLOCK_PX for side in luminance.shape)
    whole = luminance[: rows * BLOCK_PX, : columns * BLOCK_PX]
    mean = _mean(whole, rows, columns)
    half = cv2.resize(
        whole, (whole.shape[1] // 2, whole.shape[0] // 2), interpolation=cv2.INTER_AREA
    )
    level = np.maximum(mean, 1e-6 * max(float(mean.max()), 1e-9)) ** 2
    fine = _energy(_laplacian(whole), rows, columns) / level
    coarse = _energy(_laplacian(half), rows, columns) / level
    noise = _noise(whole, fine=fine, mean=mean, level=level)
    fine_left = np.maximum(fine - noise, 0)
    coarse_left = np.maximum(coarse - noise * (COARSE_NOISE / FINE_NOISE), 0)
    seen = (coarse_left > DETAIL_OVER_NOISE * noise * COARSE_NOISE / FINE_NOISE) & (
        coarse_left > LEAST_DETAIL
    )
    ratio = np.sqrt(fine_left / np.maximum(coarse_left, 1e-12))
    sharp = np.where(seen, ratio, np.nan).astype(np.float32)
    covers = (whole.shape[1] / luminance.shape[1], whole.shape[0] / luminance.shape[0])
    return SharpnessMap(
        sharp, np.where(seen, fine_left, 0), np.where(seen, coarse_left, 0), covers=covers
    )


def _laplacian(luminance: Any) -> Floats:
    found = cv2.Laplacian(luminance, cv2.CV_32F, ksize=1, borderType=cv2.BORDER_REPLICATE)
    return np.asarray(found, dtype=np.float32)


def _energy(response: Floats, rows: int, columns: int) -> Floats:
    """Mean square of a response in each block, in one pass over it."""
    height, width = response.shape[0] // rows, response.shape[1] // columns
    blocks = response.reshape(rows, height, columns, width)
    return np.asarray(np.einsum("ijkl,ijkl->ik", blocks, blocks) / (height * width), np.float32)


def _mean(luminance: Floats, rows: int, columns: int) -> Floats:
    small = cv2.resize(luminance, (columns, rows), interpolation=cv2.INTER_AREA)
    return np.asarray(small, dtype=np.float32).reshape(rows, columns)


def _noise(whole: Floats, *, fine: Floats, mean: Floats, level: Floats) -> Floats:
    """Noise energy of each block, from the plainest blocks as bright as it is.

    By what the Laplacian leaves there, or by a kernel that answers to noise alone, whichever is
    less; the kernel goes over every few rows of blocks only.
    """
    rows, columns = mean.shape
    some = np.arange(0, rows, ROWS_APART)
    strips = whole.reshape(rows, BLOCK_PX, -1)[some].reshape(some.size * BLOCK_PX, -1)
    crossed = cv2.sepFilter2D(strips, cv2.CV_32F, SECOND, SECOND, borderType=cv2.BORDER_REPLICATE)
    by_kernel = _energy(np.asarray(crossed, np.float32), some.size, columns) / level[some]
    edges = np.quantile(mean, np.linspace(0, 1, LEVELS + 1)[1:-1])
    band = np.searchsorted(edges, mean)
    floors = np.zeros(LEVELS, dtype=np.float32)
    for place in range(LEVELS):
        plain = _quiet(fine[band == place])
        noisy = _quiet(by_kernel[band[some] == place] * FINE_NOISE / KERNEL_NOISE)
        floors[place] = min(plain, noisy)
    return np.asarray(floors[band], dtype=np.float32)


def _quiet(energies: NDArray[np.floating]) -> float:
    return float(np.quantile(energies, QUIET_SHARE)) if energies.size else 0.0


def spot_verdict(found: SharpnessMap, spot: Spot) -> SpotVerdict:
    """How sharp a spot is against the rest of the frame. Shares of the picture, no unit.

    The rest counts by its sharpest tenth of blocks with detail.
    """
    rows, columns = found.sharpness.shape
    # Places are shares of the picture, of which whole blocks leave a little out.
    over = Spot(
        spot.name,
        min(1.0, spot.x / found.covers[0]),
        min(1.0, spot.y / found.covers[1]),
        r=spot.r,
    )
    left, top, right, bottom = disc_box(over, columns, rows)
    inside = np.zeros((rows, columns), dtype=bool)
    inside[top : max(bottom, top + 1), left : max(right, left + 1)] = True
    fine, coarse = float(found.fine[inside].sum()), float(found.coarse[inside].sum())
    at_spot = float(np.sqrt(fine / coarse)) if coarse > 0 else None
    others = found.sharpness[~inside]
    others = others[np.isfinite(others)]
    rest = float(np.quantile(others, SHARPEST_SHARE)) if others.size else None
    ratio = at_spot / rest if at_spot is not None and rest else None
    return SpotVerdict(at_spot, rest, ratio)


ALIKE = 1.15
"""Sharper by less than this nobody sees. Own choice."""


def verdict_words(found: SpotVerdict, name: str = "the spot") -> str:
    """The verdict as a sentence."""
    if found.spot is None:
        return f"Too little detail under {name} to judge sharpness."
    if found.rest is None or found.ratio is None:
        return f"Only {name} has enough detail. There is nothing to compare it with."
    if found.ratio >= ALIKE:
        return f"{name[:1].upper()}{name[1:]} is {found.ratio:.1f} × sharper than the rest."
    if found.ratio <= 1 / ALIKE:
        return f"Other parts are {1 / found.ratio:.1f} × sharper than {name}. Focus is there."
    return f"{name[:1].upper()}{name[1:]} is as sharp as the sharpest of the rest."
