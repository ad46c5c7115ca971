"""The steps of a run in which pictures are shot."""

from __future__ import annotations

import math
from collections.abc import Iterator

from oxlen.core.checklist.night import remind_s
from oxlen.core.checklist.step import RunStep
from oxlen.core.decisions.exposure.ask import FORMAT, HOLD, LOOKS, SUPPORT
from oxlen.core.decisions.exposure.light_source import LightSource, light_source
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.sequence.ask import FRAMES, is_blended, is_bracketed
from oxlen.core.decisions.sequence.ramp import ramp_steps
from oxlen.core.kit.cost import FrameCost, set_cost
from oxlen.core.labels import counted, listed, steps_label, time_label, two_digits

COUNTED_FROM_S = 1.0
"""Exposures shorter than this need no watch."""
LONG_FROM_S = 1.0
DIALLED_ONCE = (LightSource.STARS, LightSource.DUSK, LightSource.DRAWING)
"""In the dark auto shows nothing to compare with, and would undo what was dialled by torch."""


def _is_long_run(plan: Plan) -> bool:
    """Whether it takes so long, or so many frames, that nobody sees beforehand what comes."""
    brief, slip = plan.brief, plan.slip
    if slip is None or brief[SUPPORT] != "tripod" or is_bracketed(brief):
        return False
    return brief[FRAMES].count > 1 or (bool(brief[LOOKS]) and slip.shutter_s >= LONG_FROM_S)


def _ordinary_frame(plan: Plan) -> Iterator[RunStep]:
    if _is_long_run(plan) and light_source(plan.brief) not in DIALLED_ONCE:
        detail = "Same position, on auto, without filter: to compare and as a backup"
        yield RunStep("ordinary", "shoot", "Shoot one ordinary frame first", detail=detail)


def shooting(plan: Plan) -> Iterator[RunStep]:
    """The steps of shooting: an ordinary frame first where it is long, then each exposure."""
    if plan.slip is None:
        return
    yield from _ordinary_frame(plan)
    iso, shutter_s = plan.slip.iso, plan.slip.shutter_s
    timer_s = _timer_s(plan)
    exposures = plan.dialled.exposures
    if len(exposures) > 1 and (is_bracketed(plan.brief) or is_blended(plan.brief)):
        yield from _bracketed(plan, timer_s)
        return
    frames, burst = plan.brief[FRAMES], plan.brief[HOLD].burst
    label, watched_s = steps_label(iso, shutter_s), _watched_s(shutter_s)
    if frames.count > 1 and frames.combine == "series" and frames.ramp_stops_min:
        yield from _ramped(plan, timer_s)
        return
    if frames.count > 1:
        every_s = shutter_s + frames.gap_s
        yield RunStep(
            "shoot",
            "shoot",
            f"{frames.count} frames in a row",
            value=label,
            detail=_totals(plan, shutter_s, every_s),
            wait_s=timer_s,
            expose_s=watched_s,
            frames=frames.count,
            every_s=every_s,
            remind_s=remind_s(plan),
        )
        return
    words = "Shoot" if burst == 1 else f"Burst of {burst}"
    yield RunStep("shoot", "shoot", words, value=label, wait_s=timer_s, expose_s=watched_s)


def _bracketed(plan: Plan, timer_s: float | None) -> Iterator[RunStep]:
    exposures, frames = plan.dialled.exposures, plan.brief[FRAMES]
    for place, exposure in enumerate(exposures):
        lines = {line.field: line for line in exposure.settings}
        longest_s = float(lines["shutter_s"].value)
        yield RunStep(
            f"shoot-{place}",
            "shoot",
            f"Frame {place + 1} of {len(exposures)}",
            value=steps_label(float(lines["iso"].value), longest_s),
            wait_s=timer_s,
            expose_s=_watched_s(longest_s),
        )
        if place == 0 and frames.second_filters and is_blended(plan.brief):
            names = listed([worn.name for worn in frames.second_filters])
            yield RunStep(
                "second-filter", "shoot", "Put the filter on and touch nothing else", value=names
            )


def _ramped(plan: Plan, timer_s: float | None) -> Iterator[RunStep]:
    """A series in light that changes: the steps it goes through, each with its frames."""
    steps = ramp_steps(plan)
    for place, step in enumerate(steps):
        after = "" if place == 0 else f", {time_label(step.at_s)} from the start"
        span = (
            f"Frame {step.first}"
            if step.first == step.last
            else f"Frames {step.first} to {step.last}"
        )
        yield RunStep(
            f"ramp-{place}",
            "shoot",
            f"{span}{after}",
            value=steps_label(step.iso, step.shutter_s),
            detail="" if place else f"{len(steps)} settings in total as the light changes",
            wait_s=timer_s if place == 0 else None,
            expose_s=_watched_s(step.shutter_s),
            frames=step.last - step.first + 1,
            every_s=step.shutter_s + plan.brief[FRAMES].gap_s,
        )


def _totals(plan: Plan, shutter_s: float, every_s: float) -> str:
    """Time, storage and battery of a series, as far as they are known."""
    count = plan.brief[FRAMES].count
    rate = plan.brief.phone.handling.battery_percent_per_min
    cost = set_cost(
        open_s=count * shutter_s,
        sub_s=shutter_s,
        gap_s=every_s - shutter_s,
        frame=FrameCost(plan.brief.mode.files.frame_mb(plan.brief[FORMAT]), rate or 0.0),
        free_megabytes=math.inf,
    )
    parts = [time_label(cost.last_close_s), f"{two_digits(cost.megabytes)} MB"]
    if rate:
        parts.append(f"{two_digits(cost.battery_percent)} % of the battery")
    return f"{counted(count, 'frame')} every {time_label(every_s)}: {', '.join(parts)}"


def _watched_s(shutter_s: float) -> float | None:
    return shutter_s if shutter_s >= COUNTED_FROM_S else None


def _timer_s(plan: Plan) -> float | None:
    handling = plan.brief.phone.handling
    if plan.brief[SUPPORT] == "handheld" or handling.remote:
        return None
    wanted = 2.0 if plan.brief[SUPPORT] == "tripod" else 5.0
    return next((timer_s for timer_s in sorted(handling.timers_s) if timer_s >= wanted), None)
