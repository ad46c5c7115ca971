"""The foreground of a night at a place: its light, and when to shoot it, by each treatment."""

from __future__ import annotations

import math

import numpy as np

from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.night.ask import NightAsk
from oxlen.core.night.foreground import (
    DUSK_SUN_DEG,
    ForegroundLight,
    ForegroundWay,
    foreground_ways,
)
from oxlen.core.sky.brightness import sky_luminance_cd_m2
from oxlen.core.sky.daylight import moonlight_lx, sunlight_lx
from oxlen.core.sky.ephemeris import bodies
from oxlen.core.sky.place import altitude_deg
from oxlen.core.sky.track import Crossing, track
from oxlen.core.sky.twilight import SPAN_S
from oxlen.formats.outing.hours import ForegroundWayFile
from oxlen.light_plan.day import iso_time
from oxlen.light_plan.night_place import NightPlace
from oxlen.light_plan.sky_there import SkyThere

SMALL_LAMP, USUAL_LAMP = ("1 lm", 1.0), ("20 lm", 20.0)
MOST_LAMPS = 2
MINUTE_S = 60.0


def foreground_files(
    where: NightPlace,
    start: float,
    on: tuple[Lens, Mode],
    *,
    asked: NightAsk,
    there: SkyThere,
) -> list[ForegroundWayFile]:
    """Ways to treat the foreground in the night from noon (`start`, seconds since 1970 UTC) on.

    None in a night without stars.
    """
    if there.magnitude is None:
        return []
    dusk = _dusk(where, start)
    light = _light(where, there, dusk=dusk)
    own = sorted(where.lamps, key=lambda lamp: lamp[1])[:MOST_LAMPS]
    ways = foreground_ways(*on, asked, light=light, lamps=[SMALL_LAMP, *(own or [USUAL_LAMP])])
    at = None if dusk is None else iso_time(dusk.unix_s, where.zone)
    return [_file(way, at if way.id == "dusk" else None) for way in ways]


def _dusk(where: NightPlace, start: float) -> Crossing | None:
    """When the Sun sinks through the height of dusk; else when it rises through it at dawn."""
    found = track(where.place, start, start + SPAN_S).sun_crossings(DUSK_SUN_DEG)
    return min(found, key=lambda moment: (moment.rises, moment.unix_s), default=None)


def _light(where: NightPlace, there: SkyThere, *, dusk: Crossing | None) -> ForegroundLight:
    """Light on the foreground: from the whole sky and the Moon, at dusk from twilight too."""
    sky_lx = math.pi * float(sky_luminance_cd_m2(there.magnitude or where.magnitude))
    dark_lx = sky_lx + float(_moon_lx(where, there.at_unix_s)[0])
    if dusk is None:
        return ForegroundLight(dark_lx)
    times = np.array([dusk.unix_s, dusk.unix_s + MINUTE_S])
    heights = altitude_deg(bodies(where.place, times).sun)
    now, later = np.asarray(sunlight_lx(heights)) + _moon_lx(where, *times) + sky_lx
    a_minute = abs(math.log2(float(now) / float(later)))
    return ForegroundLight(
        dark_lx, float(now), dusk_stop_s=MINUTE_S / a_minute if a_minute > 0 else None
    )


def _moon_lx(where: NightPlace, *unix_s: float) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    seen = bodies(where.place, np.array(unix_s))
    return np.atleast_1d(np.asarray(moonlight_lx(altitude_deg(seen.moon), seen.elongation_deg)))


def _file(way: ForegroundWay, at: str | None) -> ForegroundWayFile:
    return ForegroundWayFile(
        **{
            name: getattr(way, name)
            for name in ForegroundWayFile.model_fields
            if name not in ("label", "told", "at")
        },
        label=way.answer,
        at=at,
        told=list(way.told),
    )
