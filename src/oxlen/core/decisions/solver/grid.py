"""Pairs of steps a phone offers, against the wanted exposure and the limits."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.decisions.framework.limit import EXPOSURE, ISO, SHUTTER, Limit
from oxlen.core.kit.ladder import Ladder

SLACK_STOPS = 1e-9
"""Bounds are kept to within rounding of the logarithms, no more."""

Flags = NDArray[np.bool_]
Numbers = NDArray[np.float64]


@dataclass(frozen=True)
class Pairs:
    """Pairs of ISO and shutter steps, all arrays of one shape; logarithms are to base 2.

    `ev100` is what each pair exposes for, with the filter on the lens counted; `residual_stops` is
    positive where that is brighter than wanted. `row` and `column` are places on the ladders.
    """

    row: NDArray[np.intp]
    column: NDArray[np.intp]
    log_iso: Numbers
    log_shutter: Numbers
    ev100: Numbers
    residual_stops: Numbers

    @property
    def iso(self) -> Numbers:
        """ISO of each pair."""
        return np.exp2(self.log_iso)

    @property
    def shutter_s(self) -> Numbers:
        """Shutter of each pair in seconds."""
        return np.exp2(self.log_shutter)

    def where(self, kept: Flags) -> Pairs:
        """Only the pairs flagged."""
        return Pairs(
            self.row[kept],
            self.column[kept],
            self.log_iso[kept],
            log_shutter=self.log_shutter[kept],
            ev100=self.ev100[kept],
            residual_stops=self.residual_stops[kept],
        )

    def at(self, index: int) -> Pairs:
        """One pair, as arrays of one."""
        part = slice(index, index + 1)
        return Pairs(
            self.row[part],
            self.column[part],
            self.log_iso[part],
            log_shutter=self.log_shutter[part],
            ev100=self.ev100[part],
            residual_stops=self.residual_stops[part],
        )


def all_pairs(ladder: Ladder, f_number: float, wanted_ev100: float, *, glass_stops: float) -> Pairs:
    """Every pair of a ladder at an f-number, row by row: flat arrays, ISO steps × shutter steps."""
    row, column = ladder.pair_places
    log_iso, log_shutter = ladder.pair_logs
    ev100 = _set_ev100(log_iso, log_shutter, f_number, glass_stops=glass_stops)
    return Pairs(
        row,
        column,
        log_iso,
        log_shutter=log_shutter,
        ev100=ev100,
        residual_stops=wanted_ev100 - ev100,
    )


def pair_off_ladder(
    iso: float, shutter_s: float, *, f_number: float, wanted_ev100: float, glass_stops: float
) -> Pairs:
    """One pair of any steps, auto's among them, as arrays of one; it has no place on a ladder."""
    log_iso, log_shutter = np.log2([iso]), np.log2([shutter_s])
    ev100 = _set_ev100(log_iso, log_shutter, f_number, glass_stops=glass_stops)
    nowhere = np.asarray([-1], dtype=np.intp)
    return Pairs(
        nowhere,
        nowhere,
        log_iso,
        log_shutter=log_shutter,
        ev100=ev100,
        residual_stops=wanted_ev100 - ev100,
    )


def _set_ev100(
    log_iso: Numbers, log_shutter: Numbers, f_number: float, *, glass_stops: float
) -> Numbers:
    """EV100 = log2(N²/t) − log2(S/100); a filter of factor F adds log2 F."""
    constant = 2 * math.log2(f_number) + math.log2(100.0) + glass_stops
    return constant - log_shutter - log_iso


def is_near(pairs: Pairs, half_step_stops: float) -> Flags:
    """Which pairs are within half a step of the wanted exposure."""
    near: Flags = np.abs(pairs.residual_stops) <= half_step_stops + SLACK_STOPS
    return near


def excess_stops(limit: Limit, pairs: Pairs) -> Numbers:
    """How far each pair is beyond a limit, in stops; negative = room left.

    With `only`, the distance to the nearest allowed value, and no room at one.
    """
    value = _on_axis(limit, pairs)
    if limit.only is not None:
        if not limit.only:
            return np.full(value.shape, np.inf)
        allowed = np.log2(np.asarray(limit.only))
        return np.asarray(np.abs(value[:, None] - allowed[None, :]).min(axis=1))
    above = None if limit.high is None else value - _in_stops(limit, limit.high)
    if limit.low is None:
        return np.full(value.shape, -np.inf) if above is None else above
    below = _in_stops(limit, limit.low) - value
    if limit.base_iso is not None:
        below = below + np.maximum(0.0, math.log2(limit.base_iso) - pairs.log_iso)
    return below if above is None else np.maximum(below, above)


def broken_masks(limits: Iterable[Limit], pairs: Pairs) -> dict[str, Flags]:
    """Which pairs each limit forbids, by the limit's id."""
    return {limit.id: excess_stops(limit, pairs) > SLACK_STOPS for limit in limits}


def allowed_pairs(masks: Mapping[str, Flags], without: str = "") -> Flags:
    """Pairs no limit forbids, leaving out the limit named `without`."""
    kept = [broken for limit_id, broken in masks.items() if limit_id != without]
    allowed: Flags = ~np.logical_or.reduce(kept)
    return allowed


def _on_axis(limit: Limit, pairs: Pairs) -> Numbers:
    if limit.axis == SHUTTER:
        return pairs.log_shutter
    return pairs.log_iso if limit.axis == ISO else pairs.ev100


def _in_stops(limit: Limit, bound: float) -> float:
    return bound if limit.axis == EXPOSURE else math.log2(bound)
