"""The sequence: how many frames are shot, and at which exposures."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace
from itertools import chain

from oxlen.core.decisions.exposure.ask import DRAWING, HOLD, SUPPORT
from oxlen.core.decisions.frames import Exposed, frames_of
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.decision import Decision
from oxlen.core.decisions.framework.dial import Dial
from oxlen.core.decisions.framework.limit import ISO, SHUTTER
from oxlen.core.decisions.framework.offer import Offer
from oxlen.core.decisions.framework.setting import Exposure, Setting
from oxlen.core.decisions.sequence.ask import FRAMES, frames_shot, is_blended, is_bracketed
from oxlen.core.decisions.sequence.offers import sequence_offers
from oxlen.core.decisions.sequence.own_filter import own_filter_offers, own_filters
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.search import Search, second_search
from oxlen.core.decisions.upstream import Upstream
from oxlen.core.labels import (
    listed,
    sentence_case,
    shutter_label,
    steps_label,
    stops_label,
    time_label,
    two_digits,
)


def decide(brief: Brief, upstream: Upstream) -> tuple[Setting, ...]:
    """How many frames, where it is more than one."""
    if upstream.solution.slip is None:
        return ()
    bracketed = exposures(brief, upstream) if is_bracketed(brief) else ()
    if len(bracketed) > 1:
        reason = f"{_steps(bracketed)}. Merge them afterwards"
        return (_line(len(bracketed), f"{len(bracketed)} bracketed", reason, because="bracket"),)
    count, gap_s = frames_shot(brief), brief[FRAMES].gap_s
    if is_blended(upstream.solution.search.brief):
        return (_two(brief, upstream),)
    if count > 1 and brief[FRAMES].combine == "median":
        reason = f"Every {time_label(gap_s)}. The median removes what passes"
        line = _line(count, f"Median of {count}", reason, because="frames")
        return (_timed(line, brief, count * upstream.solution.slip.shutter_s),)
    if count > 1 and brief[FRAMES].combine == "phone":
        named = (
            " or ".join(lens_filter.name for lens_filter in own_filters(brief)) or "its own mode"
        )
        stops = stops_label(math.log2(count))
        in_all_s = count * upstream.solution.slip.shutter_s
        reason = f"Set it to {time_label(in_all_s)}: the phone averages {count} frames"
        return (_line(count, f"{named}, {stops}", reason, because="frames"),)
    if brief[FRAMES].combine == "series" and brief[FRAMES].count > 1:
        return (_series(brief),)
    if count > 1:
        reason = f"At most {gap_s:g} s apart. Average them afterwards"
        line = _line(count, f"{count} averaged", reason, because="frames")
        return (_timed(line, brief, count * upstream.solution.slip.shutter_s),)
    drawing = brief[DRAWING]
    if drawing is not None and drawing.frames > 1:
        reason = "Each has a part. Stack with lighten"
        label = f"{drawing.frames} drawn on"
        return (_line(drawing.frames, label, reason, because="drawing"),)
    burst = brief[HOLD].burst
    if burst > 1 and brief[SUPPORT] != "tripod":
        reason = "Keep the sharpest"
        return (_line(burst, f"Burst of {burst}", reason, because="hold"),)
    return ()


def _two(brief: Brief, upstream: Upstream) -> Setting:
    """Two frames for two wishes, with what changes between them."""
    both = exposures(brief, upstream)
    first = upstream.solution.search
    names = {limit.id: limit.name for limit in (*first.limits, *second_search(first).limits)}
    wishes = [names.get(limit_id, limit_id) for limit_id in brief[FRAMES].each_for]
    steps = [_own_steps(exposure) for exposure in both]
    worn = listed([lens_filter.name for lens_filter in brief[FRAMES].second_filters])
    then = f"put {worn} on, then" if worn else "then"
    each = [f"{step} for “{wish}”" for step, wish in zip(steps, wishes, strict=False)]
    reason = f"{f'; {then} '.join(each)}. Combine with a mask"
    return _line(2, "2, blended", sentence_case(reason), because="blend")


def _own_steps(exposure: Exposure) -> str:
    values = {
        setting.field: float(setting.value) for setting in exposure.settings if setting.on_map
    }
    return steps_label(values[ISO], values[SHUTTER])


def _series(brief: Brief) -> Setting:
    """Frames that are kept one by one, and what becomes of the light meanwhile."""
    frames = brief[FRAMES]
    rate = frames.ramp_stops_min
    way = "falls" if rate < 0 else "rises"
    reason = f"Every {time_label(frames.gap_s)}, each kept"
    if rate:
        reason += f". The light {way} by {two_digits(abs(rate))} stops a minute"
    return _line(frames.count, f"series of {frames.count}", reason, because="frames")


def _timed(line: Setting, brief: Brief, open_s: float) -> Setting:
    """The line with the total time of its frames, and how far the phone's gap leaves it open."""
    gaps, frames = float(line.value) - 1, brief[FRAMES]
    in_all_s, off_s = open_s + gaps * frames.gap_s, 0.0
    if frames.gap_s == brief.mode.files.frame_gap_s:
        off_s = gaps * brief.mode.files.plus_minus.get("frame_gap_s", 0.0)
    setting = replace(line, notes=(f"About {time_label(in_all_s)} in total.",))
    if not off_s:
        return setting
    why = "the phone's gap between frames"
    return replace(setting, plus_minus=off_s, plus_minus_unit="s", why_plus_minus=why)


def _line(count: int, label: str, reason: str, *, because: str) -> Setting:
    return Setting(
        FRAMES.name, "Frames", count, label=label, unit="frames", reason=reason, because=because
    )


def _steps(bracketed: tuple[Exposure, ...]) -> str:
    """The steps of a bracket in words, with ISO only where it changes."""
    steps = [
        {setting.field: float(setting.value) for setting in each.settings if setting.on_map}
        for each in bracketed
    ]
    if len({each[ISO] for each in steps}) > 1:
        return "; ".join(steps_label(each[ISO], each[SHUTTER]) for each in steps)
    shutters = [shutter_label(each[SHUTTER]) for each in steps]
    return f"{', '.join(shutters[:-1])} and {shutters[-1]}"


def exposures(_: Brief, upstream: Upstream) -> tuple[Exposure, ...]:
    """One exposure of so many frames, or each exposure of a bracket on the phone's own steps."""
    search, pair = upstream.solution.search, upstream.solution.pair
    if pair is None:
        return ()
    return tuple(_exposure(upstream.settings, frame) for frame in frames_of(search, pair))


def _exposure(settings: tuple[Setting, ...], exposed: Exposed) -> Exposure:
    """The lines of the slip with the steps of one frame in place of the main one's."""
    changed = {
        ISO: (exposed.iso, f"{exposed.iso:g}"),
        SHUTTER: (exposed.shutter_s, shutter_label(exposed.shutter_s)),
    }
    lines = tuple(
        replace(setting, value=changed[setting.field][0], label=changed[setting.field][1])
        if setting.field in changed
        else setting
        for setting in settings
    )
    return Exposure(lines, exposed.ev100_set, exposed.residual_stops, frames=exposed.frames)


def offers(search: Search, conflict: Conflict | None) -> Iterable[Offer]:
    """Several frames, stacked afterwards or by the phone."""
    return chain(sequence_offers(search, conflict), own_filter_offers(search, conflict))


DECISION = Decision(
    "sequence",
    (FRAMES,),
    decide,
    offers=offers,
    exposures=exposures,
    dials=(Dial(FRAMES.name, has_own_step=True),),
)
