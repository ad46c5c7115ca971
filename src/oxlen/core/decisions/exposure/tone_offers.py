"""Ways out when one exposure cannot give two spots the tones asked of them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from oxlen.core.constants import SNR_ACCEPTABLE
from oxlen.core.decisions.exposure.ask import FORMAT, OUTPUT, STRATEGY
from oxlen.core.decisions.framework.brief import SUBJECT, Brief, PlacedReading
from oxlen.core.decisions.framework.limit import Concern
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.solver.conflict import Conflict, tones_apart_stops, touches
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.solver.tones import SHAPE_PLACE_STOPS, place_stops, spoken_spot
from oxlen.core.decisions.trade import Trade
from oxlen.core.labels import stops_label, two_digits

MOST_LIFT_STOPS = 4.0
"""Lifted further, a tone shows its noise and its colour drifts."""
MOST_ADDED_STOPS = 5.0
"""A reflector gives one or two stops, a near lamp four or five."""
REFLECTOR_STOPS = 1.5
SHAPE_FROM_GAP_STOPS = 2.0
"""Against background so much brighter than it should be, a subject is nearly a shape already."""
SPARE_STOPS = 0.1


def tone_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Light on the dark spot, lifting it afterwards, a shape, or a spot left out of the frame."""
    if conflict is None or not touches(conflict, Concern.PLACING):
        return
    brief, dark, bright = search.brief, conflict.dark_spot, conflict.bright_spot
    if dark is None or bright is None:
        return
    needed = tones_apart_stops(search) + brief.mode.manual.half_step_stops + SPARE_STOPS
    yield from _lifted(brief, dark, needed)
    yield from _lit(brief, dark, needed)
    if conflict.short_by_stops >= SHAPE_FROM_GAP_STOPS:
        yield from _as_a_shape(brief, dark)
    if bright.role != SUBJECT:
        yield _left_out(brief, bright)


def _lifted(brief: Brief, dark: PlacedReading, needed: float) -> Iterator[Offer]:
    """Expose for the bright one in RAW and lift the dark one, if its noise bears that."""
    lift = round(brief[STRATEGY].lift_stops + needed, 1)
    if lift > MOST_LIFT_STOPS:
        return
    raw = brief if brief[FORMAT] != "processed" else brief.asking(FORMAT, "raw")
    lifted = raw.asking(STRATEGY, replace(brief[STRATEGY], lift_stops=lift))
    floor = brief[OUTPUT].snr_floor or SNR_ACCEPTABLE

    def reworded(trade: Trade) -> Trade | None:
        tone = dark.ev100 - trade.slip.ev100_set
        snr = trade.snr_of(tone)
        short = min(place_stops(brief, dark) - tone, MOST_LIFT_STOPS)
        if snr < floor or short < SPARE_STOPS:
            return None
        by = stops_label(short)
        return replace(trade, cost=f"by {by} in development, SNR {snr:.0f}")

    text = f"Expose darker in RAW and lift {spoken_spot(dark)} afterwards"
    yield Offer("lift", text, "", brief=lifted, tier=Tier.TONES, reword=reworded)


def _lit(brief: Brief, dark: PlacedReading, needed: float) -> Iterator[Offer]:
    if needed > MOST_ADDED_STOPS:
        return
    brighter = replace(dark, ev100=dark.ev100 + needed)
    how = "a white board or reflector" if needed <= REFLECTOR_STOPS else "a lamp"
    cost = f"{how}, {two_digits(2.0**needed)} times the light there; read it again afterwards"
    yield Offer(
        "fill",
        f"Add {stops_label(needed)} of light on {spoken_spot(dark)}",
        cost,
        brief=_with_readings(brief, dark, brighter),
        tier=Tier.OTHER_LOOK,
        outside=True,
    )


def _as_a_shape(brief: Brief, dark: PlacedReading) -> Iterator[Offer]:
    """A dark subject against bright background may also be meant as a shape."""
    strategy = brief[STRATEGY]
    if dark.role != SUBJECT or strategy.exposure == "silhouette":
        return
    shape = brief.asking(STRATEGY, replace(strategy, exposure="silhouette"))
    text = f"Let {spoken_spot(dark)} be a silhouette"
    cost = f"about {-SHAPE_PLACE_STOPS:g} stops under mid, without detail"
    yield Offer("silhouette", text, cost, brief=shape, tier=Tier.LAST_RESORT)


def _left_out(brief: Brief, bright: PlacedReading) -> Offer:
    return Offer(
        "elsewhere",
        f"Reframe without {spoken_spot(bright)}",
        "another view; read the light again from there",
        brief=_with_readings(brief, bright),
        tier=Tier.LAST_RESORT,
        outside=True,
    )


def _with_readings(brief: Brief, old: PlacedReading, *new: PlacedReading) -> Brief:
    """The brief with one of its readings replaced or left out."""
    shift = brief.light_shift_stops
    measured = tuple(replace(carried, ev100=carried.ev100 - shift) for carried in new)
    found = zip(brief.readings, brief.readings_measured, strict=True)
    kept = tuple(before for reading, before in found if reading is not old)
    return replace(brief, readings_measured=(*kept, *measured))
