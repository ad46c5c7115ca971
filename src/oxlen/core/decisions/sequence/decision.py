"""The sequence: how many frames are shot, and at which exposures."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.decision import Decision, Upstream
from oxlen.core.decisions.exposure.grid import Pairs
from oxlen.core.decisions.exposure.search import Search
from oxlen.core.decisions.limit import ISO, SHUTTER
from oxlen.core.decisions.sequence.ask import FRAMES, frames_averaged, is_bracketed
from oxlen.core.decisions.sequence.bracket import WIDEST_STEP_STOPS, bracket_around, tonal_span
from oxlen.core.decisions.sequence.offers import sequence_offers
from oxlen.core.decisions.setting import Exposure, Setting
from oxlen.core.labels import shutter_label, steps_label

SAME_ISO_STOPS = 1e-6


def decide(brief: Brief, upstream: Upstream) -> tuple[Setting, ...]:
    """How many frames, where it is more than one."""
    if upstream.solution.slip is None:
        return ()
    bracketed = exposures(brief, upstream) if is_bracketed(brief) else ()
    if len(bracketed) > 1:
        reason = f"{_steps(bracketed)}, to keep both ends"
        return (_line(len(bracketed), f"{len(bracketed)} bracketed", reason, because="bracket"),)
    count, gap_s = frames_averaged(brief), brief[FRAMES].gap_s
    if count == 1:
        return ()
    return (
        _line(
            count, f"{count} averaged", f"{gap_s:g} s apart, put together after", because="frames"
        ),
    )


def _line(count: int, label: str, reason: str, *, because: str) -> Setting:
    return Setting(
        FRAMES.name, "Frames", count, label=label, unit="frames", reason=reason, because=because
    )


def _steps(bracketed: tuple[Exposure, ...]) -> str:
    """The steps of a bracket in words, with ISO only where it changes."""
    steps = [
        {one.field: float(one.value) for one in each.settings if one.on_map} for each in bracketed
    ]
    if len({each[ISO] for each in steps}) > 1:
        return "; ".join(steps_label(each[ISO], each[SHUTTER]) for each in steps)
    shutters = [shutter_label(each[SHUTTER]) for each in steps]
    return f"{', '.join(shutters[:-1])} and {shutters[-1]}"


def frames_ev100(brief: Brief, upstream: Upstream) -> tuple[float, ...]:
    """EV100 of each exposure of a bracket, the darkest picture first; one for a single frame."""
    aim_ev100 = upstream.solution.search.aim.ev100
    span = tonal_span(brief, brief.mode.sensor.base_iso) if is_bracketed(brief) else None
    if span is None:
        return (aim_ev100,)
    return bracket_around(aim_ev100, span.bracket, WIDEST_STEP_STOPS)


def exposures(brief: Brief, upstream: Upstream) -> tuple[Exposure, ...]:
    """One exposure of so many frames, or each exposure of a bracket on the phone's own steps."""
    slip, search, pair = upstream.solution.slip, upstream.solution.search, upstream.solution.pair
    if slip is None or pair is None:
        return ()
    wanted = frames_ev100(brief, upstream)
    if len(wanted) == 1:
        count = frames_averaged(brief)
        return (Exposure(upstream.settings, slip.ev100_set, slip.residual_stops, frames=count),)
    return tuple(_exposure(search, upstream.settings, pair, ev100=one) for one in wanted)


def _exposure(
    search: Search, settings: tuple[Setting, ...], main: Pairs, *, ev100: float
) -> Exposure:
    """The steps nearest an exposure, at the main one's ISO as far as its shutters reach."""
    pairs = search.pairs
    off = np.abs(pairs.ev100 - ev100)
    other_iso = np.abs(pairs.log_iso - main.log_iso[0])
    near = off <= off.min() + search.brief.mode.manual.half_step_stops
    at = int(np.lexsort((off, np.where(near, other_iso, math.inf)))[0])
    ladder = search.brief.mode.manual
    iso, shutter_s = ladder.iso[int(pairs.row[at])], ladder.shutter_s[int(pairs.column[at])]
    changed = {ISO: (iso, f"{iso:g}"), SHUTTER: (shutter_s, shutter_label(shutter_s))}
    lines = tuple(
        replace(one, value=changed[one.field][0], label=changed[one.field][1])
        if one.field in changed
        else one
        for one in settings
    )
    return Exposure(lines, float(pairs.ev100[at]), ev100 - float(pairs.ev100[at]))


DECISION = Decision("sequence", (FRAMES,), decide, offers=sequence_offers, exposures=exposures)
