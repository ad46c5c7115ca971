"""The light of one day at a place: Sun, Moon, named hours, and what a meter will say."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from oxlen.core.sky.daylight import (
    FACINGS,
    PLUS_MINUS_STOPS,
    Cloud,
    Facing,
    facing_lx,
    ground_light,
    incident_ev100,
)
from oxlen.core.sky.place import Place, altitude_deg, bearing_deg
from oxlen.core.sky.track import Track, track
from oxlen.core.sky.twilight import (
    BLUE_FROM_DEG,
    BLUE_TO_DEG,
    GOLDEN_DEG,
    RISES_DEG,
    SPAN_S,
    Twilights,
    twilights_of,
)

STEP_S = 900.0
"""Own choice: nothing rises and sets within a quarter of an hour."""
SUN_EVENTS: tuple[tuple[float, str, str], ...] = (
    (-18.0, "Night ends", "Night begins"),
    (-12.0, "The horizon appears", "The horizon fades"),
    (BLUE_TO_DEG, "Blue hour begins", "Blue hour ends"),
    (BLUE_FROM_DEG, "Golden hour begins", "Blue hour begins"),
    (RISES_DEG, "Sunrise", "Sunset"),
    (GOLDEN_DEG, "Golden hour ends", "Golden hour begins"),
)
"""Heights of the Sun (°), and what it is called as it rises and as it sinks past them.
[SEIDELMANN1992]"""


@dataclass(frozen=True)
class Moment:
    """A moment that has a name, in seconds since 1970 UTC."""

    unix_s: float
    words: str


@dataclass(frozen=True)
class DayLight:
    """A day's light every quarter of an hour: heights and bearings (°), EV100 by what is faced.

    `plus_minus_stops` is how far a prediction may be off, `offset_stops` what the place's own
    readings taught, already counted in. `moments` are in order; `told` notes what does not happen.
    """

    unix_s: NDArray[np.float64]
    sun_altitude_deg: NDArray[np.float64]
    sun_bearing_deg: NDArray[np.float64]
    moon_altitude_deg: NDArray[np.float64]
    moon_bearing_deg: NDArray[np.float64]
    moon_lit_share: float
    ev100: Mapping[Facing, NDArray[np.float64]]
    plus_minus_stops: float
    offset_stops: float
    twilights: Twilights
    moments: tuple[Moment, ...]
    told: tuple[str, ...]


@lru_cache(maxsize=16)
def day_light(
    place: Place,
    start_unix_s: float,
    *,
    cloud: Cloud = "clear",
    offset_stops: float = 0.0,
    span_s: float = SPAN_S,
) -> DayLight:
    """The light of the 24 h, or another span, from a time (seconds since 1970 UTC). [JANICZEK1987]

    BadInput before 1900 and from 2050 on. The last few are kept: many ask for the same day.
    """
    along = track(place, start_unix_s, start_unix_s + max(span_s, SPAN_S))
    times = start_unix_s + np.arange(0.0, span_s + 1, STEP_S)
    sun, moon = along.sun(times), along.moon(times)
    elongation = np.interp(times, along.samples.unix_s, along.samples.elongation_deg)
    heights, moon_up = np.asarray(altitude_deg(sun)), np.asarray(altitude_deg(moon))
    light = ground_light(heights, cloud, moon_altitude_deg=moon_up, moon_elongation_deg=elongation)
    seen = twilights_of(along, start_unix_s)
    return DayLight(
        times,
        heights,
        np.asarray(bearing_deg(sun)),
        moon_altitude_deg=moon_up,
        moon_bearing_deg=np.asarray(bearing_deg(moon)),
        moon_lit_share=float(lit_share(elongation[len(elongation) // 2])),
        ev100={
            facing: np.asarray(incident_ev100(facing_lx(light, heights, facing))) + offset_stops
            for facing in FACINGS
        },
        plus_minus_stops=PLUS_MINUS_STOPS[cloud],
        offset_stops=offset_stops,
        twilights=seen,
        moments=tuple(_moments(along, start_unix_s, start_unix_s + span_s)),
        told=tuple(_day_notes(heights)),
    )


def lit_share(elongation_deg: float) -> float:
    """How much of the Moon's disc is lit (0 to 1), by its angle from the Sun (any, °).

    (1 − cos E)/2, for the Sun is 390 times as far: off by under 0.002. Any angle from 0 to 180 and
    beyond, finite. By geometry. [SEIDELMANN1992]

    >>> f"{lit_share(90.0):.2f}"
    '0.50'
    """
    return float((1 - np.cos(np.radians(elongation_deg))) / 2)


def _moments(along: Track, start_unix_s: float, end: float) -> Iterator[Moment]:
    found: list[Moment] = []
    for height, rising, sinking in SUN_EVENTS:
        found += [
            Moment(crossing.unix_s, rising if crossing.rises else sinking)
            for crossing in along.sun_crossings(height)
        ]
    found += [
        Moment(crossing.unix_s, "Moonrise" if crossing.rises else "Moonset")
        for crossing in along.moon_crossings(RISES_DEG)
    ]
    yield from sorted(
        (sky_moment for sky_moment in found if start_unix_s <= sky_moment.unix_s <= end),
        key=lambda moment: moment.unix_s,
    )


def _day_notes(sun_altitude_deg: NDArray[np.float64]) -> Iterator[str]:
    """What does not happen on such a day, in words."""
    lowest, highest = float(sun_altitude_deg.min()), float(sun_altitude_deg.max())
    if lowest > RISES_DEG:
        yield "The Sun does not set"
    elif lowest > -6:
        yield f"It stays light: the Sun reaches only {-lowest:.0f}° below the horizon"
    elif lowest > -18:
        yield (
            f"It does not get fully dark: the Sun stays within {-lowest:.0f}° of the horizon "
            "(night is 18°)"
        )
    if highest < -18:
        yield "The Sun stays so low that it is night all day"
    elif highest < RISES_DEG:
        yield f"The Sun does not rise: it reaches {-highest:.0f}° below the horizon"
