"""A known light carried over to a preview whose exposure the browser does not tell."""

from __future__ import annotations

from oxlen.core.light.reading import combined_plus_minus
from oxlen.core.units import require_between

DRIFT_STOPS_A_MIN = 0.06
"""Rule of thumb: daylight changes by a stop in a quarter of an hour when clouds pass, and slowly
else; from 0.02 to 0.2, off by up to a factor of 3."""
MOST_AGE_S = 30 * 60.0
"""Own choice: later the light may be any other; it is measured again."""


def aged_plus_minus_stops(plus_minus_stops: float, age_s: float) -> float | None:
    """How far a light known so long ago (s) may be off by now; None when it is too old to use.

    Takes figures of at least 0. Derived from `DRIFT_STOPS_A_MIN`.

    >>> f"{aged_plus_minus_stops(0.3, 600):.2f}"
    '0.67'
    """
    age = float(require_between("age_s", age_s, low=0, high=1e9, unit="s"))
    if age > MOST_AGE_S:
        return None
    return combined_plus_minus(plus_minus_stops, DRIFT_STOPS_A_MIN * age / 60)
