"""Bursts: how far past the hand limit several tries still keep one sharp frame."""

from __future__ import annotations

import numpy as np

from oxlen.core.units import Real, require_between

HALVING_STOPS = 2.0
"""Past the limit by this much, half of all tries are sharp: our own figure until takes say better.

With nine in ten sharp at the limit this fixes the logistic of `keeper.fit_keepers`.
"""
SHARP_AT_LIMIT = 0.9
_ODDS_AT_LIMIT = SHARP_AT_LIMIT / (1 - SHARP_AT_LIMIT)


def share_sharp(stops_past_limit: Real) -> Real:
    """Share of tries that are sharp so many stops past the hand limit (negative = inside it).

    Logistic in stops, nine in ten at the limit. [COX1958]

    >>> f"{share_sharp(0.0):.2f} {share_sharp(2.0):.2f}"
    '0.90 0.50'
    """
    odds = _ODDS_AT_LIMIT ** (1 - np.asarray(stops_past_limit, dtype=float) / HALVING_STOPS)
    return (odds / (1 + odds))[()]


def burst_stops(frames: int, chance: float = SHARP_AT_LIMIT) -> float:
    """Stops past the hand limit at which a burst keeps one sharp frame with a chance.

    Inverse of 1 − (1 − q)^n with q from `share_sharp`. OutOfRange for no frames, or certainty.
    [COX1958]

    >>> f"{burst_stops(1):.2f} {burst_stops(4):.2f}"
    '0.00 2.23'
    """
    require_between("burst", frames, low=1, high=200, unit="frames")
    require_between("chance", chance, low=0.01, high=0.999)
    each = 1 - (1 - chance) ** (1 / frames)
    return float(HALVING_STOPS * (1 - np.log(each / (1 - each)) / np.log(_ODDS_AT_LIMIT)))
