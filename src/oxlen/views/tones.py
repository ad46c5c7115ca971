"""The tone rail as data: its scale, and where every reading lands."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import BaseModel

from oxlen.core.decisions.brief import Role
from oxlen.core.decisions.plan import Plan
from oxlen.metering.light import LightReading

LOWEST_STOPS, HIGHEST_STOPS = -7.0, 4.5
"""Ends of the rail, in stops from mid: what lies beyond is shown at the end."""
WHITE_STOPS = 2.5
"""Where the ramp of greys reaches white: clipping of a usual processed file."""
LONGEST_NAME = 26
AT_LEAST = {"ok": "", "clipped": "≥ ", "blocked": "≤ "}
"""What a reading whose own picture was clipped or blocked says less than all of."""


class TonePin(BaseModel):
    """A reading on the rail: where it lands when the exposure is just as wanted.

    A pair of steps that comes out brighter moves it up by as many stops.
    """

    id: str
    name: str
    role: Role
    at_wanted_stops: float
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
    pins = [
        TonePin(
            id=one.id,
            name=_shortened(one.name or one.role),
            role=one.role,
            at_wanted_stops=one.ev100 + shift - aim_ev100,
            mark=AT_LEAST[one.state],
        )
        for one in readings
        if one.ev100 is not None and not one.superseded
    ]
    return ToneScale(
        lowest_stops=LOWEST_STOPS,
        highest_stops=HIGHEST_STOPS,
        white_stops=WHITE_STOPS,
        ticks=list(range(int(LOWEST_STOPS), int(HIGHEST_STOPS) + 1)),
        pins=sorted(pins, key=lambda pin: pin.at_wanted_stops),
    )


def _shortened(name: str) -> str:
    """A name short enough for the rail."""
    return f"{name[: LONGEST_NAME - 1]}…" if len(name) > LONGEST_NAME else name
