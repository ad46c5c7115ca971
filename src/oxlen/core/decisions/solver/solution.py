"""The result of the search: the pair of steps, the conflict if there is one, what decided."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import EXPOSURE, ISO, Concern, Limit
from oxlen.core.decisions.sequence.ask import is_blended
from oxlen.core.decisions.solver.aim import RAISED_STOPS
from oxlen.core.decisions.solver.conflict import Conflict, find_conflict
from oxlen.core.decisions.solver.grid import Pairs
from oxlen.core.decisions.solver.search import (
    ExposureSlip,
    Kinds,
    Search,
    search_for,
    second_search,
)


@dataclass(frozen=True)
class Solution:
    """The search of a brief, the pair it chose, and the limits that pair rests on.

    `pair` keeps every limit; it may miss the aim when `conflict` is given, and is None when every
    pair breaks something.
    """

    search: Search
    pair: Pairs | None
    conflict: Conflict | None

    @cached_property
    def binding(self) -> frozenset[str]:
        """Ids of the limits that the choice rests on."""
        if self.conflict is not None:
            return frozenset(self.conflict.between)
        return _binding(self.search, self.pair)

    @cached_property
    def slip(self) -> ExposureSlip | None:
        """The pair with the ladder's own values."""
        return self.search.slip(self.pair)


def solve(brief: Brief, kinds: Kinds) -> Solution:
    """Search the steps for a brief under these kinds of limits. BadInput without a reading."""
    search = search_for(brief, kinds)
    pair = search.preferred()
    conflict = None if pair else find_conflict(search)
    if conflict is None and is_blended(brief):
        second = second_search(search)
        conflict = None if second.preferred() else find_conflict(second)
    pair = pair or search.nearest()
    return Solution(search, pair, conflict)


def _binding(search: Search, pair: Pairs | None) -> frozenset[str]:
    """Limits the choice rests on: without them it would have been another."""
    if pair is None:
        return frozenset()
    return frozenset(limit.id for limit in search.limits if _decides(search, pair, limit))


def _decides(search: Search, pair: Pairs, limit: Limit) -> bool:
    if limit.is_about(Concern.TONES):
        return search.aim.raised_stops > RAISED_STOPS
    if limit.is_device:
        ladder = search.brief.mode.manual
        on_iso = limit.axis == ISO
        at, count = (pair.row, len(ladder.iso)) if on_iso else (pair.column, len(ladder.shutter_s))
        return int(at[0]) in (0, count - 1)
    return limit.axis != EXPOSURE and _changes(search, pair, limit)


def _changes(search: Search, pair: Pairs, limit: Limit) -> bool:
    other = search.preferred_without(limit)
    if other is None:
        return True
    return bool(np.any(other.row != pair.row) or np.any(other.column != pair.column))
