"""All pairs of steps a phone offers, against the wanted exposure and the limits."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.decide.limits import Limit
from oxlen.core.kit.ladder import Ladder
from oxlen.core.light.exposure import ev100

SLACK_STOPS = 1e-9
"""Bounds are kept to within rounding of the logarithms, no more."""


@dataclass(frozen=True)
class Grid:
    """Ladder pairs, shape (ISO steps, shutter steps): EV100 of each and its residual in stops.

    A positive residual is brighter than wanted.
    """

    iso: NDArray[np.float64]
    shutter_s: NDArray[np.float64]
    ev100: NDArray[np.float64]
    residual_stops: NDArray[np.float64]
    near: NDArray[np.bool_]

    @property
    def shape(self) -> tuple[int, int]:
        """(ISO steps, shutter steps)."""
        return self.iso.size, self.shutter_s.size


def ladder_grid(ladder: Ladder, f_number: float, wanted_ev100: float) -> Grid:
    """Every pair of a ladder at an f-number; `near` = within half a step of the wanted EV100."""
    iso, shutter = ladder.iso_array, ladder.shutter_array
    exposures = np.asarray(ev100(f_number, shutter[None, :], iso[:, None]))
    residual = wanted_ev100 - exposures
    near = np.abs(residual) <= ladder.half_step_stops + SLACK_STOPS
    return Grid(iso, shutter, exposures, residual, near)


def broken_by(limit: Limit, grid: Grid) -> NDArray[np.bool_]:
    """Which pairs a limit forbids, shape (ISO steps, shutter steps)."""
    value = {
        "shutter_s": np.log2(grid.shutter_s)[None, :],
        "iso": np.log2(grid.iso)[:, None],
        "ev100_set": grid.ev100,
    }[limit.axis]
    low, high = (_in_stops(limit, bound) for bound in (limit.low, limit.high))
    broken = np.zeros(grid.shape, dtype=bool)
    if low is not None:
        shrink: NDArray[np.float64] | float = 0.0
        if limit.base_iso is not None:
            shrink = np.maximum(0.0, np.log2(limit.base_iso / grid.iso))[:, None]
        broken |= value < low + shrink - SLACK_STOPS
    if high is not None:
        broken |= value > high + SLACK_STOPS
    return broken


def broken_masks(limits: Iterable[Limit], grid: Grid) -> dict[str, NDArray[np.bool_]]:
    """Which pairs each limit forbids, by the limit's id."""
    return {limit.id: broken_by(limit, grid) for limit in limits}


def allowed_pairs(
    masks: Mapping[str, NDArray[np.bool_]], grid: Grid, without: str = ""
) -> NDArray[np.bool_]:
    """Pairs no limit forbids, leaving out the limit named `without`."""
    allowed = np.ones(grid.shape, dtype=bool)
    for limit_id, broken in masks.items():
        if limit_id != without:
            allowed &= ~broken
    return allowed


def _in_stops(limit: Limit, bound: float | None) -> float | None:
    if bound is None or limit.axis == "ev100_set":
        return bound
    return float(np.log2(bound))
