"""The ISO strategies: in which order experienced people prefer one pair of steps to another."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass

import numpy as np

from oxlen.core.constants import SNR_ACCEPTABLE, SNR_EXCELLENT
from oxlen.core.decisions.exposure.ask import STRATEGY, IsoStrategy, iso_strategy
from oxlen.core.decisions.framework.limit import SHUTTER, Concern, Limit
from oxlen.core.decisions.solver.aim import RAISED_STOPS
from oxlen.core.decisions.solver.grid import Numbers, Pairs
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.snr import subject_tone_stops, tone_snr

Keys = tuple[Numbers, ...]
"""Arrays over the pairs, most important first; smaller is better."""

CEILING_MARGIN_STOPS = 2.0
"""How much shorter than the tightest blur limit the *ceiling* strategy likes its shutter."""
SHUTTER_FIRST_MARGIN_STOPS = 1.0
"""The same for *shutter first*, when no shutter was asked for by name."""
STEADY_MARGIN_STOPS, CHEAP_MARGIN_STOPS = 1.0, 2.0
"""How much shorter than the hand's limit the *steady hand* keeps a still scene, and where ISO is
cheap. At the limit itself one frame in ten is shaken."""
EXACT_FOR_STOPS = 1.0
"""So much ISO is given for hitting an exposure that the highlights hold."""
LOOKS_SAME_STOPS = 0.1
"""Exposures no further apart than this look the same, and no ISO is given for one of them."""
UNSAFE_SIDE_STOPS = 0.1
"""What a residual towards the tightest limit counts extra, so that near ties err away from it."""
ROUNDING = 6


@dataclass(frozen=True)
class Preference:
    """What a strategy is: its name, the shutter it likes best, and the unsafe side.

    `exact` asks for the exposure before the last stop of ISO: where the highlight guard holds it;
    `brightest` that the brightest of what is kept is the best of it.
    `snr` gives the subject's at the output for pairs; `by_name` tells a shutter asked for, or one
    in the middle of a look, from a margin. `unsafe_side` is +1 where brighter than wanted runs
    towards the tightest limit, −1 where darker does, 0 where neither is safer.
    """

    strategy: IsoStrategy
    liked_shutter_s: float | None
    longest_s: float | None
    snr: Callable[[Pairs], Numbers]
    by_name: bool = False
    exact: bool = False
    brightest: bool = False
    unsafe_side: int = 0


def preference_of(
    problem: ExposureProblem, limits: Iterable[Limit], unsafe_side: int = 0
) -> Preference:
    """How a brief's strategy chooses under its limits."""
    brief = problem.brief
    bounds = [limit for limit in limits if limit.axis == SHUTTER and not limit.is_device]
    longest = min((limit.high for limit in bounds if limit.high is not None), default=None)
    shows = [limit.low for limit in bounds if limit.is_about(Concern.SHOWING)]
    shortest = max((low for low in shows if low is not None), default=None)
    liked = brief[STRATEGY].shutter_s or _liked_shutter_s(shortest, longest)
    subject = subject_tone_stops(problem) or 0.0
    return Preference(
        iso_strategy(brief),
        liked,
        longest,
        snr=lambda pairs: tone_snr(brief, pairs.iso, subject + pairs.residual_stops),
        by_name=brief[STRATEGY].shutter_s is not None or shortest is not None,
        exact=problem.aim.raised_stops > RAISED_STOPS,
        brightest=problem.aim.counted_guard_ev100 is not None,
        unsafe_side=unsafe_side,
    )


def _liked_shutter_s(shortest: float | None, longest: float | None) -> float | None:
    """The middle of a wanted streak, else a stop inside what freezes; None without either."""
    if shortest is not None:
        top = longest if longest is not None and longest > shortest else 2 * shortest
        return math.sqrt(shortest * top)
    return longest * 2.0**-SHUTTER_FIRST_MARGIN_STOPS if longest is not None else None


def floor_keys(pairs: Pairs, preference: Preference) -> Keys:
    """Lowest ISO, then least residual, then the shorter shutter.

    Where the exposure must be hit, what looks nearest to it first among ISOs up to a stop over the
    lowest.
    """
    keys = pairs.log_iso, _residual(pairs, preference), pairs.log_shutter
    if not preference.exact or not pairs.row.size:
        return keys
    dearer: Numbers = np.maximum(0.0, pairs.log_iso - pairs.log_iso.min() - EXACT_FOR_STOPS)
    residual = pairs.residual_stops
    off = -residual if preference.brightest else np.abs(residual)
    seen = np.maximum(0.0, off - off[dearer <= 0].min() - LOOKS_SAME_STOPS)
    return dearer, seen, *keys


def ceiling_keys(pairs: Pairs, preference: Preference) -> Keys:
    """A shutter two stops inside the blur limit as far as the cap allows, then lowest ISO."""
    if preference.longest_s is None:
        return floor_keys(pairs, preference)
    wanted = math.log2(preference.longest_s) - CEILING_MARGIN_STOPS
    short_of_margin = np.maximum(0.0, pairs.log_shutter - wanted)
    return short_of_margin, pairs.log_iso, _residual(pairs, preference)


def shutter_first_keys(pairs: Pairs, preference: Preference) -> Keys:
    """The shutter nearest the one liked, then least residual, then lowest ISO.

    Liked is the shutter asked for; failing that the middle of a wanted streak, or one stop inside
    the blur limit as long as that leaves the picture acceptable; failing that there is nothing to
    put first and the lowest ISO decides.
    """
    if preference.liked_shutter_s is None:
        return floor_keys(pairs, preference)
    distance = np.abs(pairs.log_shutter - math.log2(preference.liked_shutter_s))
    keys = distance, _residual(pairs, preference), pairs.log_iso
    return keys if preference.by_name else (_grain(pairs, preference, SNR_ACCEPTABLE), *keys)


def steady_keys(pairs: Pairs, preference: Preference) -> Keys:
    """A shutter one stop inside what the hand holds, two where ISO is cheap; then lowest ISO."""
    if preference.longest_s is None:
        return floor_keys(pairs, preference)
    inside = math.log2(preference.longest_s) - pairs.log_shutter
    past_first = np.maximum(0.0, STEADY_MARGIN_STOPS - inside)
    # Past the first stop inside, ISO rises only as long as the picture stays clean.
    spoilt = np.where(inside > STEADY_MARGIN_STOPS, _grain(pairs, preference, SNR_EXCELLENT), 0.0)
    past_second = np.maximum(0.0, CHEAP_MARGIN_STOPS - inside)
    return past_first, spoilt, past_second, *floor_keys(pairs, preference)


def _grain(pairs: Pairs, preference: Preference, snr_floor: float) -> Numbers:
    """Stops by which the subject is noisier than a floor."""
    return np.maximum(0.0, np.log2(snr_floor / np.maximum(preference.snr(pairs), 1e-9)))


STRATEGY_KEYS: Mapping[IsoStrategy, Callable[[Pairs, Preference], Keys]] = {
    "floor": floor_keys,
    "ceiling": ceiling_keys,
    "shutter_first": shutter_first_keys,
    "steady": steady_keys,
}


def preferred_index(pairs: Pairs, preference: Preference) -> int | None:
    """Index of the strategy's best among pairs that are all allowed; None without any."""
    if not pairs.row.size:
        return None
    keys = STRATEGY_KEYS[preference.strategy](pairs, preference)
    ranked = [np.round(key, ROUNDING) for key in reversed(keys)]
    return int(np.lexsort(ranked)[0])


def nearest_index(pairs: Pairs) -> int | None:
    """Index of the pair nearest the wanted exposure; None without any.

    Of those that look as near as the nearest the lowest ISO: no light is given for rounding.
    """
    if not pairs.row.size:
        return None
    off = np.abs(pairs.residual_stops)
    seen = np.maximum(0.0, off - off.min() - LOOKS_SAME_STOPS)
    ranked = [np.round(key, ROUNDING) for key in (off, pairs.log_iso, seen)]
    return int(np.lexsort(ranked)[0])


def _residual(pairs: Pairs, preference: Preference) -> Numbers:
    off = np.abs(pairs.residual_stops)
    if preference.unsafe_side:
        off = off + UNSAFE_SIDE_STOPS * (pairs.residual_stops * preference.unsafe_side > 0)
    return off
