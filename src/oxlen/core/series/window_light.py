"""A series by a window: how long the light stays the same on a day."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.sky.day import STEP_S, DayLight

STEADY_STOPS = 1 / 3
"""Own choice: how far the light may move over a series before pictures differ too much."""
STEADY_SUN_DEG = 12.0
"""Under this height of the Sun daylight turns warm or blue by more than 10 mired within an hour.
Rule of thumb, from 10 to 15°; off by cloud on the horizon. [CIE015]"""


@dataclass(frozen=True)
class SteadyLight:
    """A span (seconds since 1970 UTC) in which a window's light stays within a third of a stop."""

    from_unix_s: float
    to_unix_s: float

    @property
    def minutes(self) -> float:
        """How long it lasts (min)."""
        return (self.to_unix_s - self.from_unix_s) / 60


def steady_light(day: DayLight, from_unix_s: float | None = None) -> SteadyLight | None:
    """The longest span of steady light, from a time on, by a window without sun.

    Brightest less darkest within 1/3 stop, and the Sun high enough for the colour to stay within 10
    mired. Moving clouds change it faster than that. None where there is no such light.
    """
    stops = np.asarray(day.ev100["shade"])
    usable = np.asarray(day.sun_altitude_deg >= STEADY_SUN_DEG)
    if from_unix_s is not None:
        usable = usable & (day.unix_s >= from_unix_s - STEP_S)
    best: tuple[int, int] | None = None
    start = 0
    for end in range(len(stops)):
        if not usable[end]:
            start = end + 1
            continue
        while np.ptp(stops[start : end + 1]) > STEADY_STOPS:
            start += 1
        if best is None or end - start > best[1] - best[0]:
            best = (start, end)
    if best is None or best[0] == best[1]:
        return None
    begin = float(day.unix_s[best[0]])
    return SteadyLight(max(begin, from_unix_s or begin), float(day.unix_s[best[1]]))
