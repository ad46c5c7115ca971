"""The tone rail as data: its scale, and where every reading lands."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import BaseModel

from oxlen.core.decisions.framework.brief import SPOT_ROLE_NAMES, Brief, PlacedReading, SpotRole
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.solver.tones import wanted_of
from oxlen.metering.light import LightReading

LOWEST_STOPS, HIGHEST_STOPS = -7.0, 4.5
"""Ends of the rail, in stops from mid: what is beyond is shown at the end."""
WHITE_STOPS = 2.5
"""Where the ramp of greys reaches white: clipping of a usual processed file."""
LONGEST_NAME = 26
AT_LEAST = {"ok": "", "clipped": "≥ ", "blocked": "≤ "}
"""What a reading whose own picture was clipped or blocked says less than all of."""


class TonePin(BaseModel):
    """A reading on the rail: where it lands when the exposure is just as planned, and is wanted.

    A pair of steps that is brighter moves it up by as many stops. `darker_stops` and
    `brighter_stops` are how far off still will do, None where any amount will; `wanted_stops` is
    None where it only has to stay under clipping.
    """

    id: str
    name: str
    role: SpotRole
    at_planned_stops: float
    wanted_stops: float | None
    darker_stops: float | None
    brighter_stops: float | None
    mark: str


class ToneScale(BaseModel):
    """The rail's ends and marks in stops from mid, and the pins on it, darkest first."""

    lowest_stops: float
    highest_stops: float
    white_stops: float
    ticks: list[int]
    pins: list[TonePin]


def tone_scale(decision: Plan, readings: Iterable[LightReading]) -> ToneScale:
    """The rail of a plan, by the light expected."""
    shift, aim_ev100 = decision.brief.light_shift_stops, decision.search.aim.ev100
    shown = [
        reading for reading in readings if reading.ev100 is not None and not reading.superseded
    ]
    # A spot for its tone only is on the rail, but not among what was decided by.
    placed = iter(decision.brief.readings)
    pins = [
        _pin(
            reading,
            next(placed) if reading.counts else None,
            lands_stops=(reading.ev100 or 0.0) + shift - aim_ev100,
            brief=decision.brief,
        )
        for reading in shown
    ]
    return ToneScale(
        lowest_stops=LOWEST_STOPS,
        highest_stops=HIGHEST_STOPS,
        white_stops=WHITE_STOPS,
        ticks=list(range(int(LOWEST_STOPS), int(HIGHEST_STOPS) + 1)),
        pins=sorted(pins, key=lambda pin: pin.at_planned_stops),
    )


def _pin(
    reading: LightReading, spot: PlacedReading | None, *, lands_stops: float, brief: Brief
) -> TonePin:
    tone = None if spot is None else wanted_of(brief, spot)
    return TonePin(
        id=reading.id,
        name=_shortened(reading.name or SPOT_ROLE_NAMES[reading.role].lower()),
        role=reading.role,
        at_planned_stops=lands_stops,
        wanted_stops=None if tone is None else tone.stops,
        darker_stops=None if tone is None else tone.darker_stops,
        brighter_stops=None if tone is None else tone.brighter_stops,
        mark=AT_LEAST[reading.state],
    )


def _shortened(name: str) -> str:
    """A name short enough for the rail."""
    return f"{name[: LONGEST_NAME - 1]}…" if len(name) > LONGEST_NAME else name
