"""Bands of pulsing lamps in a take, found by comparison with the picture it was planned by."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.alignment import Alignment
from oxlen.core.review.light_ratio import aligned_small, trusted

Floats = NDArray[np.float32]
SIDE_PX, ROWS = 480, 180
LEAST_DEPTH, LEAST_COUNT, FEWEST_ROWS = 0.025, 1.2, 8
STEP = 0.05
CLEAR = 2.0
"""Flicker bands are clear: deeper than so many times what is left of the rows without them."""


@dataclass(frozen=True)
class LampBands:
    """Bands down the frame, or across it where the phone was held upright; depth as a share."""

    count: float
    depth: float
    across: bool


def lamp_bands(reference: Floats, take: Floats, alignment: Alignment) -> LampBands | None:
    """The bands in a take (h, w), what the reference shows divided out; None where there are none.

    A scene's own stripes are in both and fall away; those of a lamp are not, or are elsewhere.
    """
    first, second = aligned_small(reference, take, alignment, side_px=SIDE_PX)
    counts = trusted(first, float(reference.max())) & trusted(second, float(take.max()))
    with np.errstate(invalid="ignore", divide="ignore"):
        ratio = np.where(counts, second / first, np.nan)
    found = [
        _bands(_profile(turned), across) for turned, across in ((ratio, False), (ratio.T, True))
    ]
    return max((bands for bands in found if bands), key=lambda lamp: lamp.depth, default=None)


def _profile(ratio: NDArray[np.float64]) -> NDArray[np.float64] | None:
    """Median ratio of each band of rows about its mean; None where too little is to be trusted."""
    medians = _medians(np.array_split(ratio, min(ROWS, ratio.shape[0])))
    reported = np.isfinite(medians)
    if reported.mean() < 0.7:
        return None
    places = np.arange(medians.size)
    filled = np.interp(places, places[reported], medians[reported])
    return np.asarray(filled / filled.mean())


def _medians(parts: list[NDArray[np.float64]]) -> NDArray[np.float64]:
    """The median of what is finite in each part; nan where that is a tenth of it at most."""
    longest = max(part.size for part in parts)
    rows = np.full((len(parts), longest), np.nan, dtype=np.float32)
    for row, part in zip(rows, parts, strict=True):
        row[: part.size] = part.ravel()
    rows.sort(axis=1)  # what is no number comes last
    counts = np.isfinite(rows).sum(axis=1)
    low, high = np.maximum(0, (counts - 1) // 2), np.maximum(0, counts // 2)
    which = np.arange(len(parts))
    middle = (rows[which, low].astype(float) + rows[which, high]) / 2
    sizes = np.array([part.size for part in parts])
    return np.where(counts > 0.1 * sizes, middle, np.nan)


def _bands(profile: NDArray[np.float64] | None, across: bool) -> LampBands | None:
    """The wave that explains most of the rows beside their own slow change, where it is clear."""
    if profile is None:
        return None
    waves = _waves(profile.size)
    if not waves.counts.size:
        return None
    # Rows without their slow change and each wave: what is outside the wave's own plane.
    along = np.einsum("cri,r->ci", waves.planes, profile)
    left = profile - np.einsum("cri,ci->cr", waves.planes, along)
    at = int(np.argmin(left.std(axis=1)))
    solved = np.linalg.solve(waves.corners[at], along[at])
    depth, rest = float(np.hypot(solved[3], solved[4])), float(left[at].std())
    if depth < LEAST_DEPTH or depth < CLEAR * rest:
        return None
    return LampBands(float(waves.counts[at]), depth, across)


@dataclass(frozen=True)
class _Waves:
    """Counts of bands that are tried; each with a slow change is a plane (n, rows, 5), by QR."""

    counts: NDArray[np.float64]
    planes: NDArray[np.float64]
    corners: NDArray[np.float64]


@lru_cache(maxsize=4)
def _waves(rows: int) -> _Waves:
    counts = np.arange(LEAST_COUNT, rows / FEWEST_ROWS, STEP)
    place = (np.arange(rows) + 0.5) / rows - 0.5
    turn = 2 * np.pi * counts[:, None] * place
    slow = np.broadcast_to(place, turn.shape)
    parts = [slow**0, slow, slow**2, np.sin(turn), np.cos(turn)]
    planes, corners = np.linalg.qr(np.stack(parts, axis=2))
    return _Waves(counts, planes, corners)
