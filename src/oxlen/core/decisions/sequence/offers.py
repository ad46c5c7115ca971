"""Ways out that take several frames: averaged against noise or for ND, or bracketed."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from itertools import chain

from oxlen.core.decisions.exposure.ask import (
    DRAWING,
    FORMAT,
    LENS_FILTERS,
    LOOKS,
    MOTION,
    SKY,
    STRATEGY,
    SUPPORT,
)
from oxlen.core.decisions.exposure.shown_in_frames import (
    frames_merge,
    median_of,
    shows_in_frames,
)
from oxlen.core.decisions.framework.brief import NEUTRAL, SUBJECT, Brief
from oxlen.core.decisions.framework.limit import Concern
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.sequence.ask import (
    FRAMES,
    frames_averaged,
    frames_shot,
    is_bracketed,
    is_median,
)
from oxlen.core.decisions.sequence.bracket import bracket_of
from oxlen.core.decisions.solver.conflict import Conflict, Side, short_of_light_stops, touches
from oxlen.core.decisions.solver.outcome import SpotState
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.solver.strategy import nearest_index
from oxlen.core.decisions.trade import Trade
from oxlen.core.hold.hand import Support
from oxlen.core.labels import shutter_label, stops_label, time_label, two_digits

MOST_FRAMES = 64
MOST_FRAMES_BY_SUPPORT: Mapping[Support, int] = {
    "handheld": 8,
    "braced": 16,
    "tripod": MOST_FRAMES,
}
MOST_BRACKETED = 9
LEAST_LIFT_STOPS, MOST_STACK_LIFT_STOPS = 0.1, 4.0
SPARE_STOPS = 0.1
SPAN_SPARE = 1.2


def sequence_offers(search: Search, conflict: Conflict | None) -> Iterable[Offer]:
    """Several frames instead of one."""
    return chain(
        _averaged_for_noise(search, conflict),
        _averaged_for_streaks(search, conflict),
        _median(search, conflict),
        _single_frame(search, conflict),
        _bracketed(search, conflict),
    )


def _averaged_for_noise(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    brief, frames = search.brief, search.brief[FRAMES]
    if conflict is None or frames_averaged(brief) > 1 or is_bracketed(brief):
        return
    if moves(brief):
        # What moves is in another place in every frame.
        return
    if conflict.side is not Side.DARK and not touches(conflict, Concern.NOISE):
        return
    count = math.ceil(2.0 ** (conflict.short_by_stops + SPARE_STOPS))
    if not 2 <= count <= most_frames(brief):
        return
    many = brief.asking(FRAMES, replace(frames, count=count))
    if brief[SKY] is None:
        cost = f"{count} frames to align and average; nothing may move between them"
        yield Offer("frames", f"Average {count} frames", cost, brief=many, tier=Tier.SEVERAL_FRAMES)
    yield from _stacked_and_lifted(search, conflict, many)


def _stacked_and_lifted(search: Search, conflict: Conflict, many: Brief) -> Iterator[Offer]:
    """Frames too dark by themselves, whose sum is as clean as one long enough would have been."""
    brief = search.brief
    lift = round(short_of_light_stops(search), 2)
    in_all = brief[STRATEGY].lift_stops + lift
    if conflict.side is not Side.DARK or lift < LEAST_LIFT_STOPS or in_all > MOST_STACK_LIFT_STOPS:
        return
    strategy = replace(brief[STRATEGY], lift_stops=in_all)
    raw = many if many[FORMAT] != "processed" else many.asking(FORMAT, "raw")
    count = many[FRAMES].count
    aligned = ", aligned on the stars" if brief[SKY] is not None else ""
    cost = f"RAW files, averaged{aligned} and brightened {stops_label(lift)} in development"
    yield Offer(
        "stack",
        f"Stack {count} frames and brighten them afterwards",
        cost,
        brief=raw.asking(STRATEGY, strategy),
        tier=Tier.SEVERAL_FRAMES,
    )


def moves(brief: Brief) -> bool:
    """Whether something moves, so that no two frames are alike."""
    return bool(brief[MOTION]) or bool(brief[LOOKS])


def most_frames(brief: Brief) -> int:
    """How many frames a support holds still enough to be aligned."""
    return MOST_FRAMES_BY_SUPPORT[brief[SUPPORT]]


def _averaged_for_streaks(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Frames enough that their whole span draws the streak, gaps included, where they merge.

    See `motion.less_light` for averaged frames, `motion.looks` for what merges.
    """
    brief, frames = search.brief, search.brief[FRAMES]
    if conflict is None or not touches(conflict, Concern.SHOWING) or not brief[LOOKS]:
        return
    if conflict.side is Side.DARK or frames_averaged(brief) > 1 or is_bracketed(brief):
        return
    # What shall be frozen would show once in every frame.
    if brief[SUPPORT] != "tripod" or brief[MOTION]:
        return
    shown = (bound for bound in search.limits if bound.is_about(Concern.SHOWING) and bound.low)
    limit, lowest_iso = next(shown, None), search.pairs.where(search.pairs.row == 0)
    index = nearest_index(lowest_iso)
    if limit is None or index is None:
        return
    each_s, gap_s = float(lowest_iso.shutter_s[index]), frames.gap_s
    count = math.ceil((SPAN_SPARE * (limit.low or 0) + gap_s) / (each_s + gap_s))
    if not 2 <= count <= MOST_FRAMES:
        return
    between_m = two_digits(float(brief[LOOKS][0].mover.speed_m_s) * gap_s)
    cost = (
        f"on a tripod, {gap_s:g} s between frames; {brief[LOOKS][0].spoken} runs {between_m} m in "
        "each gap and merges"
    )
    instead = "" if brief[LENS_FILTERS] else " instead of an ND filter"
    text = f"Average {count} frames of {shutter_label(each_s)}{instead}"
    many = brief.asking(FRAMES, replace(frames, count=count))
    if all(frames_merge(many, look) for look in brief[LOOKS]):
        yield Offer("computed_nd", text, cost, brief=many, tier=Tier.SEVERAL_FRAMES)


def _median(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """A median of frames, where all that shows motion is to vanish. See `frames.passing`."""
    brief, frames = search.brief, search.brief[FRAMES]
    if conflict is None or not brief[LOOKS] or brief[SUPPORT] != "tripod" or brief[MOTION]:
        return
    many = median_of(brief)
    if many is None or many[FRAMES].count > MOST_FRAMES:
        return
    count, gap_s = many[FRAMES].count, many[FRAMES].gap_s
    if is_median(brief) and count <= frames.count:
        return
    text = f"Median of {count} frames, one every {time_label(gap_s)}"
    cost = f"from a tripod; {brief[LOOKS][0].spoken} is gone, whoever stands still stays"
    yield Offer("median", text, cost, brief=many, tier=Tier.SEVERAL_FRAMES)


def _single_frame(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """One frame where several would only show copies of what moves."""
    brief = search.brief
    if frames_shot(brief) == 1 or not touches(conflict, Concern.SHOWING):
        return
    if all(shows_in_frames(brief, look) for look in brief[LOOKS]):
        return
    one_frame = brief.asking(FRAMES, replace(brief[FRAMES], count=1, combine="average"))
    cost = "its shutter must last as long as the motion"
    yield Offer("one-frame", "Shoot one frame", cost, brief=one_frame, tier=Tier.STEADIER)


def _bracketed(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Several exposures, so that every spot has a frame of its own."""
    brief = search.brief
    if is_bracketed(brief) or not touches(conflict, Concern.TONES, Concern.NOISE, Concern.PLACING):
        return
    if not any(reading.role in (SUBJECT, NEUTRAL) for reading in brief.readings):
        return
    bracket = bracket_of(brief)
    if not 2 <= bracket.count <= MOST_BRACKETED:
        return
    if moves(brief) or brief[DRAWING] is not None:
        return
    text = f"Bracket {bracket.count} frames, up to {stops_label(bracket.step_stops)} apart"
    many = brief.asking(FRAMES, replace(brief[FRAMES], combine="bracket"))
    cost = "tripod or firm support, nothing moving, merge afterwards"
    yield Offer("bracket", text, cost, brief=many, tier=Tier.TONES, reword=_bracket_reworded)


def _bracket_reworded(trade: Trade) -> Trade | None:
    """Only where every spot does get the tone asked of it in one of the frames."""
    fine = (SpotState.AS_ASKED, SpotState.GIVEN_UP)
    return trade if all(spot.state in fine for spot in trade.outcome) else None
