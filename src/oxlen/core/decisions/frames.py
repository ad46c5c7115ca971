"""The frames of a sequence on the phone's own steps."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.decisions.framework.limit import EXPOSURE, Concern
from oxlen.core.decisions.sequence.ask import frames_shot, is_blended, is_bracketed
from oxlen.core.decisions.sequence.bracket import bracket_of
from oxlen.core.decisions.solver.grid import SLACK_STOPS, Flags, Pairs, allowed_pairs
from oxlen.core.decisions.solver.search import Search, second_search


@dataclass(frozen=True)
class Exposed:
    """One exposure of a plan on the phone's steps, and how many frames of it.

    `residual_stops` is positive where it is brighter than this exposure is meant to be.
    """

    iso: float
    shutter_s: float
    ev100_set: float
    residual_stops: float
    frames: int = 1


def frames_of(search: Search, main: Pairs) -> tuple[Exposed, ...]:
    """One exposure of so many frames, or each exposure of a bracket, the darkest picture first."""
    brief = search.brief
    if is_blended(brief):
        return _blended(search, main)
    wanted = bracket_of(brief).ev100s if is_bracketed(brief) else ()
    if len(wanted) < 2:
        residual = float(main.residual_stops[0])
        return (_exposed(search, main, residual, frames=frames_shot(brief)),)
    found = []
    for place, ev100 in enumerate(wanted):
        pair = _nearest(search, main, ev100, never_brighter=place == 0)
        found.append(_exposed(search, pair, ev100 - float(pair.ev100[0])))
    return tuple(found)


def _blended(search: Search, main: Pairs) -> tuple[Exposed, ...]:
    """The first frame, and the second for the wish that the first leaves out."""
    first = _exposed(search, main, float(main.residual_stops[0]))
    second = second_search(search)
    pair = second.preferred()
    if pair is None:
        return (first,)
    return (first, _exposed(second, pair, float(pair.residual_stops[0])))


def _nearest(search: Search, main: Pairs, ev100: float, *, never_brighter: bool) -> Pairs:
    """The steps nearest an exposure that can be held still, at the main one's ISO if they reach.

    The frame for the highlights errs on the dark side, so that it does keep them.
    """
    pairs = search.pairs.where(_held(search))
    off = np.abs(pairs.ev100 - ev100)
    if never_brighter:
        off = off + 10.0 * (pairs.ev100 < ev100 - SLACK_STOPS)
    other_iso = np.abs(pairs.log_iso - main.log_iso[0])
    near = off <= off.min() + search.brief.mode.manual.half_step_stops
    return pairs.at(int(np.lexsort((off, np.where(near, other_iso, np.inf)))[0]))


def _held(search: Search) -> Flags:
    """Pairs that keep every limit but those of tones and noise; all where none would be left."""
    about = (Concern.NOISE, Concern.TONES, Concern.PLACING, Concern.KEEPING)
    kept = {
        limit.id: search.broken[limit.id]
        for limit in search.limits
        if limit.axis != EXPOSURE and not limit.is_about(*about)
    }
    flags = allowed_pairs(kept)
    return flags if flags.any() else np.ones_like(flags)


def _exposed(search: Search, pair: Pairs, residual_stops: float, *, frames: int = 1) -> Exposed:
    ladder = search.brief.mode.manual
    return Exposed(
        ladder.iso[int(pair.row[0])],
        ladder.shutter_s[int(pair.column[0])],
        float(pair.ev100[0]),
        residual_stops=residual_stops,
        frames=frames,
    )
