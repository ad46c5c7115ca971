"""The plan: hard bounds first, then the school's choice among real steps, then the reasons."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from oxlen.core.decide.auto import AutoChoice, auto_choice
from oxlen.core.decide.brief import ANY_LENS, Brief
from oxlen.core.decide.conflict import Conflict, find_conflict
from oxlen.core.decide.explain import Decided, Reason, exposure_reason, reasons_for, residual_words
from oxlen.core.decide.frontier import (
    Alternative,
    Compromise,
    Figures,
    alternatives,
    compromise,
    figures_at,
)
from oxlen.core.decide.grid import Pairs
from oxlen.core.decide.lenses import on_best_lens
from oxlen.core.decide.limits import Limit
from oxlen.core.decide.predict import predict
from oxlen.core.decide.search import Search, Slip, search_for
from oxlen.core.decide.span import TonalSpan, tonal_span
from oxlen.core.decide.trades import Trade, trades_for


@dataclass(frozen=True)
class Window:
    """The stretch of steps along the wanted exposure that every limit leaves open."""

    shutter_min_s: float
    shutter_max_s: float
    iso_min: float
    iso_max: float


@dataclass(frozen=True)
class Plan:
    """The decision and everything it rests on.

    `slip` keeps every limit, and may miss the aim when `conflict` is given; None when every pair
    breaks something: `compromise` then gives up least. `slack_stops` is the room the slip leaves to
    each limit. `search` holds every pair of steps, so that a map can be drawn without deciding
    anything again.
    """

    search: Search
    slip: Slip | None
    figures: Figures | None
    binding: frozenset[str]
    slack_stops: Mapping[str, float]
    window: Window | None
    conflict: Conflict | None
    compromise: Compromise | None
    trades: tuple[Trade, ...]
    alternatives: tuple[Alternative, ...]
    span: TonalSpan | None
    auto: AutoChoice | None
    reasons: tuple[Reason, ...]

    @property
    def brief(self) -> Brief:
        """The brief decided on; a lens left open has been chosen in it."""
        return self.search.brief


def plan(brief: Brief, *, ask: bool = False) -> Plan:
    """Decide lens, ISO and shutter for a brief; `ask` for trades even when nothing collides.

    A slip never breaks a limit and never leaves the phone's manual ladders. When no pair of steps
    meets every limit within half a step of the aim, `conflict` says which two collide, and the slip
    is the nearest that still breaks none, or None. Raises BadInput without a reading, NotFound for
    an unknown lens or mode.
    """
    if brief.lens_id == ANY_LENS:
        return _lens_chosen(plan(on_best_lens(brief), ask=ask))
    search = search_for(brief)
    pair = search.preferred()
    conflict = None if pair else find_conflict(search)
    pair = pair or search.nearest()
    binding = frozenset(conflict.between) if conflict else _binding(search, pair)
    slip = search.slip(pair)
    exposure = (exposure_reason(brief, search.aim),)
    return Plan(
        search,
        slip,
        None if pair is None else figures_at(predict(search.situation, pair), 0),
        binding,
        {} if pair is None else search.slack_stops(pair),
        _window(search),
        conflict,
        compromise(search) if conflict else None,
        (*trades_for(search, conflict), *_last_resort(search, conflict)) if conflict or ask else (),
        alternatives(search),
        tonal_span(brief, slip.iso if slip else brief.mode.manual.iso[0]),
        _auto(search),
        exposure
        if slip is None
        else reasons_for(Decided(brief, search.aim, search.limits, binding, slip)),
    )


def _lens_chosen(decision: Plan) -> Plan:
    """A plan whose lens Oxlen chose, saying so."""
    reasons = tuple(
        replace(reason, text="ranks first among this phone's lenses")
        if reason.value == "lens"
        else reason
        for reason in decision.reasons
    )
    return replace(decision, reasons=reasons)


def _window(search: Search) -> Window | None:
    open_pairs = search.open
    if not open_pairs.row.size:
        return None
    ladder = search.brief.mode.manual
    rows, columns = open_pairs.row, open_pairs.column
    return Window(
        ladder.shutter_s[int(columns.min())],
        ladder.shutter_s[int(columns.max())],
        ladder.iso[int(rows.min())],
        ladder.iso[int(rows.max())],
    )


def _auto(search: Search) -> AutoChoice | None:
    mean = search.brief.scene_mean_ev100
    return None if mean is None else auto_choice(search.brief, search.aim.ev100, mean)


def _last_resort(search: Search, conflict: Conflict | None) -> tuple[Trade, ...]:
    """The nearest the phone has, highlights lost, where nothing else keeps every limit."""
    if conflict is None or search.nearest() is not None:
        return ()
    pair = search.nearest(without="highlights")
    slip = search.slip(pair)
    if slip is None or pair is None:
        return ()
    figures = figures_at(predict(search.situation, pair), 0)
    text = f"Take it {residual_words(slip.residual_stops)}"
    return (Trade("accept", text, "the brightest detail is lost", slip, figures, search.brief),)


def _binding(search: Search, pair: Pairs | None) -> frozenset[str]:
    """Limits the choice rests on: without them it would have come out otherwise."""
    if pair is None:
        return frozenset()
    found = {"highlights"} if search.aim.raised_stops > 0 else set()
    ladder = search.brief.mode.manual
    ends = {
        "iso": (int(pair.row[0]), len(ladder.iso)),
        "shutter_s": (int(pair.column[0]), len(ladder.shutter_s)),
    }
    for limit in search.limits:
        if limit.owner == "device":
            index, count = ends[limit.axis]
            decides = index in (0, count - 1)
        else:
            decides = limit.axis != "ev100_set" and _changes(search, pair, limit)
        if decides:
            found.add(limit.id)
    return frozenset(found)


def _changes(search: Search, pair: Pairs, limit: Limit) -> bool:
    other = search.preferred_without(limit)
    if other is None:
        return True
    return bool(np.any(other.row != pair.row) or np.any(other.column != pair.column))
