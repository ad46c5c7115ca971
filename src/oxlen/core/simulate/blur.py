"""Blur on the sensor: discs of what is out of focus, streaks of what moves, the hand's path."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.simulate.randomness import RandomSource
from oxlen.core.simulate.scene import Floats

SHAKE_STEPS = 240
SHARPEST_PX = 0.35
"""Blurs narrower than this are left out: the pixels themselves are wider."""
OVERSAMPLE = 8
FEW_TAPS = 15
"""Up to so many, a kernel is faster than a running sum."""


SMALL_DISC_PX = 2.0


def disc_kernel(diameter_px: float) -> Floats:
    """A disc of a diameter, its edge antialiased, adding up to 1; odd and square.

    A disc hardly wider than a pixel spreads light by its variance, a sixteenth of its square.
    """
    if diameter_px < SMALL_DISC_PX:
        spread = diameter_px**2 / 32
        across = np.array([spread, 1 - 2 * spread, spread], dtype=np.float32)
        return np.outer(across, across)
    size = int(np.ceil(diameter_px)) // 2 * 2 + 3
    fine = (np.arange(size * OVERSAMPLE) + 0.5) / OVERSAMPLE - size / 2
    inside = (fine[:, None] ** 2 + fine[None, :] ** 2 <= (diameter_px / 2) ** 2).astype(np.float32)
    kernel = inside.reshape(size, OVERSAMPLE, size, OVERSAMPLE).mean(axis=(1, 3))
    total = float(kernel.sum())
    if total == 0:
        kernel[size // 2, size // 2] = total = 1.0
    return np.asarray(kernel / total, dtype=np.float32)


def path_kernel(path_px: NDArray[np.float64]) -> Floats:
    """Where a point spends the exposure along a path (n, 2) of x, y in pixels about its mean."""
    return kernel_from_rest(path_px - path_px.mean(axis=0))


def kernel_from_rest(centred: NDArray[np.float64]) -> Floats:
    """Where a point that rests at 0, 0 spends the exposure: its path (n, 2) of x, y in pixels."""
    reach = int(np.ceil(np.abs(centred).max())) + 1
    size = 2 * reach + 1
    kernel = np.zeros((size, size), dtype=np.float64)
    whole = np.floor(centred).astype(int)
    part = centred - whole
    for dy in (0, 1):
        for dx in (0, 1):
            weight = np.abs(1 - dx - part[:, 0]) * np.abs(1 - dy - part[:, 1])
            np.add.at(kernel, (whole[:, 1] + reach + dy, whole[:, 0] + reach + dx), weight)
    return np.asarray(kernel / kernel.sum(), dtype=np.float32)


def shake_path_px(
    blur_px: float, random: RandomSource, steps: int = SHAKE_STEPS
) -> NDArray[np.float64]:
    """A hand's path (steps, 2) over an exposure: a random walk whose extent is about `blur_px`.

    Extent is the longer side of the path's own box on average; each walk has its own.
    """
    walk = np.cumsum(random.walk(steps), axis=0)
    # Expected range of a walk of n steps is sqrt(8n/π); two axes, the longer is some 1.2 of it.
    expected = 1.2 * np.sqrt(8 * steps / np.pi)
    return np.asarray(walk / expected * blur_px, dtype=np.float64)


def filtered(image: Floats, kernel: Floats) -> Floats:
    """An image through a kernel; edges repeated, kernels of one pixel left alone."""
    if max(kernel.shape) <= 1:
        return image
    return np.asarray(cv2.filter2D(image, -1, kernel, borderType=cv2.BORDER_REPLICATE))


def streaked(image: Floats, length_px: float, angle_deg: float) -> Floats:
    """An image smeared along a straight way by a length in pixels."""
    if length_px < SHARPEST_PX:
        return image
    along = np.radians(angle_deg)
    if abs(np.sin(along)) < 0.05 or abs(np.cos(along)) < 0.05:
        return _straight(image, length_px, across=bool(abs(np.sin(along)) < 0.5))
    # Splitting each place among four pixels adds a variance of a sixth: taken off beforehand.
    drawn_px = np.sqrt(max(length_px**2 - 2.0, 0.1))
    places = np.linspace(-0.5, 0.5, max(3, int(4 * length_px)))[:, None] * drawn_px
    way = places * np.array([[np.cos(along), np.sin(along)]])
    # A whole width away or ten, the edge is repeated all the same: the kernel need not grow.
    furthest = np.array([image.shape[1], image.shape[0]], dtype=np.float64)
    return filtered(image, path_kernel(np.clip(way, -furthest, furthest)))


def sheared(image: Floats, shift_px: NDArray[np.float64], about_row: float) -> Floats:
    """An image whose every row is shifted (right, down) by so much more than the row above.

    What moves while rows are read one after another leans so; at `about_row` nothing shifts.
    """
    height, width = image.shape[:2]
    if np.abs(shift_px).max() * max(about_row, height - about_row) < SHARPEST_PX:
        return image
    right, down = float(shift_px[0]), float(shift_px[1])
    back = np.array([[1, -right, right * about_row], [0, 1 - down, down * about_row]])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    leaned = cv2.warpAffine(
        image, back, (width, height), flags=flags, borderMode=cv2.BORDER_REPLICATE
    )
    return np.asarray(leaned)


def _straight(image: Floats, length_px: float, *, across: bool) -> Floats:
    """Box blur of a length that need not be whole: two odd ones mixed to its second moment.

    A box of n whole pixels has the variance (n² − 1)/12, a smear of length L has L²/12.
    """
    low = int(np.sqrt(length_px**2 + 1))
    low -= 1 - low % 2
    below, above = low**2 - 1, (low + 2) ** 2 - 1
    share = (length_px**2 - below) / (above - below)
    if low + 2 <= FEW_TAPS:  # both boxes in one pass
        kernel = np.full(low + 2, share / (low + 2), dtype=np.float32)
        kernel[1:-1] += (1 - share) / low
        return filtered(image, kernel[None, :] if across else kernel[:, None])
    sizes = [(n, 1) if across else (1, n) for n in (low, low + 2)]
    a, b = (cv2.blur(image, size, borderType=cv2.BORDER_REPLICATE) for size in sizes)
    return np.asarray(cv2.addWeighted(a, 1 - share, b, share, 0))
