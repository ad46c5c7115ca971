"""The plan: hard bounds first, then the school's choice among real steps, then the reasons."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oxlen.core.decide.aim import Aim, exposure_aim
from oxlen.core.decide.brief import Brief
from oxlen.core.decide.conflict import Conflict, Trade, find_conflict, trades_for
from oxlen.core.decide.explain import Reason, reasons_for, residual_words
from oxlen.core.decide.grid import Grid, allowed_pairs, broken_masks, ladder_grid
from oxlen.core.decide.limits import Limit, limits_of
from oxlen.core.decide.school import longest_allowed_s, nearest_pair, preferred_pair

DIALLING_ORDER = ("lens", "iso", "shutter_s")
"""ISO comes off auto before the shutter moves, or the phone quietly undoes the shutter."""


Pair = tuple[int, int]
"""Index of a pair of steps on the grid: ISO, shutter."""


@dataclass(frozen=True)
class Slip:
    """Values to dial in; the residual is positive where they come out brighter than wanted."""

    lens: str
    iso: float
    shutter_s: float
    f_number: float
    ev100_set: float
    residual_stops: float
    order: tuple[str, ...] = DIALLING_ORDER


@dataclass(frozen=True)
class Window:
    """The stretch of steps along the wanted exposure that every limit leaves open."""

    shutter_min_s: float
    shutter_max_s: float
    iso_min: float
    iso_max: float


@dataclass(frozen=True)
class Plan:
    """The decision and everything it rests on; `slip` may miss the aim when `conflict` is given.

    `grid` and `broken` hold every pair of steps, so that a map can be drawn without deciding
    anything again.
    """

    brief: Brief
    aim: Aim
    slip: Slip | None
    limits: tuple[Limit, ...]
    binding: frozenset[str]
    window: Window | None
    conflict: Conflict | None
    reasons: tuple[Reason, ...]
    grid: Grid
    broken: Mapping[str, NDArray[np.bool_]]


@dataclass(frozen=True)
class Search:
    """Everything a choice among steps is made from; built once for a brief."""

    brief: Brief
    aim: Aim
    limits: tuple[Limit, ...]
    grid: Grid
    broken: Mapping[str, NDArray[np.bool_]]

    @property
    def open_pairs(self) -> NDArray[np.bool_]:
        """Pairs no limit forbids, within half a step of the aim."""
        return allowed_pairs(self.broken, self.grid) & self.grid.near

    def preferred(self) -> Pair | None:
        """The school's choice among the open pairs."""
        return self._school(self.limits, self.open_pairs)

    def preferred_without(self, limit: Limit) -> Pair | None:
        """What the school would choose if one limit were not there."""
        others = tuple(other for other in self.limits if other is not limit)
        pairs = allowed_pairs(self.broken, self.grid, without=limit.id) & self.grid.near
        return self._school(others, pairs)

    def nearest(self, without: str = "") -> Pair | None:
        """The pair nearest the aim that breaks no limit, leaving out the one named."""
        return nearest_pair(self.grid, allowed_pairs(self.broken, self.grid, without=without))

    def slip(self, pair: Pair | None) -> Slip | None:
        """A pair as a slip."""
        if pair is None:
            return None
        row, column = pair
        return Slip(
            self.brief.lens.id,
            float(self.grid.iso[row]),
            float(self.grid.shutter_s[column]),
            self.brief.lens.f_number,
            float(self.grid.ev100[row, column]),
            float(self.grid.residual_stops[row, column]),
        )

    def _school(self, limits: tuple[Limit, ...], pairs: NDArray[np.bool_]) -> Pair | None:
        return preferred_pair(self.grid, pairs, self.brief.school, longest_allowed_s(limits))


def search_for(brief: Brief) -> Search:
    """Aim, limits and all pairs of steps of a brief."""
    aim = exposure_aim(brief)
    limits = limits_of(brief)
    grid = ladder_grid(brief.mode.manual, brief.lens.f_number, aim.ev100)
    return Search(brief, aim, limits, grid, broken_masks(limits, grid))


def plan(brief: Brief) -> Plan:
    """Decide lens, ISO and shutter for a brief.

    A slip never breaks a limit and never leaves the phone's manual ladders. When no pair of steps
    meets every limit within half a step of the aim, `conflict` says which two collide and the slip
    is the nearest that still breaks none, or None. Raises BadInput without a reading, NotFound for
    an unknown lens or mode.
    """
    search = search_for(brief)
    pair = search.preferred()
    conflict = None if pair else _conflict(search)
    pair = pair or search.nearest()
    binding = frozenset(conflict.between) if conflict else _binding(search, pair)
    slip = search.slip(pair)
    return Plan(
        brief,
        search.aim,
        slip,
        search.limits,
        binding,
        _window(search),
        conflict,
        reasons_for(brief, search.aim, limits=search.limits, binding=binding, slip=slip),
        search.grid,
        search.broken,
    )


def quick_slip(brief: Brief) -> Slip | None:
    """Only the slip of a brief, and only when every limit is met."""
    search = search_for(brief)
    return search.slip(search.preferred())


def _window(search: Search) -> Window | None:
    rows, columns = np.nonzero(search.open_pairs)
    if not rows.size:
        return None
    iso, shutter = search.grid.iso[rows], search.grid.shutter_s[columns]
    return Window(float(shutter.min()), float(shutter.max()), float(iso.min()), float(iso.max()))


def _conflict(search: Search) -> Conflict:
    conflict = find_conflict(
        search.limits,
        search.grid,
        search.brief.lens.f_number,
        wanted_ev100=search.aim.ev100,
        guarded=search.aim.raised_stops > 0,
    )
    trades = trades_for(search.brief, conflict, quick_slip)
    return replace(conflict, trades=(*trades, *_last_resort(search)))


def _last_resort(search: Search) -> tuple[Trade, ...]:
    """The nearest the phone has, highlights lost, where nothing else keeps every limit."""
    slip = search.slip(search.nearest(without="highlights"))
    if slip is None or search.nearest() is not None:
        return ()
    text = f"Take it {residual_words(slip.residual_stops)}"
    return (Trade("accept", text, "the brightest detail is lost", slip),)


def _binding(search: Search, pair: Pair | None) -> frozenset[str]:
    """Limits the choice rests on: without them it would have come out otherwise."""
    if pair is None:
        return frozenset()
    found = {"highlights"} if search.aim.raised_stops > 0 else set()
    ends = {
        "iso": (pair[0], search.grid.iso.size),
        "shutter_s": (pair[1], search.grid.shutter_s.size),
    }
    for limit in search.limits:
        if limit.owner == "device":
            index, count = ends[limit.axis]
            decides = index in (0, count - 1)
        else:
            decides = limit.axis != "ev100_set" and search.preferred_without(limit) != pair
        if decides:
            found.add(limit.id)
    return frozenset(found)
