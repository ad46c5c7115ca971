"""Highlights: the brightest detail to keep stays under clipping."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import (
    FORMAT,
    STRATEGY,
)
from oxlen.core.decisions.framework.brief import KEEP_BRIGHT, Brief
from oxlen.core.decisions.framework.limit import EXPOSURE, Concern, Limit, LimitKind
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.solver.aim import TELLING_STOPS, guarded_reading
from oxlen.core.decisions.solver.conflict import Conflict, touches
from oxlen.core.decisions.solver.kept import (
    kept_readings,
)
from oxlen.core.decisions.solver.outcome import SHOWN_STOPS, SpotState
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.solver.tones import spoken_spot
from oxlen.core.decisions.trade import Trade
from oxlen.core.labels import ev_label, signed, stops_label


def _keeps_texture(problem: ExposureProblem) -> Iterable[Limit]:
    """Lowest EV100 that keeps the brightest marked detail under clipping."""
    brief = problem.brief
    first = guarded_reading(brief)
    if first is None:
        return
    mode, clips_as = brief.mode, first.clips_as_ev100
    colour = f", its strongest colour {stops_label(first.channel_stops)} brighter"
    sooner = colour if first.channel_stops >= TELLING_STOPS else ""
    headroom = mode.headroom_stops(brief[FORMAT])
    spot, counted = clips_as - headroom, problem.aim.counted_guard_ev100
    by_share = counted is not None and counted > spot
    beside = ""
    if by_share:
        beside = f"; at most {brief[STRATEGY].white_share:.0%} of the frame clips"
    yield Limit(
        HIGHLIGHTS,
        EXPOSURE,
        counted if by_share else spot,
        high=None,
        name="hold highlights",
        reason=f"The brightest detail is {ev_label(first.ev100)}{sooner} and clips at "
        f"{signed(headroom)} from mid{beside}",
        source="phone profile, after ISO 12232",
        computation=None if by_share else "headroom_check",
        inputs={"ev100_hi": clips_as, "ev100_set": problem.aim.ev100, "headroom": headroom},
        base_iso=mode.sensor.base_iso,
    )


def _headroom_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """RAW for its headroom, or a clipped brightest detail."""
    brief = search.brief
    about = (Concern.TONES, Concern.NOISE, Concern.PLACING, Concern.KEEPING)
    if not touches(conflict, *about):
        return
    first = guarded_reading(brief)
    if brief[FORMAT] != "raw" and (first is not None or touches(conflict, Concern.KEEPING)):
        gain = brief.mode.headroom_stops("raw") - brief.mode.headroom_stops(brief[FORMAT])
        cost = f"{stops_label(gain)} more room above; larger files to develop"
        raw = brief.asking(FORMAT, "raw")
        yield Offer("raw", "Save as RAW", cost, brief=raw, tier=Tier.TONES)
    if first is not None and any(reading.role != KEEP_BRIGHT for reading in kept_readings(brief)):
        lost = _let_clip(brief)
        text = f"Let {spoken_spot(first)} clip"
        yield Offer("clip", text, "", brief=lost, tier=Tier.ACCEPTING, reword=_clip_reworded)


def _clip_reworded(trade: Trade) -> Trade | None:
    """What becomes of it, and how much of the frame goes with it where a picture says."""
    spots = zip(trade.brief.readings, trade.outcome, strict=True)
    bright = [(reading, spot) for reading, spot in spots if spot.role == KEEP_BRIGHT]
    if not bright:
        return None  # what was to clip went with another change
    reading, worst = max(bright, key=lambda pair: pair[1].lands_stops)
    share = trade.figures.clipped_share
    if worst.state is SpotState.GIVEN_UP:
        lost = "its detail" if share is None else f"{share:.0%} of the frame"
        return replace(trade, cost=f"{lost} cannot be recovered")
    if worst.misses_stops >= SHOWN_STOPS:
        by = stops_label(worst.misses_stops)
        text = f"Let {spoken_spot(reading)} be {by} brighter"
        cost = f"at {signed(worst.lands_stops)} instead of {signed(worst.wanted_stops)}"
        return replace(trade, text=text, cost=cost)
    if share is None:
        return None
    return replace(trade, text=f"Let {share:.0%} of the frame clip", cost="cannot be recovered")


def _let_clip(brief: Brief, _: int = 0) -> Brief:
    if all(reading.role == KEEP_BRIGHT for reading in kept_readings(brief)):
        return brief  # nothing would be left to expose for
    return brief.asking(STRATEGY, replace(brief[STRATEGY], let_clip=True))


HIGHLIGHTS = LimitKind(
    "highlights", Concern.TONES, _keeps_texture, dropped=_let_clip, ways_out=_headroom_offers
)
