"""For a phone left on auto: the same answer in four steps, where auto can be talked into it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.decisions.exposure.ask import glass_stops
from oxlen.core.decisions.exposure.auto.choice import auto_choice
from oxlen.core.decisions.framework.brief import NEUTRAL, SUBJECT, Brief, PlacedReading
from oxlen.core.decisions.framework.limit import Limit
from oxlen.core.decisions.scene.facts import scene_facts
from oxlen.core.decisions.solver.grid import SLACK_STOPS, Pairs, excess_stops, pair_off_ladder
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.solver.tones import spoken_spot
from oxlen.core.labels import MINUS, listed, steps_label, stops_label

NO_GLARE = "Auto would meter only the glare. Put the certified filter on first."
MISSED_STOPS = 0.5
"""Compensation further than this from what is wanted does not give the picture."""


@dataclass(frozen=True)
class AutoSteps:
    """What to do on auto: four steps, or why auto cannot be talked into it.

    The pair is what auto would likely choose then; `compensation_stops` is on the phone's scale.
    """

    steps: tuple[str, ...]
    compensation_stops: float
    iso: float
    shutter_s: float
    ev100_set: float
    why_not: str

    @property
    def works(self) -> bool:
        """Whether following the steps gives the picture."""
        return not self.why_not


def auto_steps(search: Search) -> AutoSteps:
    """Tap, compensate, lock, recompose; and what auto would take then."""
    brief, wanted = search.brief, search.aim.ev100
    tapped = _to_tap(brief, wanted)
    if tapped is None:
        return AutoSteps(
            (),
            0.0,
            brief.mode.auto.iso[0],
            shutter_s=brief.mode.auto.shutter_s[0],
            ev100_set=wanted,
            why_not=NO_GLARE,
        )
    asked = tapped.ev100 - wanted
    compensation = brief.phone.automatic.compensation(asked)
    choice = auto_choice(brief, wanted, tapped.ev100 - compensation)
    pair = pair_off_ladder(
        choice.iso,
        choice.shutter_s,
        f_number=brief.lens.f_number,
        wanted_ev100=wanted,
        glass_stops=glass_stops(brief),
    )
    return AutoSteps(
        _steps(tapped, compensation),
        compensation,
        choice.iso,
        shutter_s=choice.shutter_s,
        ev100_set=choice.ev100_set,
        why_not=_why_not(search, pair, steps_label(choice.iso, choice.shutter_s)),
    )


def _to_tap(brief: Brief, wanted_ev100: float) -> PlacedReading | None:
    """The subject where the scale reaches from it, else the spot nearest to what is wanted.

    Never the Sun or an arc; None where there is nothing else.
    """
    most, glaring = brief.phone.automatic.compensation_most_stops, scene_facts(brief).glaring
    spots = [reading for reading in brief.readings if reading not in glaring]
    mains = [spot for spot in spots if spot.role in (SUBJECT, NEUTRAL)]
    reached = [main for main in mains if abs(main.ev100 - wanted_ev100) <= most]
    return min(reached or spots, key=lambda step: abs(step.ev100 - wanted_ev100), default=None)


def _steps(tapped: PlacedReading, compensation_stops: float) -> tuple[str, ...]:
    return (
        f"Tap {spoken_spot(tapped)}",
        f"Set the compensation to {scale_label(compensation_stops)}",
        "Hold until it locks",
        "Recompose and shoot",
    )


def scale_label(stops: float) -> str:
    """A figure of the compensation scale, in thirds as phones write it.

    >>> scale_label(-1.0), scale_label(0.667), scale_label(0.0)
    ('−1.0', '+0.7', '0')
    """
    if abs(stops) < 0.05:
        return "0"
    return f"{'+' if stops > 0 else MINUS}{abs(stops):.1f}"


def _why_not(search: Search, pair: Pairs, chosen: str) -> str:
    off = float(pair.residual_stops[0])
    if abs(off) > MISSED_STOPS:
        side = "brighter" if off > 0 else "darker"
        return f"Auto does not reach it: at {chosen} it stays {stops_label(off)} {side}."
    broken = [limit.name for limit in search.limits if _breaks(limit, pair)]
    if broken:
        names = listed([f"“{name}”" for name in broken])
        return f"Auto does not reach it: it would use {chosen}, against {names}."
    return ""


def _breaks(limit: Limit, pair: Pairs) -> bool:
    """Whether auto's pair breaks what was asked; its own ladders reach where manual ones do not."""
    if limit.is_device:
        return False
    return bool(np.any(excess_stops(limit, pair) > SLACK_STOPS))
