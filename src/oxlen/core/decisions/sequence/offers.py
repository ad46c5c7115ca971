"""Ways out that take several frames: averaged against noise or for dark glass, or bracketed."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import replace
from itertools import chain

from oxlen.core.decisions.brief import KEEP_BRIGHT
from oxlen.core.decisions.exposure.aim import guarded_reading
from oxlen.core.decisions.exposure.ask import LOOKS
from oxlen.core.decisions.exposure.conflict import Conflict, Side, touches
from oxlen.core.decisions.exposure.search import Search
from oxlen.core.decisions.exposure.strategy import nearest_index
from oxlen.core.decisions.limit import Concern
from oxlen.core.decisions.offer import Offer, Tier
from oxlen.core.decisions.sequence.ask import FRAMES, frames_averaged, is_bracketed
from oxlen.core.decisions.sequence.bracket import tonal_span
from oxlen.core.labels import stops_label, two_digits

MOST_FRAMES = 64
SPARE_STOPS = 0.1
SPAN_SPARE = 1.2


def sequence_offers(search: Search, conflict: Conflict | None) -> Iterable[Offer]:
    """Several frames instead of one."""
    return chain(
        _averaged_for_noise(search, conflict),
        _averaged_for_streaks(search, conflict),
        _bracketed(search, conflict),
    )


def _averaged_for_noise(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    brief, frames = search.brief, search.brief[FRAMES]
    if conflict is None or frames_averaged(brief) > 1 or is_bracketed(brief):
        return
    if conflict.side is not Side.DARK and not touches(conflict, Concern.NOISE):
        return
    count = math.ceil(2.0 ** (conflict.short_by_stops + SPARE_STOPS))
    if 2 <= count <= MOST_FRAMES:
        cost = f"{count} frames to average; nothing may move between them"
        many = brief.asking(FRAMES, replace(frames, count=count))
        yield Offer("frames", f"Average {count} frames", cost, brief=many, tier=Tier.SEVERAL_FRAMES)


def _averaged_for_streaks(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Short frames enough that their whole span draws the streak; gaps included. See physics of
    averaged frames in `motion.less_light`.
    """
    brief, frames = search.brief, search.brief[FRAMES]
    if conflict is None or conflict.side is not Side.BRIGHT or not brief[LOOKS]:
        return
    if frames_averaged(brief) > 1 or is_bracketed(brief):
        return
    shown = (one for one in search.limits if one.is_about(Concern.SHOWING) and one.low)
    limit, lowest_iso = next(shown, None), search.pairs.where(search.pairs.row == 0)
    index = nearest_index(lowest_iso)
    if limit is None or index is None:
        return
    each_s, gap_s = float(lowest_iso.shutter_s[index]), frames.gap_s
    count = math.ceil((SPAN_SPARE * (limit.low or 0) + gap_s) / (each_s + gap_s))
    if not 2 <= count <= MOST_FRAMES:
        return
    between_m = two_digits(float(brief[LOOKS][0].mover.speed_m_s) * gap_s)
    cost = f"{count} frames on a tripod, {gap_s:g} s apart; it moves {between_m} m in each gap"
    text = f"Average {count} short frames instead of dark glass"
    many = brief.asking(FRAMES, replace(frames, count=count))
    yield Offer("computed_nd", text, cost, brief=many, tier=Tier.SEVERAL_FRAMES)


def _bracketed(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Several exposures, so that each end of the range has a frame of its own."""
    brief = search.brief
    about = touches(conflict, Concern.TONES, Concern.NOISE)
    if guarded_reading(brief) is None or is_bracketed(brief) or not about:
        return
    if all(one.role == KEEP_BRIGHT for one in brief.readings):
        return
    span = tonal_span(brief, brief.mode.sensor.base_iso)
    if span is None or span.bracket.count < 2:
        return
    text = f"Bracket {span.bracket.count} frames {stops_label(span.bracket.step_stops)} apart"
    many = brief.asking(FRAMES, replace(brief[FRAMES], combine="bracket"))
    yield Offer("bracket", text, "a tripod, and merging afterwards", brief=many, tier=Tier.TONES)
