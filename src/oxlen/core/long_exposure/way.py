"""One way to a long exposure, solved as a whole on this phone."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import FORMAT, LOOKS, glass_stops
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import NEVER_S
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.kit.cost import FrameCost, set_cost
from oxlen.core.labels import stops_label, time_label
from oxlen.core.light.exposure import shutter_for_ev100
from oxlen.core.long_exposure.time_shown import left_share, ripple_periods, streak_share


@dataclass(frozen=True)
class Way:
    """One way to the time that a look takes, worked through on this phone.

    `shutter_s` is each frame's, `light_s` and `elapsed_s` those of all frames, `streak_share` of
    the frame's short side, `periods` the ripples that pass, `left_share` the contrast that a mover
    leaves; None where the sheet names nothing of the kind. `carry` is what it asks of the
    photographer. `reaches` says whether the look comes of it, `why_not` why it does not.
    """

    id: str
    name: str
    brief: Brief
    reaches: bool
    why_not: str
    carry: str
    iso: float | None
    shutter_s: float | None
    frames: int
    light_s: float | None
    elapsed_s: float | None
    streak_share: float | None
    periods: float | None
    left_share: float | None
    snr: float | None
    megabytes: float | None
    battery_percent: float | None
    lens: str


def light_allows_s(decided: Plan) -> float:
    """The time (s) that the light allows one frame at the lowest ISO, its own steps aside."""
    lens, iso = decided.brief.lens, decided.brief.mode.manual.iso[0]
    through = decided.search.aim.ev100 - glass_stops(decided.brief)
    return float(shutter_for_ev100(through, lens.f_number, iso))


def worked(way_id: str, name: str, brief: Brief, *, carry: str) -> Way:
    """A way solved as a whole: every limit of the sheet holds for it too."""
    decided = plan(brief)
    return _way_of(way_id, name, decided, carry=carry)


def _way_of(way_id: str, name: str, decided: Plan, *, carry: str) -> Way:
    brief, slip = decided.brief, decided.slip
    reaches = slip is not None and decided.conflict is None
    shutter_s = _attained_s(decided) if slip is None else slip.shutter_s
    frames = brief[FRAMES]
    elapsed_s = frames.count * shutter_s + (frames.count - 1) * frames.gap_s
    look = brief[LOOKS][0]
    rate = brief.phone.handling.battery_percent_per_min
    files = 1 if frames.combine == "phone" else frames.count
    cost = set_cost(
        open_s=frames.count * shutter_s,
        sub_s=shutter_s,
        gap_s=frames.gap_s if frames.count > 1 else 0.0,
        frame=FrameCost(brief.mode.files.frame_mb(brief[FORMAT]) * files / frames.count, rate or 0),
        free_megabytes=math.inf,
    )
    return Way(
        way_id,
        name,
        brief=brief,
        reaches=reaches,
        why_not="" if reaches else _why_not(decided, elapsed_s),
        carry=carry,
        iso=None if slip is None else slip.iso,
        shutter_s=shutter_s,
        frames=frames.count,
        light_s=frames.count * shutter_s,
        elapsed_s=elapsed_s,
        streak_share=streak_share(brief, look, elapsed_s),
        periods=ripple_periods(look, elapsed_s),
        left_share=left_share(look, elapsed_s),
        snr=None if decided.figures is None else decided.figures.snr_subject,
        megabytes=cost.megabytes,
        battery_percent=None if rate is None else cost.battery_percent,
        lens=brief.lens.name,
    )


def _attained_s(decided: Plan) -> float:
    """The longest step that the light allows one frame at the lowest ISO."""
    allowed = light_allows_s(decided)
    steps = [step_s for step_s in decided.brief.mode.manual.shutter_s if step_s <= allowed * 1.2]
    return steps[-1] if steps else decided.brief.mode.manual.shutter_s[0]


def _why_not(decided: Plan, elapsed_s: float) -> str:
    never = [
        limit for limit in decided.search.limits if limit.low is not None and limit.low >= NEVER_S
    ]
    if never:
        return never[0].reason
    if decided.conflict is None:
        return "no step of this phone fits"
    longest = decided.brief.mode.manual.shutter_s[-1]
    if _attained_s(decided) >= longest and decided.slip is None:
        return f"the longest shutter of this lens is {time_label(longest)}"
    if decided.conflict.short_by_stops > 0 and decided.slip is None:
        short = stops_label(decided.conflict.short_by_stops)
        return f"the light allows only {time_label(elapsed_s)}, {short} short"
    return f"two limits collide by {stops_label(abs(decided.conflict.short_by_stops))}"
