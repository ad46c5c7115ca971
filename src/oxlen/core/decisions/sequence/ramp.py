"""Light that changes while a series is shot: how fast, and which steps the run goes through."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from oxlen.core.decisions.framework.limit import ISO, SHUTTER
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.errors import BadInput
from oxlen.core.units import require_positive

LEAST_MINUTES = 0.2
SLACK = 1e-9


@dataclass(frozen=True)
class RampStep:
    """Frames of a series shot at the same steps: from one to another, begun at a time (s).

    `residual_stops` is the most that one of them is lighter (positive) or darker than asked.
    """

    first: int
    last: int
    at_s: float
    iso: float
    shutter_s: float
    residual_stops: float


def rate_stops_min(readings: Sequence[tuple[float, float]]) -> float:
    """How fast light changes (stops a minute, positive = more) by readings of (seconds, EV100).

    The slope through all of them. BadInput for fewer than two, or all within a few seconds.

    >>> f"{rate_stops_min([(0.0, 9.0), (600.0, 7.0)]):.1f}"
    '-0.2'
    """
    if len(readings) < 2:
        raise BadInput("Two readings are needed to see how light changes.", "takes")
    times = [at / 60 for at, _ in readings]
    middle = math.fsum(times) / len(times)
    spread = math.fsum((time - middle) ** 2 for time in times)
    if max(times) - min(times) < LEAST_MINUTES:
        raise BadInput("These readings are too close in time.", "takes")
    light = math.fsum((at - middle) * ev100 for at, (_, ev100) in zip(times, readings, strict=True))
    return light / float(require_positive("spread", spread, "min²"))


def ramp_steps(plan: Plan) -> tuple[RampStep, ...]:
    """The steps a series goes through as its light changes; one where it does not.

    The shutter gives way first, within its limits and the gap between frames, then the ISO. A
    change is listed where the nearest step is another. Nothing without a slip.
    """
    slip, frames = plan.slip, plan.brief[FRAMES]
    if slip is None:
        return ()
    every_s = slip.shutter_s + frames.gap_s
    found: list[RampStep] = []
    for number in range(frames.count):
        at_s = number * every_s
        darker = -frames.ramp_stops_min * at_s / 60
        iso, shutter_s, off = _nearest(plan, darker)
        if found and (found[-1].iso, found[-1].shutter_s) == (iso, shutter_s):
            before = found[-1]
            worst = max(before.residual_stops, off, key=abs)
            found[-1] = RampStep(
                before.first,
                number + 1,
                before.at_s,
                iso=iso,
                shutter_s=shutter_s,
                residual_stops=worst,
            )
        else:
            found.append(
                RampStep(
                    number + 1, number + 1, at_s, iso=iso, shutter_s=shutter_s, residual_stops=off
                )
            )
    return tuple(found)


def _nearest(plan: Plan, stops: float) -> tuple[float, float, float]:
    """ISO and shutter that expose so many stops more than the slip, and what is left of it."""
    slip, ladder = plan.slip, plan.brief.mode.manual
    assert slip is not None  # asked before
    low, high = _shutter_span(plan)
    allowed = [step_s for step_s in ladder.shutter_s if low <= step_s <= high] or [slip.shutter_s]
    wanted = slip.shutter_s * 2.0**stops
    shutter_s = min(allowed, key=lambda step_s: abs(math.log2(step_s / wanted)))
    left = math.log2(wanted / shutter_s)
    iso = slip.iso
    if abs(left) > ladder.half_step_stops:
        isos = [step for step in ladder.iso if step <= _iso_most(plan)] or [slip.iso]
        iso = min(isos, key=lambda step: abs(math.log2(step / slip.iso) - left))
    return iso, shutter_s, math.log2(shutter_s * iso / (wanted * slip.iso))


def _shutter_span(plan: Plan) -> tuple[float, float]:
    """The shutters that limits and the gap between frames leave."""
    bounds = [limit for limit in plan.search.limits if limit.axis == SHUTTER]
    lows = [bound.low for bound in bounds if bound.low is not None]
    highs = [bound.high for bound in bounds if bound.high is not None]
    gap_s = plan.brief[FRAMES].gap_s
    # A frame has to be over before the next begins.
    longest = max(gap_s, plan.slip.shutter_s if plan.slip else 0.0)
    return max(lows, default=0.0) * (1 - SLACK), min([*highs, longest]) * (1 + SLACK)


def _iso_most(plan: Plan) -> float:
    highs = [
        limit.high for limit in plan.search.limits if limit.axis == ISO and limit.high is not None
    ]
    return min(highs, default=math.inf) * (1 + SLACK)
