"""A long exposure on one axis of seconds: what shows when, what phone and light allow, the ways."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Literal

import numpy as np
from pydantic import BaseModel

from oxlen.core.decisions.exposure.ask import DRAWING, LOOKS
from oxlen.core.decisions.exposure.limits.show import look_name
from oxlen.core.decisions.exposure.motion_ask import ShownMotion
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.decisions.sequence.own_filter import own_filters
from oxlen.core.frames.gain import noise_gain_stops
from oxlen.core.labels import counted, sentence_case, stops_label, time_label, two_digits
from oxlen.core.long_exposure.time_shown import (
    has_vanished,
    left_share,
    ripple_periods,
    streak_share,
)
from oxlen.core.long_exposure.way import Way, light_allows_s
from oxlen.core.long_exposure.ways import (
    MOST_FRAMES,
    Wanted,
    one_frame,
    wanted_time,
    ways,
)
from oxlen.core.motion.drawing import background_stops
from oxlen.core.motion.looks import RIPPLE_PERIODS, LookId, look_of, vanishing_shutter_s

SHORTEST_S, LONGEST_S, SAMPLES = 0.01, 3600.0, 111
SAME_STOPS = 0.05
LOOKS_OF_WATER: tuple[LookId, ...] = ("texture", "soft", "glass")
LaneKind = Literal["phone", "light", "frames", "look", "wanted", "backdrop"]


class Lane(BaseModel):
    """A stretch of time with its name; None = no end on that side."""

    name: str
    kind: LaneKind
    from_s: float | None
    to_s: float | None
    words: str


class TimeSample(BaseModel):
    """What a time in all gives, in words: streak, ripples, what is left, frames, noise."""

    time_s: float
    label: str
    words: list[str]


class WayView(BaseModel):
    """A way to the time, in words and figures."""

    id: str
    name: str
    reaches: bool
    why_not: str
    carry: str
    exposure: str
    iso: float | None
    lens: str
    elapsed_s: float | None
    in_all: str
    shows: str
    snr: float | None
    megabytes: float | None
    battery_percent: float | None


class LongTimeView(BaseModel):
    """The long time of a sheet; without a look there is nothing to compare."""

    look: str
    wanted_low_s: float | None
    wanted_high_s: float | None
    wanted: str
    lanes: list[Lane]
    samples: list[TimeSample]
    ways: list[WayView]


def long_time(brief: Brief) -> tuple[LongTimeView, tuple[Way, ...]]:
    """All there is to say about the long time of a brief, and the ways themselves."""
    wanted = wanted_time(brief)
    if wanted is None:
        return _nothing(), ()
    decided, look = plan(one_frame(brief)), brief[LOOKS][0]
    found = ways(brief)
    low, high = wanted.low_s, wanted.high_s
    view = LongTimeView(
        look=sentence_case(look_name(look)),
        wanted_low_s=low,
        wanted_high_s=high,
        wanted=_span(low, high),
        lanes=list(_lanes(decided, look, wanted)),
        samples=[_sample(decided, look, float(time_s)) for time_s in _times()],
        ways=[_way(route, look) for route in found],
    )
    return view, found


def _nothing() -> LongTimeView:
    return LongTimeView(
        look="", wanted_low_s=None, wanted_high_s=None, wanted="", lanes=[], samples=[], ways=[]
    )


def _times() -> Iterator[float]:
    yield from np.geomspace(SHORTEST_S, LONGEST_S, SAMPLES).tolist()


def _span(low: float | None, high: float | None) -> str:
    if low is None:
        return "any time" if high is None else f"up to {time_label(high)}"
    if high is None:
        return f"from {time_label(low)} on"
    return f"{time_label(low)} to {time_label(high)}"


def _lanes(decided: Plan, look: ShownMotion, wanted: Wanted) -> Iterator[Lane]:
    brief, ladder = decided.brief, decided.brief.mode.manual.shutter_s
    yield _lane("Wanted", "wanted", wanted.low_s, to_s=wanted.high_s)
    yield from _look_lanes(brief, look)
    yield _lane("One frame of this phone", "phone", ladder[0], to_s=ladder[-1])
    allowed = light_allows_s(decided)
    yield _lane("Light at lowest ISO", "light", None, to_s=allowed)
    for mode in own_filters(brief):
        yield _lane(sentence_case(mode.name), "phone", mode.shortest_s, to_s=mode.longest_s)
    each = min(allowed, ladder[-1])
    yield _lane(f"2 to {MOST_FRAMES} frames", "frames", 2 * each, to_s=MOST_FRAMES * each)
    drawing = brief[DRAWING]
    if drawing is not None:
        level = _backdrop(decided, 1.0)
        if level is not None:
            longest = 2.0 ** (drawing.ambient_black_stops - level)
            yield _lane("The background stays black", "backdrop", None, to_s=longest)


def _look_lanes(brief: Brief, look: ShownMotion) -> Iterator[Lane]:
    if look.look == "vanish":
        width, speed = float(look.in_force("width_m")), float(look.mover.speed_m_s)
        gone = float(vanishing_shutter_s(width, speed, look.background_stops))
        yield _lane("It disappears", "look", gone, to_s=None)
        return
    second = streak_share(brief, look, 1.0)
    for look_id in LOOKS_OF_WATER if look.look in LOOKS_OF_WATER else (look.look,):
        shares = look_of(look_id)
        low, high = (
            None if share is None or second is None else share / second
            for share in (shares.share_min, shares.share_max)
        )
        periods = ripple_periods(look, 1.0)
        if periods and look_id in RIPPLE_PERIODS and low is not None:
            low = min(low, RIPPLE_PERIODS[look_id] / periods)
        yield _lane(shares.name, "look", low, to_s=high)


def _lane(name: str, kind: LaneKind, from_s: float | None, *, to_s: float | None) -> Lane:
    return Lane(name=name, kind=kind, from_s=from_s, to_s=to_s, words=_span(from_s, to_s))


def _sample(decided: Plan, look: ShownMotion, time_s: float) -> TimeSample:
    return TimeSample(
        time_s=time_s, label=time_label(time_s), words=list(_sample_words(decided, look, time_s))
    )


def _sample_words(decided: Plan, look: ShownMotion, time_s: float) -> Iterator[str]:
    brief = decided.brief
    yield from _shown_words(brief, look, time_s)
    allowed = light_allows_s(decided)
    stops = math.log2(time_s / allowed)
    if stops <= 0:
        yield _raised(brief, -stops)
    else:
        frames = math.ceil(time_s / min(allowed, brief.mode.manual.shutter_s[-1]))
        gain = stops_label(noise_gain_stops("mean", frames))
        many = f", or {frames} frames with {gain} lower noise" if frames <= MOST_FRAMES else ""
        yield f"ND of {stops_label(stops)}{many}"
    level = None if brief[DRAWING] is None else _backdrop(decided, time_s)
    if level is not None:
        yield f"The background is {stops_label(abs(level))} {'under' if level < 0 else 'over'} mid"


def _raised(brief: Brief, stops: float) -> str:
    """One frame shorter than the light asks for, by what ISO makes up for as far as it goes."""
    ladder = brief.mode.manual.iso
    reach = math.log2(ladder[-1] / ladder[0])
    if stops <= SAME_STOPS:
        return "One frame"
    if stops <= reach + SAME_STOPS:
        return f"One frame, ISO raised by {stops_label(stops)}"
    return f"Too dark: {stops_label(stops - reach)} under at ISO {ladder[-1]:g}"


def _backdrop(decided: Plan, time_s: float) -> float | None:
    """Where the background of a drawing lands after a time, at the lowest ISO."""
    brief = decided.brief
    ambient = [reading.ev100 for reading in brief.readings]
    if not ambient:
        return None
    iso = brief.mode.manual.iso[0]
    return float(background_stops(max(ambient), brief.lens.f_number, time_s, iso=iso))


def _shown_words(brief: Brief, look: ShownMotion, time_s: float) -> Iterator[str]:
    left = left_share(look, time_s)
    if left is not None:
        gone = (
            "gone" if has_vanished(left) else (f"{two_digits(100 * left)} % of it is still visible")
        )
        yield f"{sentence_case(look.spoken)}: {gone}"
        return
    share, periods = streak_share(brief, look, time_s), ripple_periods(look, time_s)
    if share is not None:
        length = f"{two_digits(100 * share)} % of" if share < 2 else f"{two_digits(share)} times"
        yield f"A streak of {length} the frame’s height"
    if periods is not None and periods >= 0.1:
        yield f"{two_digits(periods)} ripples pass"


def _way(way: Way, look: ShownMotion) -> WayView:
    elapsed = way.elapsed_s or 0.0
    return WayView(
        id=way.id,
        name=way.name,
        reaches=way.reaches,
        why_not=way.why_not,
        carry=way.carry,
        exposure=_exposure(way),
        iso=way.iso,
        lens=way.lens,
        elapsed_s=way.elapsed_s,
        in_all=time_label(elapsed),
        shows="; ".join(_shown_words(way.brief, look, elapsed)),
        snr=way.snr,
        megabytes=way.megabytes,
        battery_percent=way.battery_percent,
    )


def _exposure(way: Way) -> str:
    """Shutter and count of a way, as people say it."""
    if way.shutter_s is None:
        return "no slip"
    each = time_label(way.shutter_s)
    return each if way.frames == 1 else f"{counted(way.frames, 'frame')} of {each}"
