"""What each metering pattern reads on the sheet's picture, and what auto would set by it."""

from __future__ import annotations

from pydantic import BaseModel

from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.exposure.auto.choice import auto_choice
from oxlen.core.decisions.plan import Plan
from oxlen.core.labels import steps_label
from oxlen.core.light.patterns import patterns
from oxlen.metering.light import SheetLight


class PatternReading(BaseModel):
    """What a metering pattern reads on the picture, and what auto would set by it."""

    id: str
    name: str
    ev100: float
    slip: str
    brighter_stops: float
    words: str


def pattern_readings(decision: Plan, light: SheetLight) -> list[PatternReading]:
    """Every pattern by the light expected; none without a metered picture."""
    if light.frame is None or light.mid_ev100 is None:
        return []
    brief, found = decision.brief, []
    mid_ev100 = light.mid_ev100 + brief.light_shift_stops
    for pattern in patterns(light.frame, brief.mode.headroom_stops(brief[FORMAT])):
        ev100 = mid_ev100 + pattern.stops_from_mid
        choice = auto_choice(brief, decision.search.aim.ev100, ev100)
        found.append(
            PatternReading(
                id=pattern.id,
                name=pattern.name,
                ev100=ev100,
                slip=steps_label(choice.iso, choice.shutter_s),
                brighter_stops=choice.brighter_stops,
                words=choice.words,
            )
        )
    return found
