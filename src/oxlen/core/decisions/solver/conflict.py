"""When nothing fits: which two limits collide, and by how many stops."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from oxlen.core.decisions.exposure.ask import glass_stops
from oxlen.core.decisions.framework.brief import SUBJECT, Brief, PlacedReading
from oxlen.core.decisions.framework.limit import (
    EXPOSURE,
    ISO,
    NEVER_S,
    SHUTTER,
    Axis,
    Concern,
    Limit,
)
from oxlen.core.decisions.solver.aim import guarded_reading
from oxlen.core.decisions.solver.conflict_words import (
    apart_words,
    begins_words,
    crossed_words,
    high_words,
    low_words,
)
from oxlen.core.decisions.solver.grid import SLACK_STOPS, allowed_pairs, excess_stops
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.solver.snr import NO_ISO
from oxlen.core.decisions.solver.tones import wanted_tones
from oxlen.core.labels import amount_label, sentence_case, stops_label
from oxlen.core.units import stops_between


class Side(StrEnum):
    """Which way the light would have to change for a conflict to go away."""

    DARK = "dark"
    BRIGHT = "bright"
    STEPS = "steps"
    TONES = "tones"


@dataclass(frozen=True)
class Conflict:
    """Two limits that cannot both be met, and the stops that are missing between them.

    `side` says whether more or less light would help; *steps* where two bounds leave no step
    between them whatever the light, *tones* where one exposure cannot serve two spots, which are
    then `dark_spot` and `bright_spot`; `between_steps` where there is room, but no step of the
    phone in it. Where no light would do, nothing is missing in stops: 0.
    """

    limits: tuple[Limit, Limit]
    short_by_stops: float
    sentence: str
    side: Side
    dark_spot: PlacedReading | None = None
    bright_spot: PlacedReading | None = None
    between_steps: bool = False

    @property
    def between(self) -> tuple[str, str]:
        """Ids of the two limits."""
        first, second = self.limits
        return first.id, second.id


@dataclass(frozen=True)
class Bounds:
    """The tightest limit at each end of the two ladders."""

    shutter_min: Limit
    shutter_max: Limit
    iso_min: Limit
    iso_max: Limit


def tightest_bounds(limits: Sequence[Limit]) -> Bounds:
    """The limit that binds first at each end of shutter and ISO."""
    return Bounds(
        _highest_low(limits, SHUTTER),
        _lowest_high(limits, SHUTTER),
        _highest_low(limits, ISO),
        iso_max=_lowest_high(limits, ISO),
    )


def find_conflict(search: Search) -> Conflict:
    """What blocks a slip when no pair of steps meets every limit."""
    bounds = tightest_bounds(search.limits)
    found = _spots_apart(search) or _crossed(search, bounds) or _out_of_light(search, bounds)
    return found or _between_steps(search, bounds)


def is_hopeless(search: Search) -> bool:
    """Whether the bounds alone tell that no pair can fit, before any is looked at."""
    bounds = tightest_bounds(search.limits)
    for low, high in ((bounds.shutter_min, bounds.shutter_max), (bounds.iso_min, bounds.iso_max)):
        if (low.low or 0) > (high.high or np.inf) * (1 + SLACK_STOPS):
            return True
    off, wanted = search.little_stops + SLACK_STOPS, search.aim.ev100
    brightest = _ev(search, bounds.shutter_max.high, bounds.iso_max.high)
    darkest = _ev(search, bounds.shutter_min.low, bounds.iso_min.low)
    return brightest - wanted > off or wanted - darkest > off or tones_apart_stops(search) > 0


def _spots_apart(search: Search) -> Conflict | None:
    """Two spots whose tones one exposure cannot both give; the subject is spoken of first."""
    darks, bright = _collapsed(search)
    if not darks or bright is None:
        return None
    brief = search.brief
    dark = next((x for x in darks if spot_behind(brief, x).role == SUBJECT), darks[0])
    dark_spot, bright_spot = spot_behind(brief, dark), spot_behind(brief, bright)
    return Conflict(
        (dark, bright),
        _low(bright) - _high(dark),
        apart_words(brief, dark_spot, bright_spot),
        side=Side.TONES,
        dark_spot=dark_spot,
        bright_spot=bright_spot,
    )


def _collapsed(search: Search) -> tuple[list[Limit], Limit | None]:
    """Limits of the spots that the brightest one leaves too dark, darkest first; and its own."""
    limits = [limit for limit in search.limits if limit.axis == EXPOSURE]
    bright = max((x for x in limits if x.low is not None), key=_low, default=None)
    if bright is None:
        return [], None
    darks = [x for x in limits if _low(bright) > _high(x) + SLACK_STOPS]
    return sorted(darks, key=_high), bright


def tones_apart_stops(search: Search) -> float:
    """Stops between what the brightest and the darkest spot would still take; 0 where they meet."""
    darks, bright = _collapsed(search)
    return 0.0 if bright is None or not darks else _low(bright) - _high(darks[0])


def short_of_light_stops(search: Search) -> float:
    """Stops by which the brightest steps that keep everything but the tones are too dark."""
    exposing = {limit.id for limit in search.limits if limit.axis == EXPOSURE}
    kept = {name: flags for name, flags in search.broken.items() if name not in exposing}
    pairs = search.pairs.where(allowed_pairs(kept))
    return float(pairs.ev100.min()) - search.aim.ev100 if pairs.row.size else 0.0


def spot_behind(brief: Brief, limit: Limit) -> PlacedReading:
    """The spot whose tone a limit on the exposure is about."""
    if limit.is_about(Concern.PLACING, Concern.KEEPING):
        return wanted_tones(brief)[limit.index].reading
    first = guarded_reading(brief)
    # The highlight guard is only there where a bright detail is.
    assert first is not None
    return first


def _low(limit: Limit) -> float:
    return -np.inf if limit.low is None else limit.low


def _high(limit: Limit) -> float:
    return np.inf if limit.high is None else limit.high


def _crossed(search: Search, bounds: Bounds) -> Conflict | None:
    """Two bounds of one axis that have passed each other."""
    for low, high in ((bounds.shutter_min, bounds.shutter_max), (bounds.iso_min, bounds.iso_max)):
        if (low.low or 0) <= (high.high or np.inf) * (1 + SLACK_STOPS):
            continue
        if high.is_about(Concern.NOISE) and (high.high or 0) <= NO_ISO:
            words = (
                f"{sentence_case(high.name)} is impossible: no ISO of this phone is clean enough "
                "at this output size."
            )
            return Conflict((low, high), 0.0, words, side=Side.STEPS)
        gap = float(stops_between(low.low or 1.0, high.high or 1.0))
        if (low.low or 0) >= NEVER_S:
            return Conflict((low, high), gap, f"{low.reason}.", side=Side.STEPS)
        if high.axis == ISO:
            return _too_dark_for_noise(search, low, high, gap=gap)
        words = crossed_words(low, high)
        return Conflict((low, high), gap, words, side=Side.STEPS)
    return None


def _too_dark_for_noise(search: Search, low: Limit, high: Limit, *, gap: float) -> Conflict:
    """A noise ceiling under the lowest ISO there is, for want of light or for the highlights."""
    guard = _about_tones(search)
    if search.aim.raised_stops > 0 and high.is_about(Concern.NOISE) and guard is not None:
        words = (
            f"Holding the highlights leaves the rest {stops_label(gap)} too dark for the noise "
            "you allow."
        )
        return Conflict((guard, high), gap, words, side=Side.DARK)
    words = f"{sentence_case(high_words(high))}; {low_words(low)}."
    return Conflict((low, high), gap, words, side=Side.STEPS)


def _out_of_light(search: Search, bounds: Bounds) -> Conflict | None:
    """Bounds that together leave too little light, or too much."""
    wanted = search.aim.ev100
    dark = _ev(search, bounds.shutter_max.high, bounds.iso_max.high) - wanted
    if dark > 0:
        longest, highest = high_words(bounds.shutter_max), high_words(bounds.iso_max)
        words = f"{amount_label(dark)} too dark: {longest}, and {highest}."
        pair = (bounds.shutter_max, bounds.iso_max)
        return Conflict(pair, dark, sentence_case(words), side=Side.DARK)
    bright = wanted - _ev(search, bounds.shutter_min.low, bounds.iso_min.low)
    if bright > 0:
        highlight = _about_tones(search)
        guarded = search.aim.raised_stops > 0 and bounds.shutter_min.is_device
        other = highlight if guarded and highlight else bounds.iso_min
        shortest = low_words(bounds.shutter_min)
        words = f"{amount_label(bright)} too bright: {shortest}, and {begins_words(other)}."
        return Conflict((bounds.shutter_min, other), bright, words, side=Side.BRIGHT)
    return None


def _between_steps(search: Search, bounds: Bounds) -> Conflict:
    """Bounds with room between them, but no step of this phone in it."""
    found = []
    for limit in search.limits:
        without = search.near.where(allowed_pairs(search.near_broken, without=limit.id))
        if without.row.size:
            found.append((float(excess_stops(limit, without).min()), limit))
    if found:
        found.sort(key=lambda each: each[0])
        gap, limit = found[0]
        other = bounds.shutter_max if limit.axis != ISO else bounds.iso_max
        if other is limit:
            other = bounds.iso_max if limit.axis == SHUTTER else bounds.shutter_max
        if limit.is_about(Concern.PLACING):
            other = _about_tones(search) or other
        return _no_step(limit, found[1][1] if len(found) > 1 else other, gap)
    gap = float(np.abs(search.pairs.residual_stops).min())
    return _no_step(bounds.shutter_max, bounds.iso_max, gap)


def _no_step(first: Limit, second: Limit, stops: float) -> Conflict:
    sentence = f"No step of this phone meets both “{first.name}” and “{second.name}”."
    return Conflict((first, second), stops, sentence, side=Side.STEPS, between_steps=True)


def _about_tones(search: Search) -> Limit | None:
    return next((limit for limit in search.limits if limit.is_about(Concern.TONES)), None)


def touches(conflict: Conflict | None, *concerns: Concern) -> bool:
    """Whether a conflict is about some things; without a conflict everything is open."""
    if conflict is None:
        return True
    return any(limit.is_about(*concerns) for limit in conflict.limits)


def _ev(search: Search, shutter_s: float | None, iso: float | None) -> float:
    brief = search.brief
    # The device bounds every axis at both ends, so that neither is ever missing.
    open_and_fast = brief.lens.f_number**2 * 100 / ((shutter_s or 1.0) * (iso or 1.0))
    return math.log2(open_and_fast) + glass_stops(brief)


def _highest_low(limits: Sequence[Limit], axis: Axis) -> Limit:
    bounded = [limit for limit in limits if limit.axis == axis and limit.low is not None]
    return max(bounded, key=lambda limit: limit.low or 0.0)


def _lowest_high(limits: Sequence[Limit], axis: Axis) -> Limit:
    bounded = [limit for limit in limits if limit.axis == axis and limit.high is not None]
    return min(bounded, key=lambda limit: limit.high or np.inf)
