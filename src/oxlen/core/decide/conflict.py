"""When nothing fits: which two limits collide, by how many stops, and what each way out costs."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from oxlen.core.decide.brief import Brief
from oxlen.core.decide.grid import Grid
from oxlen.core.decide.limits import Axis, Limit
from oxlen.core.labels import stops_label
from oxlen.core.light.exposure import ev100
from oxlen.core.units import stops_between

if TYPE_CHECKING:
    from oxlen.core.decide.plan import Slip


@dataclass(frozen=True)
class Trade:
    """A way out of a conflict: what to give up, in words, and the slip it buys."""

    id: str
    text: str
    cost: str
    slip: Slip


@dataclass(frozen=True)
class Conflict:
    """Two limits that cannot both be met, and the stops that are missing between them."""

    between: tuple[str, str]
    short_by_stops: float
    sentence: str
    trades: tuple[Trade, ...] = ()


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
        _highest_low(limits, "shutter_s"),
        _lowest_high(limits, "shutter_s"),
        _highest_low(limits, "iso"),
        _lowest_high(limits, "iso"),
    )


def find_conflict(
    limits: Sequence[Limit], grid: Grid, f_number: float, *, wanted_ev100: float, guarded: bool
) -> Conflict:
    """What stands in the way when no pair of steps meets every limit."""
    bounds = tightest_bounds(limits)
    for low, high in ((bounds.shutter_min, bounds.shutter_max), (bounds.iso_min, bounds.iso_max)):
        if (low.low or 0) > (high.high or np.inf):
            gap = float(stops_between(low.low, high.high))
            return _conflict(low, high, gap, f"leave {stops_label(gap)} between them and no step")
    dark = _ev(f_number, bounds.shutter_max.high, bounds.iso_max.high) - wanted_ev100
    if dark > 0:
        words = f"together leave the picture {stops_label(dark)} too dark"
        return _conflict(bounds.shutter_max, bounds.iso_max, dark, words)
    bright = wanted_ev100 - _ev(f_number, bounds.shutter_min.low, bounds.iso_min.low)
    if bright > 0:
        highlight = next((limit for limit in limits if limit.id == "highlights"), None)
        other = highlight if guarded and highlight else bounds.iso_min
        words = f"together leave the picture {stops_label(bright)} too bright"
        return _conflict(bounds.shutter_min, other, bright, words)
    gap = float(np.abs(grid.residual_stops).min())
    return _conflict(
        bounds.shutter_max, bounds.iso_max, gap, "leave no step of this phone between them"
    )


def trades_for(
    brief: Brief, conflict: Conflict, solve: Callable[[Brief], Slip | None]
) -> tuple[Trade, ...]:
    """Ways out that touch the colliding limits, each solved anew."""
    offers = (offer for limit_id in conflict.between for offer in _offers(brief, limit_id))
    trades = []
    for trade_id, text, cost, changed in offers:
        slip = solve(changed)
        if slip is not None:
            trades.append(Trade(trade_id, text, cost, slip))
    return tuple(trades)


def _offers(brief: Brief, limit_id: str) -> Iterable[tuple[str, str, str, Brief]]:
    """(id, what to do, what it costs, the brief after it) for a limit standing in the way."""
    if limit_id == "hold":
        if brief.support == "handheld":
            braced = replace(brief, support="braced")
            yield "brace", "Brace the phone on something firm", "less freedom to frame", braced
        tripod = replace(brief, support="tripod")
        yield "tripod", "Put the phone on a tripod", "set-up time; moving things blur", tripod
    if limit_id == "iso_cap":
        lifted = replace(brief, school=replace(brief.school, iso_cap=None))
        yield "lift_cap", "Go above your ISO cap", "more noise than you said you take", lifted
    if limit_id == "highlights":
        kept = tuple(r for r in brief.readings if r.role != "keep-bright")
        if kept:
            lost = replace(brief, readings=kept)
            yield "clip", "Let the brightest detail clip", "its texture is lost for good", lost


def _conflict(first: Limit, second: Limit, stops: float, words: str) -> Conflict:
    sentence = f"“{first.name}” and “{second.name}” {words}."
    return Conflict((first.id, second.id), stops, sentence)


def _ev(f_number: float, shutter_s: float | None, iso: float | None) -> float:
    return float(ev100(f_number, shutter_s, iso))


def _highest_low(limits: Sequence[Limit], axis: Axis) -> Limit:
    bounded = [limit for limit in limits if limit.axis == axis and limit.low is not None]
    return max(bounded, key=lambda limit: limit.low or 0.0)


def _lowest_high(limits: Sequence[Limit], axis: Axis) -> Limit:
    bounded = [limit for limit in limits if limit.axis == axis and limit.high is not None]
    return min(bounded, key=lambda limit: limit.high or np.inf)
