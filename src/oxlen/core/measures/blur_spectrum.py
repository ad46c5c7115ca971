"""Blur of a shot against sharp ones of the same wall, from how fine detail fades. [PERTUZ2013]"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput

RINGS, SECTORS = 32, 12
RADIUS = (np.arange(RINGS) + 0.5) / RINGS * 0.5
"""Cycles a pixel in the middle of each ring."""
ANGLES = (np.arange(SECTORS) + 0.5) / SECTORS * np.pi
NOISE_FROM = 0.44
"""Cycles a pixel above which a phone's picture holds hardly anything but noise."""
LOWEST, HIGHEST = 0.02, 0.42
USED = (RADIUS >= LOWEST) & (RADIUS <= HIGHEST)
CLEAR = 3.0
"""Detail must be so far above the noise to be compared."""
LENGTHS_PX = np.geomspace(0.4, 80.0, 140)
LEAST_SIDE = 64
Floats = NDArray[np.float64]


def detail_power(luminance: NDArray[np.floating]) -> tuple[float, ...]:
    """Power of detail by fineness and direction: means over 32 rings of 12 sectors, flat.

    Rings go from 0 to 0.5 cycles a pixel. Takes a patch (h, w) of linear luminance; its brightness
    does not count. BadInput for one narrower than 64 pixels, or black.
    """
    patch = np.asarray(luminance, dtype=np.float64)
    mean = float(patch.mean())
    if min(patch.shape) < LEAST_SIDE or mean <= 0:
        raise BadInput("The patch must be at least 64 pixels wide and not black.", "spot")
    window = np.hanning(patch.shape[0])[:, None] * np.hanning(patch.shape[1])[None, :]
    power = np.abs(np.fft.rfft2((patch / mean - 1) * window)) ** 2 / float((window**2).sum())
    place = _places(patch.shape[0], patch.shape[1])
    cells = RINGS * SECTORS
    total = np.bincount(place.ravel(), power.ravel(), minlength=cells + 1)[:cells]
    count = np.bincount(place.ravel(), minlength=cells + 1)[:cells]
    return tuple((total / np.maximum(count, 1)).tolist())


@lru_cache(maxsize=4)
def _places(height: int, width: int) -> NDArray[np.intp]:
    """Which cell each wave of a patch's spectrum belongs to; those beyond half a cycle to none."""
    rows, columns = np.fft.fftfreq(height)[:, None], np.fft.rfftfreq(width)[None, :]
    ring = (np.hypot(rows, columns) / 0.5 * RINGS).astype(int)
    sector = (np.mod(np.arctan2(rows, columns), np.pi) / np.pi * SECTORS).astype(int) % SECTORS
    return np.where(ring < RINGS, ring * SECTORS + sector, RINGS * SECTORS)


def smear_px(power: Sequence[float], sharp: Sequence[float]) -> float:
    """Length (px) of an even smear that makes a sharp wall's detail fade as this shot's has.

    A smear of length L at an angle dims waves of f cycles a pixel that run at an angle θ to it by
    sinc²(f·L·cos θ); its noise is as it is. BadInput for a wall too plain.
    """
    own = np.asarray(power).reshape(RINGS, SECTORS)
    other = np.asarray(sharp).reshape(RINGS, SECTORS)
    finest = RADIUS >= NOISE_FROM
    noise = float(np.median(own[finest]))
    detail = np.maximum(other - float(np.median(other[finest])), 1e-12)
    if float(detail[USED].max()) < CLEAR * noise:
        raise BadInput("The wall has too little detail to measure blur.", "files")
    expected = detail[USED] * _fades() + noise
    misfit = np.log(np.maximum(own[USED], 1e-15)) - np.log(expected)
    cost = (misfit**2 * np.sqrt(RADIUS[USED])[:, None]).sum(axis=(2, 3))
    return float(LENGTHS_PX[int(np.argmin(cost.min(axis=1)))])


@lru_cache(maxsize=1)
def _fades() -> Floats:
    """Fading by smears: shape (lengths, angles of the smear, rings used, sectors)."""
    along = np.cos(ANGLES[:, None] - ANGLES[None, :])
    phase = LENGTHS_PX[:, None, None, None] * RADIUS[USED][:, None] * along[None, :, None, :]
    return np.asarray(np.sinc(phase) ** 2)


def sharpest(powers: Sequence[Sequence[float]], count: int = 8) -> tuple[float, ...]:
    """What the wall shows unblurred: cell by cell the most that any of the sharpest shots shows.

    A smear spares the detail across it, so shots smeared a little each its own way make up for one
    another.
    """
    fine = [
        float(np.asarray(power).reshape(RINGS, SECTORS)[RADIUS > 0.15].sum()) for power in powers
    ]
    best = sorted(range(len(powers)), key=lambda place: -fine[place])[:count]
    return tuple(np.max([powers[place] for place in best], axis=0).tolist())
