"""Highlights: the brightest detail to keep stays under clipping."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from oxlen.core.decisions.brief import KEEP_BRIGHT
from oxlen.core.decisions.exposure.aim import TELLING_STOPS, guarded_reading
from oxlen.core.decisions.exposure.ask import FORMAT, STRATEGY, kept_readings
from oxlen.core.decisions.exposure.conflict import Conflict, touches
from oxlen.core.decisions.exposure.search import Search
from oxlen.core.decisions.limit import EXPOSURE, Concern, ExposureProblem, Limit, LimitKind
from oxlen.core.decisions.offer import Offer, Tier
from oxlen.core.labels import ev_label, signed, stops_label


def _keeps_texture(problem: ExposureProblem) -> Iterable[Limit]:
    """Lowest EV100 that keeps the brightest marked detail under clipping."""
    brief = problem.brief
    first = guarded_reading(brief)
    if first is None:
        return
    mode, clips_as = brief.mode, first.clips_as_ev100
    colour = f", its strongest colour {stops_label(first.channel_stops)} above"
    sooner = colour if first.channel_stops >= TELLING_STOPS else ""
    headroom = mode.headroom_stops(brief[FORMAT])
    yield Limit(
        HIGHLIGHTS,
        EXPOSURE,
        clips_as - headroom,
        high=None,
        name="keep highlights",
        reason=f"The brightest detail is {ev_label(first.ev100)}{sooner} "
        f"and clips {signed(headroom)} from mid",
        source="phone profile, after ISO 12232",
        computation="headroom_check",
        inputs={"ev100_hi": clips_as, "ev100_set": problem.aim.ev100, "headroom": headroom},
        base_iso=mode.sensor.base_iso,
    )


def _headroom_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """RAW for its headroom, or letting the brightest detail go."""
    brief = search.brief
    if guarded_reading(brief) is None or not touches(conflict, Concern.TONES, Concern.NOISE):
        return
    if brief[FORMAT] != "raw":
        raw = brief.asking(FORMAT, "raw")
        yield Offer("raw", "Save as RAW", "larger files to develop", brief=raw, tier=Tier.TONES)
    if any(one.role != KEEP_BRIGHT for one in kept_readings(brief)):
        lost = brief.asking(STRATEGY, replace(brief[STRATEGY], let_clip=True))
        cost = "its texture is lost for good"
        yield Offer("clip", "Let the brightest detail clip", cost, brief=lost, tier=Tier.TONES)


HIGHLIGHTS = LimitKind("highlights", Concern.TONES, _keeps_texture, ways_out=_headroom_offers)
