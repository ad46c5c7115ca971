"""Registry entries of Sun, Moon, twilight and the middle of the galaxy, by place and time."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any

import numpy as np

from oxlen.core.compute.computation import Computation
from oxlen.core.errors import BadInput
from oxlen.core.sky import ephemeris
from oxlen.core.sky.galaxy import CENTRE_DEC_DEG, CENTRE_RA_DEG
from oxlen.core.sky.place import Place, Vectors, altitude_deg, bearing_deg
from oxlen.core.sky.twilight import twilights

MOMENT = {"lat": "deg north", "lon": "deg east", "utc": "ISO 8601"}
Seen = Callable[[Place, Any], Vectors]


def _unix_s(written: str, name: str) -> float:
    try:
        moment = datetime.fromisoformat(written)
    except ValueError:
        raise BadInput(f"{name} must be a time as in 2026-03-20T09:00:00Z.", name) from None
    return (moment if moment.tzinfo else moment.replace(tzinfo=UTC)).timestamp()


def _position(direction: Vectors) -> dict[str, Any]:
    return {"alt": altitude_deg(direction)[0], "az": bearing_deg(direction)[0]}  # type: ignore[index]


def _sun(*, lat: float, lon: float, utc: str) -> dict[str, Any]:
    return _position(ephemeris.bodies(Place(lat, lon), np.array([_unix_s(utc, "utc")])).sun)


def _moon(*, lat: float, lon: float, utc: str) -> dict[str, Any]:
    at = np.array([_unix_s(utc, "utc")])
    found = _position(ephemeris.bodies(Place(lat, lon), at).moon)
    return {**found, "illuminated": ephemeris.moon_lit_share(at)[0]}


def _centre(*, lat: float, lon: float, utc: str) -> dict[str, Any]:
    at = np.array([_unix_s(utc, "utc")])
    return _position(
        ephemeris.star(Place(lat, lon), at, CENTRE_RA_DEG, declination_deg=CENTRE_DEC_DEG)
    )


def _twilights(*, lat: float, lon: float, start_utc: str) -> dict[str, Any]:
    found = asdict(twilights(Place(lat, lon), _unix_s(start_utc, "start_utc")))
    return {name: None if moment is None else _iso(moment) for name, moment in found.items()}


def _iso(unix_s: float) -> str:
    return datetime.fromtimestamp(round(unix_s), UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


SKY_HOURS: tuple[Computation, ...] = (
    Computation(
        "sun_position",
        "Position of the Sun",
        "apparent place of its middle, airless, from the ground; azimuth from north through east",
        source="Skyfield with the DE421 ephemeris",
        inputs=MOMENT,
        outputs={"alt": "deg", "az": "deg"},
        work=_sun,
    ),
    Computation(
        "moon_position",
        "Position of the Moon, and how much of it is lit",
        "apparent place of its middle, airless, from the ground; azimuth from north through east",
        source="Skyfield with the DE421 ephemeris",
        inputs=MOMENT,
        outputs={"alt": "deg", "az": "deg", "illuminated": "0..1"},
        work=_moon,
    ),
    Computation(
        "twilight_times",
        "Sunset, dusk, dawn and sunrise within a day",
        "first time the Sun's middle passes -0.8333, -6, -12, -18 degrees, airless",
        source="Skyfield with the DE421 ephemeris",
        inputs={"lat": "deg north", "lon": "deg east", "start_utc": "ISO 8601"},
        outputs=dict.fromkeys(
            (
                "sunset",
                "civil_dusk",
                "nautical_dusk",
                "astro_dusk",
                "astro_dawn",
                "nautical_dawn",
                "civil_dawn",
                "sunrise",
            ),
            "ISO 8601 or null",
        ),
        work=_twilights,
    ),
    Computation(
        "galactic_centre_alt_az",
        "Position of the galaxy’s centre",
        "apparent place of RA 266.417, Dec -29.008 (J2000), airless",
        source="Skyfield with the DE421 ephemeris",
        inputs=MOMENT,
        outputs={"alt": "deg", "az": "deg"},
        work=_centre,
    ),
)
