"""The phone's own filter mode as a way out: it averages frames by itself, without ND."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import FORMAT, LOOKS, MOTION, SUPPORT
from oxlen.core.decisions.exposure.shown_in_frames import (
    frames_merge,
)
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import Concern
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.sequence.ask import FRAMES, frames_averaged, is_bracketed
from oxlen.core.decisions.solver.conflict import Conflict, Side, touches
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.solver.strategy import nearest_index
from oxlen.core.kit.computed_mode import ComputedMode
from oxlen.core.labels import stops_label, time_label

SPAN_SPARE = 1.05


def own_filters(brief: Brief) -> tuple[ComputedMode, ...]:
    """The filter modes that the phone offers on the lens in use."""
    return tuple(
        computed
        for computed in brief.phone.computed
        if computed.kind == "filter"
        and brief.lens.id in computed.lenses
        and computed.strengths_stops
    )


def own_filter_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """The weakest strength that makes the time long enough, within what the mode reaches.

    It replaces a filter of so many stops because it averages that many frames; where what moves
    would show as copies between them it is not offered. See `motion.less_light`.
    """
    brief = search.brief
    if (
        conflict is None
        or not brief[LOOKS]
        or brief[MOTION]
        or not touches(conflict, Concern.SHOWING)
    ):
        return
    if conflict.side is Side.DARK or frames_averaged(brief) > 1 or is_bracketed(brief):
        return
    shown = (bound for bound in search.limits if bound.is_about(Concern.SHOWING) and bound.low)
    limit, lowest_iso = next(shown, None), search.pairs.where(search.pairs.row == 0)
    index = nearest_index(lowest_iso)
    if limit is None or index is None or brief[SUPPORT] != "tripod":
        return
    each_s, wanted_s = float(lowest_iso.shutter_s[index]), SPAN_SPARE * (limit.low or 0.0)
    for mode in own_filters(brief):
        found = _strength(mode, each_s, wanted_s)
        if found is not None:
            yield from _offer(brief, mode, found, each_s=each_s)


def _strength(mode: ComputedMode, each_s: float, wanted_s: float) -> float | None:
    """The weakest strength (stops) whose whole time is long enough; None where none reaches it."""
    low, high = mode.shortest_s or 0.0, mode.longest_s or math.inf
    times = {stops: each_s * 2.0**stops for stops in mode.strengths_stops}
    return next((s for s, t in times.items() if t >= wanted_s and low <= t <= high), None)


def _offer(brief: Brief, mode: ComputedMode, stops: float, *, each_s: float) -> Iterator[Offer]:
    count = round(2.0**stops)
    frames = replace(brief[FRAMES], count=count, gap_s=mode.gap_s or 0.0, combine="phone")
    by_phone = brief.asking(FRAMES, frames)
    if mode.writes == "processed":
        by_phone = by_phone.asking(FORMAT, "processed")
    if not all(frames_merge(by_phone, look) for look in brief[LOOKS]):
        return
    only = ", processed files only" if mode.writes == "processed" else ""
    yield Offer(
        "own_filter",
        f"The phone's own {mode.name} at {stops_label(stops)}",
        f"on a tripod for {time_label(each_s * count)}{only}; no filter to carry",
        brief=by_phone,
        tier=Tier.SEVERAL_FRAMES,
    )
