"""Why: the one reason for each value of the exposure, in words."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.exposure.aim import Aim
from oxlen.core.decisions.exposure.ask import GLASS, STRATEGY, iso_strategy
from oxlen.core.decisions.exposure.search import ExposureSlip
from oxlen.core.decisions.exposure.solution import Solution
from oxlen.core.decisions.exposure.strategy import preference_of
from oxlen.core.decisions.limit import ISO, SHUTTER, Axis, Concern, Limit
from oxlen.core.labels import ev_label, shutter_label, stops_label

SHUTTER_REASONS = (Concern.SHOWING, Concern.FREEZING, Concern.LAMPS, Concern.HOLDING)
"""What gives the shutter its reason, the most telling first."""


@dataclass(frozen=True)
class Reason:
    """Why a value came out as it did: the value, the limit or rule behind it, the sentence."""

    value: str
    because: str
    text: str


def exposure_reason(brief: Brief, aim: Aim) -> Reason:
    """Why the picture is exposed as it is."""
    return Reason("exposure", brief[STRATEGY].exposure, " ".join(aim.sentences))


def residual_words(residual_stops: float) -> str:
    """How the slip errs, in words.

    >>> residual_words(-0.3), residual_words(0.01)
    ('0.3 stop darker than wanted', 'on the wanted exposure')
    """
    if abs(residual_stops) < 0.05:
        return "on the wanted exposure"
    side = "brighter" if residual_stops > 0 else "darker"
    return f"{stops_label(residual_stops)} {side} than wanted"


def iso_reason(solution: Solution, slip: ExposureSlip) -> Reason:
    """Why this ISO."""
    brief = solution.search.brief
    steps, device = brief.mode.manual.iso, _device(solution, ISO)
    fixed = _fixed(solution, ISO)
    if fixed is not None and slip.iso == fixed.high:
        return Reason(ISO, fixed.id, _lower_first(fixed.reason))
    if slip.iso == steps[0]:
        return Reason(ISO, device, "the lowest this phone has, for the least noise")
    ceiling = deciding(solution, ISO)
    if ceiling is not None and slip.iso == _top_below(brief, ceiling.high):
        own = ceiling.is_about(Concern.OWN_CHOICE)
        words = "as high as your cap allows" if own else _lower_first(ceiling.reason)
        return Reason(ISO, ceiling.id, words)
    if slip.iso == steps[-1]:
        return Reason(ISO, device, "the highest this phone has")
    return _raised_iso_reason(solution)


def _raised_iso_reason(solution: Solution) -> Reason:
    strategy, longest = iso_strategy(solution.search.brief), deciding(solution, SHUTTER)
    if strategy == "shutter_first":
        return Reason(ISO, strategy, "whatever the shutter you put first asks for")
    if longest is None:
        words = "the lowest the shutter range leaves room for"
        return Reason(ISO, _device(solution, SHUTTER), words)
    if strategy == "ceiling":
        return Reason(ISO, strategy, f"raised to keep the shutter well inside “{longest.name}”")
    most = shutter_label(longest.high or 1)
    return Reason(ISO, longest.id, f"the lowest that keeps the shutter at {most} or shorter")


def shutter_reason(solution: Solution, slip: ExposureSlip) -> Reason:
    """Why this shutter."""
    search = solution.search
    brief, strategy = search.brief, iso_strategy(search.brief)
    asked, shutter_first = brief[STRATEGY].shutter_s, strategy == "shutter_first"
    if shutter_first and asked:
        words = f"the nearest to {shutter_label(asked)} that the light and this phone allow"
        return Reason(SHUTTER, strategy, words)
    limit = _telling(solution)
    if limit is not None:
        return Reason(SHUTTER, limit.id, _lower_first(limit.reason))
    liked = preference_of(brief, search.limits).liked_shutter_s
    if shutter_first and liked:
        words = f"the nearest to {shutter_label(liked)}, a stop inside the blur limit"
        return Reason(SHUTTER, strategy, words)
    words = f"what ISO {slip.iso:g} needs for {ev_label(search.aim.ev100)}"
    if brief[GLASS]:
        words += f" through {' and '.join(glass.name for glass in brief[GLASS])}"
    return Reason(SHUTTER, brief[STRATEGY].exposure, words)


def deciding(solution: Solution, axis: Axis) -> Limit | None:
    """The tightest upper bound on an axis among those that decided, the device's own left out."""
    bounds = [
        limit
        for limit in solution.search.limits
        if limit.axis == axis
        and limit.id in solution.binding
        and not limit.is_device
        and limit.high is not None
    ]
    return min(bounds, key=lambda limit: limit.high or 0.0, default=None)


def _telling(solution: Solution) -> Limit | None:
    """The limit that decided the shutter, as one would say it first."""
    decided = [limit for limit in solution.search.limits if limit.id in solution.binding]
    return next((one for about in SHUTTER_REASONS for one in decided if one.is_about(about)), None)


def _device(solution: Solution, axis: Axis) -> str:
    limits = solution.search.limits
    return next(limit.id for limit in limits if limit.is_device and limit.axis == axis)


def _fixed(solution: Solution, axis: Axis) -> Limit | None:
    """A limit that leaves one step of an axis and no other."""
    limits = solution.search.limits
    return next(
        (one for one in limits if one.axis == axis and one.low == one.high is not None), None
    )


def _top_below(brief: Brief, cap: float | None) -> float | None:
    below = [iso for iso in brief.mode.manual.iso if cap is not None and iso <= cap * (1 + 1e-9)]
    return below[-1] if below else None


def _lower_first(sentence: str) -> str:
    return sentence[0].lower() + sentence[1:]
