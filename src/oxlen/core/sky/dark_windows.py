"""When it is dark enough: night, the Moon down or thin, and something high enough to be seen."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oxlen.core.sky.day import lit_share
from oxlen.core.sky.ephemeris import equatorial, fixed
from oxlen.core.sky.galaxy import CENTRE_DEC_DEG, CENTRE_RA_DEG
from oxlen.core.sky.horizon import HorizonPoint, hidden_below_deg
from oxlen.core.sky.place import Place, altitude_deg, bearing_deg
from oxlen.core.sky.track import SHORT_S, Track, smooth, track

MoonWish = Literal["down", "thin", "any"]
Times = NDArray[np.float64]
STEP_S, SHORT_STEP_S = 900.0, 120.0
"""Own choice: the sky turns by 4° and by half a degree in a step."""
THIN_SHARE = 0.2
"""With so much of it lit the Moon dims the Milky Way by 0.3 magnitude at most. [KRISCIUNAS1991]"""
SHORTEST_S = 600.0
"""Own choice: in less nothing can be set up."""
LONG_ENOUGH_S = 4 * 3600.0
"""More than this is not better: nobody stays longer. Own choice."""


@dataclass(frozen=True)
class Wanted:
    """What has to be so: Sun so far down, the Moon, and a place among the stars at a height (°).

    Without a right ascension it is darkness alone that is asked for. `allowed` tells which times
    (seconds since 1970 UTC) somebody is willing to be out.
    """

    sun_below_deg: float = -18.0
    moon: MoonWish = "down"
    right_ascension_deg: float | None = CENTRE_RA_DEG
    declination_deg: float = CENTRE_DEC_DEG
    least_altitude_deg: float = 10.0
    horizon: Sequence[HorizonPoint] = ()
    allowed: Callable[[Times], NDArray[np.bool_]] | None = None


@dataclass(frozen=True)
class DarkWindow:
    """A span (seconds since 1970 UTC) in which all of it is so.

    `best_unix_s` is when what is wanted is highest in it, at a height and bearing (°).
    """

    from_unix_s: float
    to_unix_s: float
    best_unix_s: float
    altitude_deg: float
    bearing_deg: float
    moon_altitude_deg: float
    moon_lit_share: float
    score: float

    @property
    def long_s(self) -> float:
        """How long it is."""
        return self.to_unix_s - self.from_unix_s


def dark_windows(
    place: Place, first_unix_s: float, last_unix_s: float, *, wanted: Wanted
) -> tuple[DarkWindow, ...]:
    """Spans of at least ten minutes in which a place has what is wanted, in order. [RHODES2019]

    BadInput before 1900 and from 2050 on.
    """
    along = track(place, first_unix_s, last_unix_s)
    step_s = SHORT_STEP_S if last_unix_s - first_unix_s <= SHORT_S else STEP_S
    times = np.arange(first_unix_s, last_unix_s, step_s)
    aim = None if wanted.right_ascension_deg is None else _aim(place, along, wanted)(times)
    margin = _margin(along, times, aim, wanted=wanted)
    if wanted.allowed is not None:
        # Where nobody is out there is no margin: a window ends with the last time allowed.
        margin = np.where(wanted.allowed(times), margin, -np.inf)
    found = []
    for first, last in _runs(margin > 0):
        begins = _edge(times, margin, first, before=True)
        ends = _edge(times, margin, last, before=False)
        if ends - begins >= SHORTEST_S:
            best = first if aim is None else first + int(np.argmax(aim[2][first : last + 1]))
            window = _window(along, times[best], None if aim is None else aim[:, best])
            found.append(replace(window, from_unix_s=begins, to_unix_s=ends))
    return tuple(replace(window, score=_score(window)) for window in found)


def best_windows(found: Sequence[DarkWindow], most: int) -> tuple[DarkWindow, ...]:
    """The best of them, the best first: long, high up, the Moon away."""
    return tuple(sorted(found, key=lambda candidate: -candidate.score)[:most])


def _aim(place: Place, along: Track, wanted: Wanted) -> Callable[[Times], NDArray[np.float64]]:
    direction = equatorial(wanted.right_ascension_deg, wanted.declination_deg)[:, None]
    samples_s = along.samples.unix_s
    return smooth(samples_s, fixed(place, samples_s, direction)[:, 0])


def _margin(
    along: Track, times: Times, aim: NDArray[np.float64] | None, *, wanted: Wanted
) -> NDArray[np.float64]:
    """How far (°) every condition is met at each time: the least of them, negative where not."""
    margins = [wanted.sun_below_deg - np.asarray(altitude_deg(along.sun(times)))]
    if wanted.moon != "any":
        down = -0.8 - np.asarray(altitude_deg(along.moon(times)))
        if wanted.moon == "thin":
            elongation = np.interp(times, along.samples.unix_s, along.samples.elongation_deg)
            thin = (1 - np.cos(np.radians(elongation))) / 2 <= THIN_SHARE
            down = np.where(thin, 90.0, down)
        margins.append(down)
    if aim is not None:
        hidden = hidden_below_deg(wanted.horizon, bearing_deg(aim))
        least = np.maximum(hidden, wanted.least_altitude_deg)
        margins.append(np.asarray(altitude_deg(aim)) - least)
    return np.asarray(np.min(margins, axis=0))


def _runs(held: NDArray[np.bool_]) -> Iterator[tuple[int, int]]:
    """First and last place of each run that holds."""
    edges = np.diff(np.concatenate([[False], held, [False]]).astype(int))
    yield from zip(
        np.nonzero(edges == 1)[0].tolist(), (np.nonzero(edges == -1)[0] - 1).tolist(), strict=True
    )


def _edge(times: Times, margin: NDArray[np.float64], at: int, *, before: bool) -> float:
    """When the margin is nothing, beside the first or the last time that holds."""
    other = at - 1 if before else at + 1
    if not 0 <= other < len(times) or np.isinf(margin[other]):
        return float(times[at])
    share = margin[at] / (margin[at] - margin[other])
    return float(times[at] + share * (times[other] - times[at]))


def _window(along: Track, best: float, aim: NDArray[np.float64] | None) -> DarkWindow:
    at = np.array([best])
    elongation = np.interp(best, along.samples.unix_s, along.samples.elongation_deg)
    return DarkWindow(
        best,
        best,
        best,
        altitude_deg=90.0 if aim is None else float(altitude_deg(aim)),
        bearing_deg=0.0 if aim is None else float(bearing_deg(aim)),
        moon_altitude_deg=float(altitude_deg(along.moon(at))[0]),  # type: ignore[index]
        moon_lit_share=lit_share(float(elongation)),
        score=0.0,
    )


def _score(window: DarkWindow) -> float:
    """Hours that are used, more for what is high, less for a Moon that is up."""
    hours = min(window.long_s, LONG_ENOUGH_S) / 3600
    high = float(np.sin(np.radians(max(window.altitude_deg, 0.0))))
    moon = window.moon_lit_share if window.moon_altitude_deg > 0 else 0.0
    return hours * (0.3 + high) * (1 - moon)
