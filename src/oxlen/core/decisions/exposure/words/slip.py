"""Why: the one reason for each value of the exposure, in words."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import DRAWING, LENS_FILTERS, STRATEGY, iso_strategy
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.exposure.words.aim import aim_sentences
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import ISO, SHUTTER, Axis, Concern, Limit
from oxlen.core.decisions.solver.aim import Aim
from oxlen.core.decisions.solver.conflict import Conflict, Side
from oxlen.core.decisions.solver.outcome import (
    SHOWN_STOPS,
    SpotOutcome,
    give_or_take,
    main_miss,
)
from oxlen.core.decisions.solver.search import ExposureSlip, Search
from oxlen.core.decisions.solver.solution import Solution
from oxlen.core.decisions.solver.tones import wanted_tones
from oxlen.core.labels import (
    amount_label,
    ev_label,
    listed,
    sentence_case,
    shutter_label,
    stops_label,
    time_label,
)
from oxlen.core.motion.drawing import longest_black_s

SHUTTER_REASONS = (
    Concern.DRAWING,
    Concern.SHOWING,
    Concern.SKY,
    Concern.FREEZING,
    Concern.LAMPS,
    Concern.HOLDING,
)
"""What gives the shutter its reason, the most telling first."""
STEP_STOPS = 0.5
"""A shutter nearer to its limit than this counts as at it."""
FAR_STOPS = 2.6
"""A shutter further inside its limit than this was not decided by it."""
MUCH_CLIPPED_SHARE = 0.03
"""A viewer sees at once when more of the frame than this clips, whatever the spots say."""
NO_AMOUNT_STOPS = 20.0
"""No light bridges a gap so wide."""


@dataclass(frozen=True)
class Reason:
    """Why a setting has its value: the value, the limit or rule behind it, the sentence."""

    value: str
    because: str
    text: str


def exposure_reason(brief: Brief, aim: Aim) -> Reason:
    """Why the picture is exposed as it is."""
    return Reason("exposure", brief[STRATEGY].exposure, " ".join(aim_sentences(brief, aim)))


def residual_words(residual_stops: float) -> str:
    """How a pair of steps errs against the exposure planned, in words.

    >>> residual_words(-0.3), residual_words(0.01)
    ('0.3 stop darker than planned', 'on the planned exposure')
    """
    if abs(residual_stops) < 0.05:
        return "on the planned exposure"
    side = "brighter" if residual_stops > 0 else "darker"
    return f"{stops_label(residual_stops)} {side} than planned"


def outcome_words(spots: Sequence[SpotOutcome], clipped_share: float | None = None) -> str:
    """What matters most about where the spots land, and whether much of the frame clips."""
    first = main_miss(spots)
    if first is None:
        return ""
    words = first.words
    if len(spots) > 1 and all(abs(spot.misses_stops) < SHOWN_STOPS for spot in spots):
        doubt = max((spot.plus_minus_stops or 0.0 for spot in spots), default=0.0)
        words = f"Every spot as wanted{give_or_take(doubt)}."
    if clipped_share is None or clipped_share < MUCH_CLIPPED_SHARE:
        return words
    return f"{words.rstrip('.')}, but {clipped_share:.0%} of the frame clips."


def needs_words(conflict: Conflict) -> str:
    """What would have to change for a conflict to go away, and by how much."""
    if conflict.short_by_stops <= 0 or conflict.short_by_stops > NO_AMOUNT_STOPS:
        return "Change one of them."
    amount = amount_label(conflict.short_by_stops)
    return {
        Side.DARK: f"The picture needs {amount} more light, time or ISO than these allow.",
        Side.BRIGHT: f"The picture needs {amount} less light: a filter or dimmer lamps.",
        Side.TONES: f"The light on the two must be {amount} closer.",
        Side.STEPS: f"The two limits must be {amount} closer.",
    }[conflict.side]


GIVEN_UP_WORDS: Mapping[Concern, str] = {
    Concern.HOLDING: "shaken",
    Concern.FREEZING: "blurred by motion",
    Concern.SHOWING: "without the motion blur you wanted",
    Concern.SKY: "with trailed stars",
    Concern.DRAWING: "with a drawing cut short",
    Concern.LAMPS: "with flicker bands",
    Concern.NOISE: "noisier than wanted",
    Concern.TONES: "with the brightest detail clipped",
    Concern.PLACING: "off your wanted tone",
    Concern.OWN_CHOICE: "at an ISO you excluded",
}


def compromise_words(limits: Iterable[Limit], gives_up_stops: Mapping[str, float]) -> str:
    """What the picture that gives up least would look like."""
    given_up = [
        f"{GIVEN_UP_WORDS[limit.kind.concern]} ({stops_label(gives_up_stops[limit.id])})"
        for limit in limits
        if limit.id in gives_up_stops and limit.kind.concern in GIVEN_UP_WORDS
    ]
    if not given_up:
        return "The exposure would not be what you wanted."
    return f"The picture would be {listed(list(dict.fromkeys(given_up)))}."


def iso_reason(solution: Solution, slip: ExposureSlip) -> Reason:
    """Why this ISO."""
    brief = solution.search.brief
    steps, device = brief.mode.manual.iso, _device(solution, ISO)
    fixed = _fixed(solution, ISO)
    if fixed is not None and slip.iso == fixed.high:
        as_asked = brief[STRATEGY].iso_fixed == slip.iso
        return Reason(ISO, fixed.id, "Your choice" if as_asked else "Nearest to your ISO")
    if slip.iso == steps[0]:
        return Reason(ISO, device, "Lowest of this phone: least noise")
    ceiling = deciding(solution, ISO)
    if ceiling is not None and slip.iso == _top_below(brief, ceiling.high):
        own = ceiling.is_about(Concern.OWN_CHOICE)
        return Reason(ISO, ceiling.id, "Your ISO cap" if own else sentence_case(ceiling.high_words))
    if slip.iso == steps[-1]:
        return Reason(ISO, device, "Highest of this phone")
    return _raised_iso_reason(solution, slip)


def _raised_iso_reason(solution: Solution, slip: ExposureSlip) -> Reason:
    search, limit = solution.search, _longest(solution)
    strategy = iso_strategy(search.brief)
    shutter = shutter_label(slip.shutter_s)
    if limit is None or limit.high is None:
        if strategy == "shutter_first":
            return Reason(ISO, strategy, f"For {shutter}")
        words = f"Lowest that reaches the exposure: {shutter}"
        return Reason(ISO, _device(solution, SHUTTER), words)
    inside = math.log2(limit.high / slip.shutter_s)
    if inside > FAR_STOPS:
        return Reason(ISO, _device(solution, ISO), "Nearest step to the exposure")
    if inside < STEP_STOPS:
        most = time_label(limit.high)
        words = f"Lowest that keeps {most} of “{limit.name}”"
        return Reason(ISO, limit.id, words)
    if strategy == "shutter_first":
        return Reason(ISO, strategy, f"For {shutter}")
    words = f"{shutter}, {stops_label(inside)} inside “{limit.name}”"
    return Reason(ISO, strategy, words)


def _longest(solution: Solution) -> Limit | None:
    """The tightest bound on how long the shutter may be, the phone's own left out."""
    bounds = [
        limit
        for limit in solution.search.limits
        if limit.axis == SHUTTER and not limit.is_device and limit.high is not None
    ]
    return min(bounds, key=lambda limit: limit.high or 0.0, default=None)


def shutter_reason(solution: Solution, slip: ExposureSlip) -> Reason:
    """Why this shutter."""
    search = solution.search
    brief, strategy = search.brief, iso_strategy(search.brief)
    asked, shutter_first = brief[STRATEGY].shutter_s, strategy == "shutter_first"
    if shutter_first and asked:
        return Reason(SHUTTER, strategy, f"Nearest possible to {shutter_label(asked)}")
    reported = _own_reason(solution, slip)
    if reported is not None:
        return reported
    words = f"ISO {slip.iso:g} needs {shutter_label(slip.shutter_s)}"
    longest = _longest(solution)
    if longest is not None and longest.is_about(Concern.FREEZING):
        return Reason(SHUTTER, longest.id, f"{words}, {longest.name.replace('freeze', 'freezes')}")
    if brief[LENS_FILTERS]:
        words += f" through {listed([lens_filter.name for lens_filter in brief[LENS_FILTERS]])}"
    else:
        words += f" at {ev_label(search.aim.ev100)}"
    return Reason(SHUTTER, brief[STRATEGY].exposure, words)


def _bound_words(limit: Limit, shutter_s: float) -> str:
    """A limit of the shutter in a few words; how it follows opens with the limit itself."""
    name = sentence_case("safe shutter" if limit.is_about(Concern.HOLDING) else limit.name)
    if limit.high is None:
        return f"{name}: {time_label(limit.low or shutter_s)} at least"
    inside = math.log2(limit.high / shutter_s)
    margin = " at most" if inside < STEP_STOPS else f", {stops_label(inside)} spare"
    return f"{name}: {time_label(limit.high)}{margin}"


def _own_reason(solution: Solution, slip: ExposureSlip) -> Reason | None:
    """The shutter's reason by the limit that one would speak of first; None where none decided."""
    limit = _always_worded(solution) or _telling(solution)
    if limit is None:
        limit = _kept_inside(solution, slip)
    if limit is None:
        return None
    if limit.is_about(Concern.LAMPS):
        words = f"{shutter_label(slip.shutter_s)} matches the lamps: no flicker"
    elif limit.is_about(Concern.DRAWING):
        words = _drawing_words(solution.search, slip)
    elif limit.is_about(Concern.SHOWING) and limit.low and limit.high:
        words = f"Between {time_label(limit.low)} and {time_label(limit.high)}: {limit.name}"
    else:
        words = _bound_words(limit, slip.shutter_s)
    return Reason(SHUTTER, limit.id, words)


def _always_worded(solution: Solution) -> Limit | None:
    """A drawing, or a look with both its ends: what the shutter is for, whatever decided."""
    limits = solution.search.limits
    drawn = [limit for limit in limits if limit.is_about(Concern.DRAWING)]
    shown = [limit for limit in limits if limit.is_about(Concern.SHOWING)]
    return next(iter([*drawn, *(look for look in shown if look.low and look.high)]), None)


def _kept_inside(solution: Solution, slip: ExposureSlip) -> Limit | None:
    """What a shutter was kept well inside of by choice: what the hand holds, or what freezes."""
    limit, strategy = _longest(solution), iso_strategy(solution.search.brief)
    lowest = solution.search.brief.mode.manual.iso[0]
    if limit is None or limit.high is None or strategy == "floor" or slip.iso == lowest:
        return None
    return limit if math.log2(limit.high / slip.shutter_s) <= FAR_STOPS else None


def _drawing_words(search: Search, slip: ExposureSlip) -> str:
    """The drawing's time, and how long the background would stay black."""
    drawing = search.brief[DRAWING] or Drawing()
    ground = max(reading.ev100 for reading in search.brief.readings)
    level = ground - slip.ev100_set
    black = min(drawing.ambient_black_stops, *(x.stops for x in wanted_tones(search.brief)))
    longest = float(longest_black_s(slip.shutter_s, level, black))
    words = f"Drawing takes {time_label(drawing.takes_s)}"
    if longest < slip.shutter_s:
        return f"{words}, background black only {time_label(longest)}"
    return f"{words}, background black until {time_label(longest)}"


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
    ranked = (limit for kind in SHUTTER_REASONS for limit in decided if limit.is_about(kind))
    return next(ranked, None)


def _device(solution: Solution, axis: Axis) -> str:
    limits = solution.search.limits
    return next(limit.id for limit in limits if limit.is_device and limit.axis == axis)


def _fixed(solution: Solution, axis: Axis) -> Limit | None:
    """A limit that leaves one step of an axis and no other."""
    limits = solution.search.limits
    return next(
        (limit for limit in limits if limit.axis == axis and limit.low == limit.high is not None),
        None,
    )


def _top_below(brief: Brief, cap: float | None) -> float | None:
    below = [iso for iso in brief.mode.manual.iso if cap is not None and iso <= cap * (1 + 1e-9)]
    return below[-1] if below else None
