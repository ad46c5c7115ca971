"""When a sheet works: its slip solved anew by the light of each quarter of an hour."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.plan import solved
from oxlen.core.labels import steps_label

ALIKE_STOPS = 1 / 6
"""Half a step of most dials, and a third of what predicted daylight is uncertain by at best."""


@dataclass(frozen=True)
class QuarterSlip:
    """What a quarter of an hour gives: the slip's steps, or why there is none."""

    unix_s: float
    works: bool
    words: str


def slip_by_the_hour(
    brief: Brief, shifts: Sequence[tuple[float, float]]
) -> tuple[QuarterSlip, ...]:
    """The sheet solved for each time, by light so many stops from what was read.

    `shifts` are (seconds since 1970 UTC, stops). A time works where every limit is kept. Light is
    taken to `ALIKE_STOPS`: mornings and evenings, and a whole noon, are solved once.
    """
    known: dict[int, tuple[bool, str]] = {}
    found = []
    for unix_s, stops in shifts:
        step = round(stops / ALIKE_STOPS)
        if step not in known:
            known[step] = _by_light(brief.lit(step * ALIKE_STOPS))
        works, words = known[step]
        found.append(QuarterSlip(unix_s, works=works, words=words))
    return tuple(found)


def _by_light(brief: Brief) -> tuple[bool, str]:
    """Whether every limit is kept, and the slip's steps, or why there is none."""
    decided = solved(brief)
    conflict = decided.conflict
    if decided.slip is not None and conflict is None:
        return True, steps_label(decided.slip.iso, decided.slip.shutter_s)
    if conflict is None:
        return False, "no slip"
    return False, " against ".join(f"“{limit.name}”" for limit in conflict.limits)


def spans_of(quarters: Sequence[QuarterSlip], *, step_s: float) -> tuple[tuple[float, float], ...]:
    """Spans of times that work, each to the end of its last quarter (seconds since 1970 UTC)."""
    return tuple(_spans(quarters, step_s))


def _spans(quarters: Sequence[QuarterSlip], step_s: float) -> Iterator[tuple[float, float]]:
    begun: float | None = None
    last = 0.0
    for quarter in quarters:
        if quarter.works:
            begun, last = quarter.unix_s if begun is None else begun, quarter.unix_s
        elif begun is not None:
            yield begun, last + step_s
            begun = None
    if begun is not None:
        yield begun, last + step_s
