"""Bursts: how far past the hand limit several tries still keep one sharp frame."""

from __future__ import annotations

import numpy as np

from oxlen.core.units import Real, require_between

FALL_STOPS = 0.5
"""How slowly the chance falls past the limit: our own figure until takes say better. With nine in
ten sharp at the limit this fixes the logistic of `keeper.fit_keepers`. Rule of thumb, from 0.3 to 1
stop: off by up to a factor of 2 until takes say better."""
SHARP_AT_LIMIT = 0.9
"""Exact: the limit is defined as the time at which nine in ten are sharp."""
_LOG_ODDS_AT_LIMIT = float(np.log(SHARP_AT_LIMIT / (1 - SHARP_AT_LIMIT)))
MOST_PAST_STOPS = 2.0
"""Tries of a burst are not quite independent: nothing is advised further past the limit. Own
choice."""


def share_sharp(stops_past_limit: Real) -> Real:
    """Share of tries that are sharp so many stops past the hand limit (negative = inside it).

    Logistic in stops, nine in ten at the limit: 1/(1 + e^((x − 2.197·s)/s)). [COX1958]

    >>> f"{share_sharp(0.0):.2f} {share_sharp(1.0):.2f} {share_sharp(2.0):.2f}"
    '0.90 0.55 0.14'
    """
    past = np.asarray(stops_past_limit, dtype=float)
    log_odds = np.clip(_LOG_ODDS_AT_LIMIT - past / FALL_STOPS, -500, 500)
    return (1 / (1 + np.exp(-log_odds)))[()]


def burst_stops(frames: int, chance: float = SHARP_AT_LIMIT) -> float:
    """Stops past the hand limit at which a burst keeps one sharp frame with a chance, at most 2.

    Inverse of 1 − (1 − q)^n with q from `share_sharp`. OutOfRange for no frames, or certainty.
    [COX1958]

    >>> f"{burst_stops(1):.2f} {burst_stops(6):.2f} {burst_stops(200):.2f}"
    '0.00 1.48 2.00'
    """
    require_between("burst", frames, low=1, high=200, unit="frames")
    require_between("chance", chance, low=0.01, high=0.999)
    each = 1 - (1 - chance) ** (1 / frames)
    past = FALL_STOPS * (_LOG_ODDS_AT_LIMIT - np.log(each / (1 - each)))
    return float(min(past, MOST_PAST_STOPS))
