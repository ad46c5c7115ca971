"""Where Sun, Moon and stars are, by Skyfield and the ephemeris that ships in a package.

The package's figures of the Earth's turning run out and then warn; the time scale built into
Skyfield is used instead. It foretells that turning, so in years ahead directions may be off by a
few seconds of arc, which no photograph shows.
"""

from __future__ import annotations

import atexit
from dataclasses import dataclass
from functools import cache, lru_cache
from importlib.resources import files
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.sky.place import Place, Vectors

FIRST_UNIX_S, LAST_UNIX_S = -2_208_988_800.0, 2_524_608_000.0
"""1900 to 2050: what the ephemeris holds. [RHODES2019]"""
DAY_S = 86_400.0
"""Exact."""
Times = NDArray[np.float64]


@dataclass(frozen=True)
class Bodies:
    """Sun and Moon at times (n, seconds since 1970 UTC): apparent directions (3, n).

    Seen from the place, airless. `elongation_deg` is the angle between them as seen there.
    """

    unix_s: Times
    sun: Vectors
    moon: Vectors
    moon_km: Times
    elongation_deg: Times


def bodies(place: Place, unix_s: Times) -> Bodies:
    """Sun and Moon from a place at times (n,) in seconds since 1970 UTC. [RHODES2019]

    BadInput before 1900 and from 2050 on.
    """
    stand, to_place = _stand(place, unix_s)
    kernel = _kernel()
    found = [stand.observe(kernel[name]).apparent().xyz for name in ("sun", "moon")]
    sun, moon = (_turned(to_place, _unit(body.km)) for body in found)
    moon_km = np.sqrt(np.sum(np.square(found[1].km), axis=0))
    elongation = np.degrees(np.arccos(np.clip(np.sum(sun * moon, axis=0), -1, 1)))
    return Bodies(
        np.asarray(unix_s, dtype=float), sun, moon, moon_km=moon_km, elongation_deg=elongation
    )


def star(
    place: Place, unix_s: Times, right_ascension_deg: float, *, declination_deg: float
) -> Vectors:
    """Apparent direction (3, n) of a fixed place among the stars (J2000, °). [RHODES2019]

    Takes times as `bodies` does.
    """
    from skyfield.api import Star

    stand, to_place = _stand(place, unix_s)
    fixed = Star(ra_hours=right_ascension_deg / 15, dec_degrees=declination_deg)
    return _turned(to_place, _unit(stand.observe(fixed).apparent().xyz.km))


def fixed(place: Place, unix_s: Times, directions: Vectors) -> Vectors:
    """Fixed directions (3, m) of the stars' frame (J2000) as seen from a place (3, m, n).

    Without the aberration of light: within 20 seconds of arc. [RHODES2019]
    """
    _, to_place = _stand(place, unix_s)
    return np.asarray(np.einsum("ijn,jm->imn", to_place, directions))


def moon_lit_share(unix_s: Times) -> NDArray[np.float64]:
    """How much of the Moon's disc is lit (0 to 1) from the middle of the Earth. [RHODES2019]

    Takes times as `bodies` does; BadInput otherwise.

    >>> full = moon_lit_share(np.array([1_767_470_400.0]))  # 3 January 2026, 20:00 UTC
    >>> f"{full[0]:.3f}"
    '0.996'
    """
    kernel = _kernel()
    seen = (
        kernel["earth"]
        .at(_time(np.asarray(unix_s, dtype=float)))
        .observe(kernel["moon"])
        .apparent()
    )
    return np.asarray(seen.fraction_illuminated(kernel["sun"]))


def equatorial(right_ascension_deg: Any, declination_deg: Any) -> Vectors:
    """Unit vectors (3, ...) of places among the stars, both in degrees. By definition.

    >>> equatorial(90.0, 0.0).round(6).tolist()
    [0.0, 1.0, 0.0]
    """
    ra, dec = np.radians(right_ascension_deg), np.radians(declination_deg)
    return np.array([np.cos(dec) * np.cos(ra), np.cos(dec) * np.sin(ra), np.sin(dec) + 0 * ra])


def _stand(place: Place, unix_s: Times) -> tuple[Any, Any]:
    """An observer at a place, and the turn (3, 3, n) from the stars' frame into theirs."""
    times = np.atleast_1d(np.asarray(unix_s, dtype=float))
    if not (times.min() >= FIRST_UNIX_S and times.max() < LAST_UNIX_S):
        raise BadInput("Dates must be from 1900 to 2049.", "date")
    return _stood(place, times.tobytes())


@lru_cache(maxsize=6)
def _stood(place: Place, times: bytes) -> tuple[Any, Any]:
    """As `_stand`: the sky is asked for several bodies at the same times."""
    from skyfield.api import wgs84

    ground = wgs84.latlon(place.latitude_deg, place.longitude_deg)
    time = _time(np.frombuffer(times))
    return (_kernel()["earth"] + ground).at(time), ground.rotation_at(time)


def _turned(to_place: Any, unit: Vectors) -> Vectors:
    return np.asarray(np.einsum("ijn,jn->in", to_place, unit))


def _unit(vectors: Any) -> Vectors:
    length = np.sqrt(np.sum(np.square(vectors), axis=0))
    return np.asarray(vectors / length)


@cache
def _kernel() -> Any:
    from skyfield.api import load_file

    kernel = load_file(str(files("skyfield_data") / "data" / "de421.bsp"))
    atexit.register(kernel.close)
    return kernel


@cache
def _scale() -> Any:
    from skyfield.api import load

    return load.timescale(builtin=True)


def _time(unix_s: Times) -> Any:
    """Skyfield's time; whole days and the rest of the last, so that leap seconds are counted."""
    days = np.floor(unix_s / DAY_S)
    return _scale().utc(1970, 1, 1 + days, 0, 0, unix_s - days * DAY_S)
