"""The steps manual modes usually offer, by their customary names."""

from __future__ import annotations

import math
from typing import Literal

from oxlen.core.errors import BadInput
from oxlen.core.units import require_positive

Spacing = Literal["thirds", "halves", "wholes"]
STOPS_APART: dict[Spacing, float] = {"thirds": 1 / 3, "halves": 1 / 2, "wholes": 1.0}
"""Exact."""
_DECADE = (10, 12.5, 16, 20, 25, 32, 40, 50, 64, 80)
"""Exact: the preferred numbers of a decade, as dials are engraved. [ISO12232]"""
_ISO = tuple(float(step * 10**power) for power in range(5) for step in _DECADE)
_PER_SECOND = (
    32000, 25000, 20000, 16000, 12800, 10000, 8000, 6400, 5000, 4000, 3200, 2500, 2000, 1600, 1250,
    1000, 800, 640, 500, 400, 320, 250, 200, 160, 125, 100, 80, 60, 50, 40, 30, 25, 20, 15, 13, 10,
    8, 6, 5, 4,
)  # fmt: skip
_LONG_S = (
    0.3, 0.4, 0.5, 0.6, 0.8, 1, 1.3, 1.6, 2, 2.5, 3.2, 4, 5, 6, 8, 10, 13, 15, 20, 25, 30, 40, 50,
    60,
)  # fmt: skip
"""Exact: times as dials are engraved, a third of a stop apart."""
_SHUTTER_S = (
    *(1 / per_second for per_second in _PER_SECOND),
    *(float(long_s) for long_s in _LONG_S),
)


def iso_steps(lowest: float, highest: float, spacing: Spacing = "thirds") -> tuple[float, ...]:
    """ISO steps from the lowest to the highest, both kept as given. [ISO12232]

    BadInput when the highest is not above the lowest.

    >>> iso_steps(50, 200)
    (50, 64.0, 80.0, 100.0, 125.0, 160.0, 200)
    """
    return _stepped(_ISO, lowest, highest=highest, spacing=spacing, name="iso")


def shutter_steps(
    fastest_s: float, slowest_s: float, spacing: Spacing = "thirds"
) -> tuple[float, ...]:
    """Shutter steps in seconds (s) from the fastest to the slowest, both kept as given.

    BadInput when the slowest is not longer than the fastest. [ISO12232]

    >>> shutter_steps(0.25, 1.0, "wholes")
    (0.25, 0.5, 1.0)
    """
    return _stepped(_SHUTTER_S, fastest_s, highest=slowest_s, spacing=spacing, name="shutter_s")


def _stepped(
    nominal: tuple[float, ...], lowest: float, *, highest: float, spacing: Spacing, name: str
) -> tuple[float, ...]:
    """The nominal step nearest to each even one; none twice, and none beyond the ends."""
    require_positive(name, lowest)
    if highest <= lowest:
        raise BadInput("The largest of the steps must be above the smallest.", name)
    count = math.floor(math.log2(highest / lowest) / STOPS_APART[spacing] + 0.5)
    even = (lowest * 2.0 ** (STOPS_APART[spacing] * k) for k in range(1, count))
    named = (min(nominal, key=lambda step: abs(math.log(step / wanted))) for wanted in even)
    inner = dict.fromkeys(step for step in named if lowest < step < highest)
    return (lowest, *inner, highest)
