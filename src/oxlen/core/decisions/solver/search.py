"""The search: limits over the steps near the wanted exposure, and the strategy's choice."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from oxlen.core.decisions.exposure.ask import LENS_FILTERS, glass_stops
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import EXPOSURE, ISO, SHUTTER, Concern, Limit, LimitKind
from oxlen.core.decisions.sequence.ask import FRAMES, is_blended
from oxlen.core.decisions.solver.aim import Aim, exposure_aim
from oxlen.core.decisions.solver.grid import (
    SLACK_STOPS,
    Flags,
    Numbers,
    Pairs,
    all_pairs,
    allowed_pairs,
    broken_masks,
    excess_stops,
    is_near,
)
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.strategy import (
    Preference,
    nearest_index,
    preference_of,
    preferred_index,
)
from oxlen.core.light.exposure import ev100 as exposure_ev100

Kinds = tuple[LimitKind, ...]
A_LITTLE_STOPS, COARSE = 0.5, 1.5
"""Off the planned exposure by no more than this, a picture is as it was planned."""
MOST_TROUBLE_STOPS = 20.0
SPARE_STOPS = {Concern.PLACING: 0.5, Concern.KEEPING: 0.0}
"""How far past what was asked a picture still is one: 1½ stops off, never a white subject."""

# Which way a residual runs towards each kind of bound: brighter (+1) towards the longest shutter
# and the highlights, darker (−1) towards the shortest and towards noise.
_UNSAFE_SIDE = {(SHUTTER, "high"): 1, (SHUTTER, "low"): -1, (ISO, "high"): -1}


@dataclass(frozen=True)
class ExposureSlip:
    """Lens, ISO and shutter of one exposure; the residual is positive where that is too bright.

    `ev100_set` counts the filter on the lens: it compares with the light of the scene.
    """

    lens: str
    iso: float
    shutter_s: float
    f_number: float
    ev100_set: float
    residual_stops: float

    @property
    def glass_stops(self) -> float:
        """Stops that the filter on the lens takes; these values are meant to be dialled with it."""
        bare = float(exposure_ev100(self.f_number, self.shutter_s, self.iso))
        return max(0.0, round(self.ev100_set - bare, 6))


@dataclass(frozen=True)
class Search:
    """Everything a choice among steps is made from; built once for a brief.

    `kinds` are the kinds of limits that were asked for bounds.
    """

    problem: ExposureProblem
    limits: tuple[Limit, ...]
    kinds: Kinds = ()

    def again(self, brief: Brief) -> Search:
        """The search for another brief, with the same kinds of limits."""
        return search_for(brief, self.kinds)

    @cached_property
    def pairs(self) -> Pairs:
        """Every pair of steps the phone offers by hand."""
        brief = self.brief
        return all_pairs(
            brief.mode.manual,
            brief.lens.f_number,
            self.aim.ev100,
            glass_stops=glass_stops(brief),
        )

    @cached_property
    def near(self) -> Pairs:
        """Pairs within half a step of the aim."""
        return self.pairs.where(is_near(self.pairs, self.brief.mode.manual.half_step_stops))

    @cached_property
    def near_broken(self) -> Mapping[str, Flags]:
        """Which of the pairs near the aim each limit forbids."""
        return broken_masks(self.limits, self.near)

    @property
    def brief(self) -> Brief:
        """The brief searched for."""
        return self.problem.brief

    @property
    def aim(self) -> Aim:
        """The exposure searched for."""
        return self.problem.aim

    @cached_property
    def broken(self) -> Mapping[str, Flags]:
        """Which of all pairs each limit forbids."""
        return broken_masks(self.limits, self.pairs)

    @cached_property
    def open(self) -> Pairs:
        """Pairs no limit forbids, within half a step of the aim."""
        return self.near.where(allowed_pairs(self.near_broken))

    @cached_property
    def preference(self) -> Preference:
        """What the strategy aims at, with the side that runs towards the tightest limit known."""
        plain = preference_of(self.problem, self.limits)
        first = _at(self.open, preferred_index(self.open, plain))
        return plain if first is None else replace(plain, unsafe_side=self._unsafe_side(first))

    def preferred(self) -> Pairs | None:
        """The strategy's choice among the open pairs.

        Where there is none, the nearest pair that breaks no limit and is only a little off: nobody
        calls a picture spoilt that is a third of a stop darker than planned.
        """
        index = preferred_index(self.open, self.preference)
        if index is not None:
            return _at(self.open, index)
        little = np.abs(self.pairs.residual_stops) <= self.little_stops + SLACK_STOPS
        pairs = self.pairs.where(allowed_pairs(self.broken) & little)
        return _at(pairs, nearest_index(pairs))

    @property
    def little_stops(self) -> float:
        """How far off still is as planned: more on a phone whose steps are whole stops."""
        return max(A_LITTLE_STOPS, COARSE * self.brief.mode.manual.half_step_stops)

    def preferred_without(self, limit: Limit) -> Pairs | None:
        """What the strategy would choose if one limit were not there."""
        others = tuple(other for other in self.limits if other is not limit)
        pairs = self.near.where(allowed_pairs(self.near_broken, without=limit.id))
        preference = preference_of(self.problem, others, self.preference.unsafe_side)
        return _at(pairs, preferred_index(pairs, preference))

    def nearest(self) -> Pairs | None:
        """The pair nearest the aim that breaks no limit and spoils no spot; None without any."""
        tones = {x.id for x in self.limits if x.is_about(Concern.PLACING)}
        kept = {x: flags for x, flags in self.broken.items() if x not in tones}
        pairs = self.pairs.where(allowed_pairs(kept) & self.bearable)
        return _at(pairs, nearest_index(pairs))

    @cached_property
    def bearable(self) -> Flags:
        """Which of all pairs leave a picture: no subject white, no spot far off its tone."""
        kept = np.ones(self.pairs.row.shape, dtype=bool)
        for limit in self.limits:
            spare = SPARE_STOPS.get(limit.kind.concern)
            if spare is not None:
                kept &= excess_stops(limit, self.pairs) <= spare + SLACK_STOPS
        return kept

    def slack_stops(self, pair: Pairs) -> dict[str, float]:
        """Room left to each limit at one pair, in stops; negative where it is broken."""
        return {limit.id: -float(excess_stops(limit, pair)[0]) for limit in self.limits}

    def slip(self, pair: Pairs | None) -> ExposureSlip | None:
        """A pair as a slip, with the ladder's own values."""
        if pair is None:
            return None
        ladder, lens = self.brief.mode.manual, self.brief.lens
        return ExposureSlip(
            lens.id,
            ladder.iso[int(pair.row[0])],
            ladder.shutter_s[int(pair.column[0])],
            f_number=lens.f_number,
            ev100_set=float(pair.ev100[0]),
            residual_stops=float(pair.residual_stops[0]),
        )

    def _unsafe_side(self, pair: Pairs) -> int:
        slack = self.slack_stops(pair)
        ruled = [limit for limit in self.limits if not limit.is_device and limit.only is None]
        ruled = [limit for limit in ruled if not limit.is_about(Concern.PLACING)]
        if not ruled:
            return 0
        tightest = min(ruled, key=lambda limit: slack[limit.id])
        if tightest.axis == EXPOSURE:
            return 1 if tightest.high is None else 0
        return _UNSAFE_SIDE.get((tightest.axis, _tighter_end(tightest, pair)), 0)


def trouble_stops(search: Search) -> float:
    """How far from a slip a search is: stops beyond all limits together, and off the aim, at best.

    Where several limits block it, it counts each of them, not only the first one named.
    """
    return float(_trouble(search).min())


def broken_at_best(search: Search) -> tuple[Limit, ...]:
    """The limits that the pair with the least trouble breaks."""
    best = search.pairs.at(int(np.argmin(_trouble(search))))
    return tuple(x for x in search.limits if float(excess_stops(x, best)[0]) > SLACK_STOPS)


def _trouble(search: Search) -> Numbers:
    pairs = search.pairs
    total: Numbers = np.maximum(0.0, np.abs(pairs.residual_stops) - search.little_stops)
    for limit in search.limits:
        total = total + np.clip(excess_stops(limit, pairs), 0.0, MOST_TROUBLE_STOPS)
    return total


def limits_in(problem: ExposureProblem, kinds: Kinds) -> tuple[Limit, ...]:
    """Every limit of these kinds, in their order; those without any bound are left out."""
    found = (limit for kind in kinds for limit in kind.bounds(problem))
    left_out = problem.brief[FRAMES].each_for[1] if is_blended(problem.brief) else None
    return tuple(
        limit
        for limit in found
        if (limit.low is not None or limit.high is not None) and limit.id != left_out
    )


def second_search(first: Search) -> Search:
    """The search for the second of two blended frames: its own wish kept, the first's left out."""
    brief = first.brief
    frames = brief[FRAMES]
    swapped = replace(frames, each_for=(frames.each_for[1], frames.each_for[0]), second_filters=())
    worn = (*brief[LENS_FILTERS], *frames.second_filters)
    return first.again(brief.asking(FRAMES, swapped).asking(LENS_FILTERS, worn))


def search_for(brief: Brief, kinds: Kinds) -> Search:
    """Aim, limits and pairs of steps of a brief. BadInput without a reading."""
    problem = ExposureProblem(brief, exposure_aim(brief))
    return Search(problem, limits_in(problem, kinds), kinds)


def _tighter_end(limit: Limit, pair: Pairs) -> str:
    value = float(pair.log_shutter[0] if limit.axis == SHUTTER else pair.log_iso[0])
    below = np.inf if limit.low is None else value - np.log2(limit.low)
    above = np.inf if limit.high is None else np.log2(limit.high) - value
    return "low" if below < above else "high"


def _at(pairs: Pairs, index: int | None) -> Pairs | None:
    return None if index is None else pairs.at(index)
