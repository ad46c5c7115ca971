"""The clock of a place: its time zone, found offline, and times as people there say them."""

from __future__ import annotations

import atexit
from datetime import UTC, date, datetime, time, timedelta
from functools import cache
from typing import Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.sky.place import Place

DAY_S, HALF_HOUR_S = 86_400.0, 1800.0


def zone_at(place: Place) -> str:
    """The time zone (a name of the IANA database) of a place; at sea the zone of its hour."""
    found: str | None = _finder().timezone_at(lng=place.longitude_deg, lat=place.latitude_deg)
    return found or "UTC"


def zone_named(name: str | None, place: Place) -> ZoneInfo:
    """The zone of a name, or of the place where there is none; BadInput for one unknown."""
    try:
        return ZoneInfo(name or zone_at(place))
    except (ZoneInfoNotFoundError, ValueError):
        raise BadInput(
            f"Unknown time zone {name}. Use an IANA name such as Area/City.", "tz"
        ) from None


def midnight_unix_s(day: date, zone: ZoneInfo) -> float:
    """When a day begins by the clock of a zone, in seconds since 1970 UTC."""
    return datetime.combine(day, time(), zone).timestamp()


def day_span_s(day: date, zone: ZoneInfo) -> float:
    """How long a day lasts by the clock of a zone (s): 23, 24 or 25 hours."""
    return midnight_unix_s(day + timedelta(days=1), zone) - midnight_unix_s(day, zone)


def hours_of_clock(unix_s: NDArray[np.float64], zone: ZoneInfo) -> NDArray[np.float64]:
    """Hours (0 to 24) by the clock of a zone at times, in seconds since 1970 UTC."""
    # Clocks are changed on the half of an hour: one look for each of them tells all.
    halves, which = np.unique(np.floor(unix_s / HALF_HOUR_S), return_inverse=True)
    shift = np.array([_shift_s(float(half) * HALF_HOUR_S, zone) for half in halves])[which]
    return np.asarray(((unix_s + shift) % DAY_S) / 3600)


def _shift_s(unix_s: float, zone: ZoneInfo) -> float:
    return (local_time(unix_s, zone).utcoffset() or timedelta()).total_seconds()


def noon_unix_s(day: date, zone: ZoneInfo) -> float:
    """Noon of a day by the clock of a zone, in seconds since 1970 UTC."""
    return datetime.combine(day, time(12), zone).timestamp()


def local_time(unix_s: float, zone: ZoneInfo) -> datetime:
    """A moment by the clock of a zone, to the second."""
    return datetime.fromtimestamp(round(unix_s), UTC).astimezone(zone)


def clock(unix_s: float, zone: ZoneInfo) -> str:
    """Hours and minutes by the clock of a zone."""
    half_minute = timedelta(seconds=30)
    return (datetime.fromtimestamp(unix_s, UTC) + half_minute).astimezone(zone).strftime("%H:%M")


@cache
def _finder() -> Any:
    from timezonefinder import TimezoneFinder

    finder = TimezoneFinder()
    atexit.register(finder.cleanup)
    return finder
