"""The exposures of a plan, one after another, as a camera that can be set shoots them."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import HOLD
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.sequence.ask import FRAMES, is_blended, is_bracketed
from oxlen.core.decisions.sequence.ramp import ramp_steps


@dataclass(frozen=True)
class PlannedExposure:
    """Frames at the same settings; `every_s` from the start of one to the next, 0 at once."""

    iso: float
    shutter_s: float
    frames: int = 1
    every_s: float = 0.0


def planned_exposures(plan: Plan) -> tuple[PlannedExposure, ...]:
    """All exposures of a plan in the order of the checklist; none without a slip."""
    if plan.slip is None:
        return ()
    exposures, frames = plan.dialled.exposures, plan.brief[FRAMES]
    if len(exposures) > 1 and (is_bracketed(plan.brief) or is_blended(plan.brief)):
        lines = [{line.field: line.value for line in each.settings} for each in exposures]
        return tuple(
            PlannedExposure(float(line["iso"]), float(line["shutter_s"])) for line in lines
        )
    iso, shutter_s = plan.slip.iso, plan.slip.shutter_s
    if frames.count > 1 and frames.combine == "series" and frames.ramp_stops_min:
        return tuple(
            PlannedExposure(
                step.iso,
                step.shutter_s,
                frames=step.last - step.first + 1,
                every_s=step.shutter_s + frames.gap_s,
            )
            for step in ramp_steps(plan)
        )
    if frames.count > 1:
        every_s = shutter_s + frames.gap_s
        return (PlannedExposure(iso, shutter_s, frames=frames.count, every_s=every_s),)
    return (PlannedExposure(iso, shutter_s, frames=plan.brief[HOLD].burst),)
