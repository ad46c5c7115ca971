"""Tones: every spot lands where it was wanted, near enough, and no subject clips."""

from __future__ import annotations

from collections.abc import Iterable

from oxlen.core.decisions.exposure.ask import (
    FORMAT,
    STRATEGY,
)
from oxlen.core.decisions.exposure.tone_offers import tone_offers
from oxlen.core.decisions.framework.brief import SUBJECT, Brief
from oxlen.core.decisions.framework.limit import EXPOSURE, Concern, Limit, LimitKind
from oxlen.core.decisions.solver.kept import (
    with_given_up,
)
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.tones import NOMINAL_STOPS, WantedTone, wanted_tones
from oxlen.core.labels import sentence_case, signed, stops_label


def _as_wanted(problem: ExposureProblem) -> Iterable[Limit]:
    """How far the exposure may go before a spot is no longer the tone it was asked to be."""
    brief = problem.brief
    for index, tone in enumerate(wanted_tones(brief)):
        if tone.low_ev100 is None and tone.high_ev100 is None:
            continue
        lift = brief[STRATEGY].lift_stops + NOMINAL_STOPS
        high = None if tone.high_ev100 is None else tone.high_ev100 + lift
        low = None if tone.low_ev100 is None else tone.low_ev100 - NOMINAL_STOPS
        yield Limit(
            TONE,
            EXPOSURE,
            low,
            high=high,
            name=f"{sentence_case(tone.name)} {_where(tone)}",
            reason=f"{sentence_case(tone.name)} was asked for {_where(tone)}; {_how_far(tone)}",
            source="your wanted tone",
            index=index,
            computation="place_exposure",
            inputs={
                "ev100_spot": tone.reading.ev100,
                "place": tone.stops,
                "iso": brief.mode.manual.iso[0],
                "N": brief.lens.f_number,
            },
        )


def _where(tone: WantedTone) -> str:
    if abs(tone.stops) < 0.05:
        return "at mid"
    return f"at {signed(tone.stops)}"


def _how_far(tone: WantedTone) -> str:
    if tone.darker_stops is None:
        return "darker is fine"
    within = tone.brighter_stops or tone.darker_stops
    if tone.brighter_stops is None:
        return f"up to {stops_label(within)} darker is fine"
    return f"within {stops_label(within)} is fine"


def _not_white(problem: ExposureProblem) -> Iterable[Limit]:
    """Lowest EV100 that keeps a subject under clipping."""
    brief = problem.brief
    mode, headroom = brief.mode, brief.mode.headroom_stops(brief[FORMAT])
    for index, tone in enumerate(wanted_tones(brief)):
        if tone.reading.role != SUBJECT:
            continue
        yield Limit(
            WHOLE,
            EXPOSURE,
            tone.reading.clips_as_ev100 - headroom,
            high=None,
            name=f"{sentence_case(tone.name)} not clipped",
            reason=f"{sentence_case(tone.name)} clips at {signed(headroom)} from mid",
            source="phone profile, after ISO 12232",
            index=index,
            computation="headroom_check",
            inputs={
                "ev100_hi": tone.reading.clips_as_ev100,
                "ev100_set": problem.aim.ev100,
                "headroom": headroom,
            },
            base_iso=mode.sensor.base_iso,
        )


def _without_spot(brief: Brief, index: int) -> Brief:
    """The brief with one of its wanted tones given up."""
    return with_given_up(brief, wanted_tones(brief)[index].reading)


TONE = LimitKind(
    "tone",
    Concern.PLACING,
    _as_wanted,
    owner="user",
    dropped=_without_spot,
    ways_out=tone_offers,
)
WHOLE = LimitKind("subject_white", Concern.KEEPING, _not_white)
