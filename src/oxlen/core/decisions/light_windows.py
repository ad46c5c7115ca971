"""When a sheet works: its slip solved anew by the light of each quarter of an hour."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.plan import plan
from oxlen.core.labels import steps_label


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

    `shifts` are (seconds since 1970 UTC, stops). A time works where every limit is kept.
    """
    return tuple(_quarter(brief, unix_s, stops) for unix_s, stops in shifts)


def _quarter(brief: Brief, unix_s: float, stops: float) -> QuarterSlip:
    decided = plan(brief.lit(stops))
    if decided.slip is not None and decided.conflict is None:
        return QuarterSlip(
            unix_s, works=True, words=steps_label(decided.slip.iso, decided.slip.shutter_s)
        )
    conflict = decided.conflict
    words = "no slip"
    if conflict is not None:
        words = " against ".join(f"“{one.name}”" for one in conflict.limits)
    return QuarterSlip(unix_s, works=False, words=words)


def spans_of(quarters: Sequence[QuarterSlip], *, step_s: float) -> tuple[tuple[float, float], ...]:
    """Spans of times that work, each to the end of its last quarter (seconds since 1970 UTC)."""
    return tuple(_spans(quarters, step_s))


def _spans(quarters: Sequence[QuarterSlip], step_s: float) -> Iterator[tuple[float, float]]:
    begun: float | None = None
    last = 0.0
    for one in quarters:
        if one.works:
            begun, last = one.unix_s if begun is None else begun, one.unix_s
        elif begun is not None:
            yield begun, last + step_s
            begun = None
    if begun is not None:
        yield begun, last + step_s
