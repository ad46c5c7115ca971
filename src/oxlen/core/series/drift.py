"""Light that drifts over a series: a lamp warming up, a window fading, or one single mistake."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

LEAST_TAKES = 5
"""Own choice: a line through fewer takes says nothing."""
EXPLAINED = 0.5
"""Own choice: a line that leaves more than half of the spread is no drift."""
OUTLIER_SPREADS = 4.0
"""Own choice: a take farther from the line than so many spreads of the rest is alone."""


@dataclass(frozen=True)
class Drift:
    """A value (stops or mired) against time: a line, its change over the series, and what strays.

    `line` is the line's value at each take; `change` from the first take to the last; `strays` are
    the places of takes that are off it by themselves. `is_steady` without a drift worth mending.
    """

    line: tuple[float, ...]
    change: float
    strays: tuple[int, ...]
    is_steady: bool


def drift_of(times_s: Sequence[float], values: Sequence[float], *, seen: float) -> Drift | None:
    """The line through values by time; `seen` (> 0, in the values' unit) is what a buyer notices.

    A line of median slopes, which a few single mistakes do not bend. None for fewer than 5 takes or
    no time between them. [SEN1968]

    >>> found = drift_of([0, 60, 120, 180, 240], [0.0, -0.1, -0.2, 0.9, -0.4], seen=0.15)
    >>> f"{found.change:.1f} stop, {found.strays}"
    '-0.4 stop, (3,)'
    """
    times, found = np.asarray(times_s, dtype=float), np.asarray(values, dtype=float)
    if len(times) < LEAST_TAKES or np.ptp(times) <= 0:
        return None
    slope = _median_slope(times, found)
    line = slope * times + float(np.median(found - slope * times))
    left = np.abs(found - line)
    limit = max(seen, OUTLIER_SPREADS * 1.4826 * float(np.median(left)))
    strays = np.flatnonzero(left >= limit)
    order = np.argsort(times)
    change = float(line[order[-1]] - line[order[0]])
    kept = np.setdiff1d(np.arange(len(times)), strays)
    return Drift(
        line=tuple(float(each) for each in line),
        change=change,
        strays=tuple(int(each) for each in strays),
        is_steady=abs(change) < seen or not _explains(found[kept], line[kept]),
    )


def _median_slope(times: NDArray[np.float64], values: NDArray[np.float64]) -> float:
    rows, columns = np.triu_indices(len(times), k=1)
    apart = times[columns] - times[rows]
    rise = values[columns] - values[rows]
    return float(np.median(rise[apart != 0] / apart[apart != 0]))


def _explains(values: NDArray[np.float64], line: NDArray[np.float64]) -> bool:
    """Whether the line leaves little of how the values spread."""
    spread = float(np.median(np.abs(values - np.median(values))))
    left = float(np.median(np.abs(values - line)))
    return left <= EXPLAINED * spread
