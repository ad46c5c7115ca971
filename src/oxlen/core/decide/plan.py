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


def plan(brief: Brief) -> Plan:
    """Decide lens, ISO and shutter for a brief.

    A slip never breaks a limit and never leaves the phone's manual ladders. When no pair of steps
    meets every limit within half a step of the aim, `conflict` says which two collide and the slip
    is the nearest that still breaks none, or None. Raises BadInput without a reading, NotFound for
    an unknown lens or mode.
    """
    aim = exposure_aim(brief)
    limits = limits_of(brief)
    grid = ladder_grid(brief.mode.manual, brief.lens.f_number, aim.ev100)
    broken = broken_masks(limits, grid)
    open_pairs = allowed_pairs(broken, grid) & grid.near
    pair = _preferred(brief, limits, grid, open_pairs)
    conflict = None if pair else _conflict(brief, limits, grid, aim)
    pair = pair or nearest_pair(grid, allowed_pairs(broken, grid))
    if conflict is not None and pair is None:
        conflict = _with_last_resort(brief, conflict, grid, broken)
    binding = _binding(brief, limits, grid, broken, pair, conflict, aim)
    slip = _slip(brief, grid, pair)
    return Plan(
        brief,
        aim,
        slip,
        limits,
        binding,
        _window(grid, open_pairs),
        conflict,
        reasons_for(brief, aim, limits, binding, slip),
        grid,
        broken,
    )


def quick_slip(brief: Brief) -> Slip | None:
    """Only the slip of a brief, and only when every limit is met."""
    aim = exposure_aim(brief)
    limits = limits_of(brief)
    grid = ladder_grid(brief.mode.manual, brief.lens.f_number, aim.ev100)
    open_pairs = allowed_pairs(broken_masks(limits, grid), grid) & grid.near
    return _slip(brief, grid, _preferred(brief, limits, grid, open_pairs))


def _preferred(
    brief: Brief, limits: tuple[Limit, ...], grid: Grid, pairs: NDArray[np.bool_]
) -> tuple[int, int] | None:
    return preferred_pair(grid, pairs, brief.school, longest_allowed_s(limits))


def _slip(brief: Brief, grid: Grid, pair: tuple[int, int] | None) -> Slip | None:
    if pair is None:
        return None
    row, column = pair
    return Slip(
        brief.lens.id,
        float(grid.iso[row]),
        float(grid.shutter_s[column]),
        brief.lens.f_number,
        float(grid.ev100[row, column]),
        float(grid.residual_stops[row, column]),
    )


def _window(grid: Grid, open_pairs: NDArray[np.bool_]) -> Window | None:
    rows, columns = np.nonzero(open_pairs)
    if not rows.size:
        return None
    iso, shutter = grid.iso[rows], grid.shutter_s[columns]
    return Window(float(shutter.min()), float(shutter.max()), float(iso.min()), float(iso.max()))


def _conflict(brief: Brief, limits: tuple[Limit, ...], grid: Grid, aim: Aim) -> Conflict:
    conflict = find_conflict(
        limits,
        grid,
        brief.lens.f_number,
        wanted_ev100=aim.ev100,
        guarded=aim.raised_stops > 0,
    )
    return replace(conflict, trades=trades_for(brief, conflict, quick_slip))


def _with_last_resort(
    brief: Brief, conflict: Conflict, grid: Grid, broken: Mapping[str, NDArray[np.bool_]]
) -> Conflict:
    """The conflict with one more way out: the nearest the phone has, highlights lost."""
    slip = _slip(brief, grid, nearest_pair(grid, allowed_pairs(broken, grid, without="highlights")))
    if slip is None:
        return conflict
    text = f"Take it {residual_words(slip.residual_stops)}"
    trade = Trade("accept", text, "the brightest detail is lost", slip)
    return replace(conflict, trades=(*conflict.trades, trade))


def _binding(
    brief: Brief,
    limits: tuple[Limit, ...],
    grid: Grid,
    broken: Mapping[str, NDArray[np.bool_]],
    pair: tuple[int, int] | None,
    conflict: Conflict | None,
    aim: Aim,
) -> frozenset[str]:
    """Limits the choice rests on: without them it would have come out otherwise."""
    if conflict is not None or pair is None:
        return frozenset(conflict.between if conflict else ())
    found = {"highlights"} if aim.raised_stops > 0 else set()
    for limit in limits:
        if limit.owner == "device":
            index, steps = (pair[0], grid.iso) if limit.axis == "iso" else (pair[1], grid.shutter_s)
            if index in (0, steps.size - 1):
                found.add(limit.id)
        elif limit.axis != "ev100_set":
            others = tuple(other for other in limits if other is not limit)
            pairs = allowed_pairs(broken, grid, without=limit.id) & grid.near
            if _preferred(brief, others, grid, pairs) != pair:
                found.add(limit.id)
    return frozenset(found)
