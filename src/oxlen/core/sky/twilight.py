"""Twilights: when the Sun passes the heights that have a name."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from oxlen.core.sky.place import Place
from oxlen.core.sky.track import Crossing, Track, track

RISES_DEG = -0.8333
"""The Sun's upper edge on the horizon, lifted by the air. [SEIDELMANN1992]"""
HEIGHTS_DEG: Mapping[str, float] = {
    "sun": RISES_DEG,
    "civil": -6.0,
    "nautical": -12.0,
    "astro": -18.0,
}
"""[SEIDELMANN1992]"""
GOLDEN_DEG, BLUE_FROM_DEG, BLUE_TO_DEG = 6.0, -4.0, -6.0
"""Golden light is between blue light and this height; blue light between −6° and −4°. Rule of
thumb, off by up to 2°, for haze and hills change it."""
SPAN_S = 86_400.0
"""Exact."""


@dataclass(frozen=True)
class Twilights:
    """Seconds since 1970 UTC; None for what does not happen within the day."""

    sunset: float | None
    civil_dusk: float | None
    nautical_dusk: float | None
    astro_dusk: float | None
    astro_dawn: float | None
    nautical_dawn: float | None
    civil_dawn: float | None
    sunrise: float | None


def twilights(place: Place, start_unix_s: float) -> Twilights:
    """The first of each within 24 h of a time (seconds since 1970 UTC). [SEIDELMANN1992]

    Dusk and sunset downward, dawn and sunrise upward, at airless heights of the Sun's middle.
    """
    return twilights_of(track(place, start_unix_s, start_unix_s + SPAN_S), start_unix_s)


def twilights_of(along: Track, start_unix_s: float) -> Twilights:
    """As `twilights`, of a track that holds the 24 h from a time (seconds since 1970 UTC)."""
    end = start_unix_s + SPAN_S
    found = {
        name: [
            crossing
            for crossing in along.sun_crossings(height)
            if start_unix_s <= crossing.unix_s <= end
        ]
        for name, height in HEIGHTS_DEG.items()
    }
    return Twilights(
        sunset=_first(found["sun"], rises=False),
        civil_dusk=_first(found["civil"], rises=False),
        nautical_dusk=_first(found["nautical"], rises=False),
        astro_dusk=_first(found["astro"], rises=False),
        astro_dawn=_first(found["astro"], rises=True),
        nautical_dawn=_first(found["nautical"], rises=True),
        civil_dawn=_first(found["civil"], rises=True),
        sunrise=_first(found["sun"], rises=True),
    )


def dark_spans(place: Place, start_unix_s: float, span_s: float) -> tuple[tuple[float, float], ...]:
    """When the Sun is more than 6° under the horizon, as (from, to) in seconds since 1970 UTC.

    Within `span_s` from a time; cut where that begins and ends. [SEIDELMANN1992]

    >>> spring, day_s = 1_774_000_000.0, 86_400.0
    >>> [round((to - dusk) / 3600, 1) for dusk, to in dark_spans(Place(0.0, 0.0), spring, day_s)]
    [11.2]
    """
    along = track(place, start_unix_s, start_unix_s + span_s)
    end = start_unix_s + span_s
    level = HEIGHTS_DEG["civil"]
    found = [
        crossing for crossing in along.sun_crossings(level) if start_unix_s < crossing.unix_s < end
    ]
    sun_up = float(along.sun(np.array([start_unix_s]))[2, 0])
    is_dark = bool(sun_up < np.sin(np.radians(level)))
    times = [start_unix_s] if is_dark else []
    times += [crossing.unix_s for crossing in found]
    times += [end] if len(times) % 2 else []
    return tuple(zip(times[::2], times[1::2], strict=True))


def _first(found: list[Crossing], *, rises: bool) -> float | None:
    return next((crossing.unix_s for crossing in found if crossing.rises is rises), None)
