"""The ISO schools: in which order experienced people prefer one pair of steps to another."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

import numpy as np
from numpy.typing import NDArray

from oxlen.core.decide.brief import IsoSchool, School
from oxlen.core.decide.grid import Grid
from oxlen.core.decide.limits import Limit

Keys = tuple[NDArray[np.float64], ...]
"""Arrays over the grid, most important first; smaller is better."""

CEILING_MARGIN_STOPS = 2.0
"""How much shorter than the tightest blur limit the *ceiling* school likes its shutter."""
SHUTTER_FIRST_MARGIN_STOPS = 1.0
"""The same for *shutter first*, when no shutter was asked for by name."""
ROUNDING = 6


def longest_allowed_s(limits: Iterable[Limit]) -> float | None:
    """Tightest upper bound on the shutter that is not just the end of the ladder."""
    bounds = [
        limit.high
        for limit in limits
        if limit.axis == "shutter_s" and limit.owner != "device" and limit.high is not None
    ]
    return min(bounds, default=None)


def floor_keys(grid: Grid, _school: School, _longest_s: float | None) -> Keys:
    """Lowest ISO, then least residual, then the shorter shutter."""
    return _iso(grid), _residual(grid), _shutter(grid)


def ceiling_keys(grid: Grid, _school: School, longest_s: float | None) -> Keys:
    """A shutter two stops inside the blur limit as far as the cap allows, then lowest ISO."""
    if longest_s is None:
        return floor_keys(grid, _school, longest_s)
    wanted = np.log2(longest_s) - CEILING_MARGIN_STOPS
    short_of_margin = np.maximum(0.0, _shutter(grid) - wanted)
    return short_of_margin, _iso(grid), _residual(grid)


def shutter_first_keys(grid: Grid, school: School, longest_s: float | None) -> Keys:
    """The shutter nearest the one wanted, then least residual, then lowest ISO.

    Wanted is the shutter asked for; failing that one stop inside the blur limit; failing that
    there is nothing to put first and the lowest ISO decides.
    """
    wanted = school.shutter_s
    if wanted is None and longest_s is not None:
        wanted = longest_s * 2.0**-SHUTTER_FIRST_MARGIN_STOPS
    if wanted is None:
        return floor_keys(grid, school, longest_s)
    return np.abs(_shutter(grid) - np.log2(wanted)), _residual(grid), _iso(grid)


SCHOOL_KEYS: Mapping[IsoSchool, Callable[[Grid, School, float | None], Keys]] = {
    "floor": floor_keys,
    "ceiling": ceiling_keys,
    "shutter_first": shutter_first_keys,
}


def preferred_pair(
    grid: Grid, allowed: NDArray[np.bool_], school: School, longest_s: float | None
) -> tuple[int, int] | None:
    """Index (ISO, shutter) of the school's best among the allowed pairs; None without any."""
    rows, columns = np.nonzero(allowed)
    if not rows.size:
        return None
    keys = SCHOOL_KEYS[school.iso](grid, school, longest_s)
    ranked = [np.round(key[rows, columns], ROUNDING) for key in keys]
    best = np.lexsort(ranked[::-1])[0]
    return int(rows[best]), int(columns[best])


def nearest_pair(grid: Grid, allowed: NDArray[np.bool_]) -> tuple[int, int] | None:
    """Index (ISO, shutter) of the allowed pair nearest the wanted exposure, lowest ISO first."""
    rows, columns = np.nonzero(allowed)
    if not rows.size:
        return None
    residual = np.round(np.abs(grid.residual_stops[rows, columns]), ROUNDING)
    best = np.lexsort((grid.iso[rows], residual))[0]
    return int(rows[best]), int(columns[best])


def _iso(grid: Grid) -> NDArray[np.float64]:
    return np.broadcast_to(np.log2(grid.iso)[:, None], grid.shape)


def _shutter(grid: Grid) -> NDArray[np.float64]:
    return np.broadcast_to(np.log2(grid.shutter_s)[None, :], grid.shape)


def _residual(grid: Grid) -> NDArray[np.float64]:
    return np.abs(grid.residual_stops)
