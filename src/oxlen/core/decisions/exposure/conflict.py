"""When nothing fits: which two limits collide, and by how many stops."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from oxlen.core.decisions.exposure.ask import glass_stops
from oxlen.core.decisions.exposure.grid import SLACK_STOPS, allowed_pairs, excess_stops
from oxlen.core.decisions.exposure.search import Search
from oxlen.core.decisions.exposure.snr import NO_ISO
from oxlen.core.decisions.limit import ISO, SHUTTER, Axis, Concern, Limit
from oxlen.core.labels import stops_label
from oxlen.core.light.exposure import ev100
from oxlen.core.units import stops_between


class Side(StrEnum):
    """Which way the light would have to change for a conflict to go away."""

    DARK = "dark"
    BRIGHT = "bright"
    STEPS = "steps"


@dataclass(frozen=True)
class Conflict:
    """Two limits that cannot both be met, and the stops that are missing between them.

    `side` says whether more or less light would help; *steps* where two bounds leave no step
    between them whatever the light. Where no light would do, nothing is missing in stops: 0.
    """

    limits: tuple[Limit, Limit]
    short_by_stops: float
    sentence: str
    side: Side

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
    """What stands in the way when no pair of steps meets every limit."""
    bounds = tightest_bounds(search.limits)
    found = _crossed(search, bounds) or _out_of_light(search, bounds)
    return found or _between_steps(search, bounds)


def _crossed(search: Search, bounds: Bounds) -> Conflict | None:
    """Two bounds of one axis that have passed each other."""
    for low, high in ((bounds.shutter_min, bounds.shutter_max), (bounds.iso_min, bounds.iso_max)):
        if (low.low or 0) <= (high.high or np.inf) * (1 + SLACK_STOPS):
            continue
        if high.is_about(Concern.NOISE) and (high.high or 0) <= NO_ISO:
            words = "cannot both be kept: no ISO gives that SNR, however much light there is"
            return _conflict(low, high, 0.0, words=words)
        gap = float(stops_between(low.low or 1.0, high.high or 1.0))
        guarded = search.aim.raised_stops > 0 and high.is_about(Concern.NOISE)
        first = _about_tones(search) if guarded else low
        words = f"leave {stops_label(gap)} between them and no step"
        side = Side.DARK if high.axis == ISO else Side.STEPS
        return _conflict(first or low, high, gap, words=words, side=side)
    return None


def _out_of_light(search: Search, bounds: Bounds) -> Conflict | None:
    """Bounds that together leave too little light, or too much."""
    wanted = search.aim.ev100
    dark = _ev(search, bounds.shutter_max.high, bounds.iso_max.high) - wanted
    if dark > 0:
        words = f"together leave the picture {stops_label(dark)} too dark"
        return _conflict(bounds.shutter_max, bounds.iso_max, dark, words=words, side=Side.DARK)
    bright = wanted - _ev(search, bounds.shutter_min.low, bounds.iso_min.low)
    if bright > 0:
        highlight = _about_tones(search)
        guarded = search.aim.raised_stops > 0 and bounds.shutter_min.is_device
        other = highlight if guarded and highlight else bounds.iso_min
        words = f"together leave the picture {stops_label(bright)} too bright"
        return _conflict(bounds.shutter_min, other, bright, words=words, side=Side.BRIGHT)
    return None


def _between_steps(search: Search, bounds: Bounds) -> Conflict:
    """Bounds with room between them, but no step of this phone in it."""
    for limit in search.limits:
        without = search.near.where(allowed_pairs(search.near_broken, without=limit.id))
        if not without.row.size:
            continue
        gap = float(excess_stops(limit, without).min())
        other = bounds.shutter_max if limit.axis == SHUTTER else bounds.iso_max
        if other is limit:
            other = bounds.iso_max if limit.axis == SHUTTER else bounds.shutter_max
        return _conflict(limit, other, gap, words="leave no step of this phone between them")
    gap = float(np.abs(search.pairs.residual_stops).min())
    words = "leave no step of this phone between them"
    return _conflict(bounds.shutter_max, bounds.iso_max, gap, words=words)


def _conflict(
    first: Limit, second: Limit, stops: float, *, words: str, side: Side = Side.STEPS
) -> Conflict:
    sentence = f"“{first.name}” and “{second.name}” {words}."
    return Conflict((first, second), stops, sentence, side=side)


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
    set_ev100 = ev100(brief.lens.f_number, shutter_s or 1.0, iso or 1.0)
    return float(set_ev100) + glass_stops(brief)


def _highest_low(limits: Sequence[Limit], axis: Axis) -> Limit:
    bounded = [limit for limit in limits if limit.axis == axis and limit.low is not None]
    return max(bounded, key=lambda limit: limit.low or 0.0)


def _lowest_high(limits: Sequence[Limit], axis: Axis) -> Limit:
    bounded = [limit for limit in limits if limit.axis == axis and limit.high is not None]
    return min(bounded, key=lambda limit: limit.high or np.inf)
