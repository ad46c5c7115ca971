"""Drift of a shop series on a plot: exposure or warmth over time, and what it means."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from pydantic import BaseModel

from oxlen.core.series.comparing import EXPOSURE_STOPS
from oxlen.core.series.drift import drift_of
from oxlen.formats.shop_series import SeriesFileChecked

DRIFT_MIRED = 8.0
"""Own choice: mired that a buyer sees between two pictures side by side."""
Quantity = Literal["stops", "mired"]


@dataclass(frozen=True)
class Measured:
    """A take that was measured, and when it was shot (ISO 8601)."""

    take_id: int
    taken_at: str
    checked: SeriesFileChecked


class DriftPoint(BaseModel):
    """A take on the plot of drift: minutes from the first, its value, and the line there."""

    take_id: int
    minutes: float
    value: float
    line: float
    is_alone: bool


class DriftView(BaseModel):
    """Exposure or warmth over time, and what it means."""

    quantity: Quantity
    seen: float
    change: float
    is_steady: bool
    words: str
    points: list[DriftPoint]


def drift_view(measured: Sequence[Measured], quantity: Quantity) -> DriftView:
    """One quantity of a series against time, and what it means."""
    seen = EXPOSURE_STOPS if quantity == "stops" else DRIFT_MIRED
    timed = sorted(
        (at, take.take_id, value)
        for take in measured
        if (value := _value(take.checked, quantity)) is not None
        and (at := _unix_s(take.taken_at)) is not None
    )
    times = [at for at, _, _ in timed]
    found = drift_of(times, [value for _, _, value in timed], seen=seen)
    if found is None:
        words = "Fewer than 5 timed pictures: no drift can be seen."
        return DriftView(
            quantity=quantity, seen=seen, change=0.0, is_steady=True, words=words, points=[]
        )
    minutes = (times[-1] - times[0]) / 60
    return DriftView(
        quantity=quantity,
        seen=seen,
        change=found.change,
        is_steady=found.is_steady,
        words=drift_words(
            quantity,
            found.change,
            minutes=minutes,
            is_steady=found.is_steady,
            alone=len(found.strays),
        ),
        points=[
            DriftPoint(
                take_id=take,
                minutes=(at - times[0]) / 60,
                value=value,
                line=line,
                is_alone=place in found.strays,
            )
            for place, ((at, take, value), line) in enumerate(zip(timed, found.line, strict=True))
        ],
    )


def _unix_s(stamp: str) -> float | None:
    """When a file says it was shot; None where that is no time."""
    try:
        return datetime.fromisoformat(stamp).timestamp()
    except (ValueError, OverflowError, OSError):
        return None


def _value(found: SeriesFileChecked, quantity: Quantity) -> float | None:
    return found.exposure_stops if quantity == "stops" else found.mired


def drift_words(
    quantity: Quantity, change: float, *, minutes: float, is_steady: bool, alone: int
) -> str:
    """What a line through a series means, and what is off it."""
    if is_steady:
        start = "No drift."
    elif quantity == "stops":
        way, cause = ("darker", "fading light") if change < 0 else ("brighter", "growing light")
        start = f"Gets {abs(change):.1f} stop {way} in {minutes:.0f} min: {cause} or a lamp."
    else:
        way = "cooler" if change < 0 else "warmer"
        start = (
            f"Gets {abs(change):.0f} mired {way} in {minutes:.0f} min: changing light or a lamp."
        )
    if not alone:
        return start
    are = "picture is off by itself" if alone == 1 else "pictures are off by themselves"
    return f"{start} {alone} {are}."
