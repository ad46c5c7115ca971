"""Bands of pulsing lamps in a take, told against the picture it was planned by."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.alignment import Alignment
from oxlen.core.review.light_ratio import laid_small, trusted

Floats = NDArray[np.float32]
SIDE_PX, ROWS = 480, 180
LEAST_DEPTH, LEAST_COUNT, FEWEST_ROWS = 0.025, 1.2, 8
COARSE = 6
"""Counts are tried so many steps apart first: a wave fits its neighbours too."""
CLEAR = 2.0
"""Bands stand out: deeper than so many times what is left of the rows without them."""


@dataclass(frozen=True)
class LampBands:
    """Bands down the frame, or across it where the phone was held upright; depth as a share."""

    count: float
    depth: float
    across: bool


def lamp_bands(reference: Floats, take: Floats, alignment: Alignment) -> LampBands | None:
    """The bands in a take (h, w), what the reference shows divided out; None where there are none.

    A scene's own stripes are in both and fall away; those of a lamp are not, or lie elsewhere.
    """
    first, second = laid_small(reference, take, alignment, side_px=SIDE_PX)
    counts = trusted(first, float(reference.max())) & trusted(second, float(take.max()))
    with np.errstate(invalid="ignore", divide="ignore"):
        ratio = np.where(counts, second / first, np.nan)
    found = [_bands(_profile(one), across) for one, across in ((ratio, False), (ratio.T, True))]
    return max((one for one in found if one), key=lambda one: one.depth, default=None)


def _profile(ratio: NDArray[np.float64]) -> NDArray[np.float64] | None:
    """Median ratio of each band of rows about its mean; None where too little is to be trusted."""
    parts = np.array_split(ratio, min(ROWS, ratio.shape[0]))
    medians = np.array([_median(one) for one in parts])
    told = np.isfinite(medians)
    if told.mean() < 0.7:
        return None
    places = np.arange(medians.size)
    filled = np.interp(places, places[told], medians[told])
    return np.asarray(filled / filled.mean())


def _median(rows: NDArray[np.float64]) -> float:
    """The median of what is finite; nan where that is a tenth of it at most."""
    told = rows[np.isfinite(rows)]
    return float(np.median(told)) if told.size > 0.1 * rows.size else math.nan


def _bands(profile: NDArray[np.float64] | None, across: bool) -> LampBands | None:
    """The wave that explains most of the rows beside their own slow change, where it stands out."""
    if profile is None:
        return None
    counts = np.arange(LEAST_COUNT, profile.size / FEWEST_ROWS, 0.05)
    coarse = [_fit(profile, float(count))[0] for count in counts[::COARSE]]
    middle = COARSE * int(np.argmin(coarse))
    near = range(max(0, middle - COARSE), min(counts.size, middle + COARSE + 1))
    fits = {place: _fit(profile, float(counts[place])) for place in near}
    at = min(fits, key=lambda place: fits[place][0])
    left, depth = fits[at]
    if depth < LEAST_DEPTH or depth < CLEAR * left:
        return None
    return LampBands(float(counts[at]), depth, across)


def _fit(rows: NDArray[np.float64], count: float) -> tuple[float, float]:
    """What is left of rows without their slow change and a wave of so many bands; its depth."""
    place = (np.arange(rows.size) + 0.5) / rows.size - 0.5
    turn = 2 * np.pi * count * place
    design = np.stack([place**0, place, place**2, np.sin(turn), np.cos(turn)], axis=1)
    solved, *_ = np.linalg.lstsq(design, rows, rcond=None)
    return float(np.std(rows - design @ solved)), float(np.hypot(solved[3], solved[4]))
