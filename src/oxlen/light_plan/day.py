"""The light of a day by the clock of its place."""

from __future__ import annotations

from dataclasses import asdict
from datetime import date
from zoneinfo import ZoneInfo

from oxlen.core.sky.day import DayLight, day_light
from oxlen.core.sky.daylight import Cloud
from oxlen.core.sky.place import Place
from oxlen.core.sky.twilight import Twilights
from oxlen.formats.outing.hours import HoursFile, HoursPlaceFile, MomentFile, QuarterFile
from oxlen.light_plan.compass import compass
from oxlen.light_plan.zone import day_span_s, local_time, midnight_unix_s


def hours_of_day(
    place: Place, day: date, zone: ZoneInfo, *, cloud: Cloud = "clear", offset_stops: float = 0.0
) -> HoursFile:
    """The light of a day from midnight to midnight by the clock of a zone."""
    start, span_s = midnight_unix_s(day, zone), day_span_s(day, zone)
    found = day_light(place, start, cloud=cloud, offset_stops=offset_stops, span_s=span_s)
    return HoursFile(
        place=place_file(place, zone),
        date=day.isoformat(),
        cloud=cloud,
        plus_minus_stops=found.plus_minus_stops,
        offset_stops=offset_stops,
        moon_lit_share=found.moon_lit_share,
        twilights=twilight_times(found.twilights, zone),
        moments=[
            MomentFile(at=iso_time(moment.unix_s, zone), unix_s=moment.unix_s, words=moment.words)
            for moment in found.moments
        ],
        told=list(found.told),
        quarters=[_quarter(found, at, zone) for at in range(len(found.unix_s))],
    )


def place_file(place: Place, zone: ZoneInfo) -> HoursPlaceFile:
    """A place as it is written, with the zone its times are given in."""
    return HoursPlaceFile(
        latitude_deg=place.latitude_deg, longitude_deg=place.longitude_deg, time_zone=zone.key
    )


def twilight_times(found: Twilights, zone: ZoneInfo) -> dict[str, str | None]:
    """Twilights by the clock of a zone; None for what does not happen."""
    return {
        name: None if unix_s is None else iso_time(unix_s, zone)
        for name, unix_s in asdict(found).items()
    }


def iso_time(unix_s: float, zone: ZoneInfo) -> str:
    """A moment by the clock of a zone, as ISO 8601."""
    return local_time(unix_s, zone).isoformat()


def _quarter(found: DayLight, at: int, zone: ZoneInfo) -> QuarterFile:
    unix_s = float(found.unix_s[at])
    return QuarterFile(
        at=iso_time(unix_s, zone),
        unix_s=unix_s,
        sun_altitude_deg=float(found.sun_altitude_deg[at]),
        sun_bearing_deg=float(found.sun_bearing_deg[at]),
        moon_altitude_deg=float(found.moon_altitude_deg[at]),
        moon_bearing_deg=float(found.moon_bearing_deg[at]),
        ev100={facing: float(values[at]) for facing, values in found.ev100.items()},
        words=f"{_position('Sun', found.sun_altitude_deg[at], found.sun_bearing_deg[at])}, "
        f"{_position('Moon', found.moon_altitude_deg[at], found.moon_bearing_deg[at])}",
    )


def _position(name: str, altitude_deg: float, bearing_deg: float) -> str:
    if altitude_deg < 0:
        return f"{name} {-altitude_deg:.0f}° down"
    return f"{name} {altitude_deg:.0f}° up in the {compass(bearing_deg)}"
