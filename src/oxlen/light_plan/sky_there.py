"""How bright the sky is where the picture points: towns, the Moon and twilight counted."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.labels import stops_label
from oxlen.core.sky.brightness import (
    magnitude_of,
    moonlit_luminance_cd_m2,
    sky_luminance_cd_m2,
)
from oxlen.core.sky.dark_windows import DarkWindow
from oxlen.core.sky.daylight import sunlight_lx
from oxlen.core.sky.ephemeris import bodies
from oxlen.core.sky.horizon import glow_stops
from oxlen.core.sky.place import altitude_deg, between_deg, towards
from oxlen.core.sky.twilight import RISES_DEG, SPAN_S
from oxlen.light_plan.night_place import NightPlace
from oxlen.light_plan.zone import clock

WORTH_STOPS = 0.3
STEP_S = 900.0
HIGH_UP_DEG, WELL_APART_DEG = 50.0, 60.0
"""Where one looks, and how far from the Moon, when nothing else is given."""
STARS_FROM_MAG = 16.0
"""In a brighter sky than this hardly a star shows."""


@dataclass(frozen=True)
class SkyThere:
    """Brightness (mag/arcsec²) of the sky where the picture points, when, and what lifts it.

    None where it stays too bright for stars.
    """

    magnitude: float | None
    at_unix_s: float
    told: tuple[str, ...] = ()


def sky_there(
    where: NightPlace, start: float, *, dark: Sequence[DarkWindow], core: Sequence[DarkWindow]
) -> SkyThere:
    """The sky about what is wanted when it is highest, else the place's own in the dark.

    In a night from noon (`start`, seconds since 1970 UTC) that does not get dark, as it is at its
    darkest.
    """
    if core:
        return _about_the_core(where, max(core, key=lambda place: place.altitude_deg))
    if dark:
        return SkyThere(where.magnitude, max(dark, key=lambda stay: stay.long_s).best_unix_s)
    return _at_its_darkest(where, start)


def _about_the_core(where: NightPlace, best: DarkWindow) -> SkyThere:
    glow = float(glow_stops(where.towns, best.bearing_deg, best.altitude_deg))
    dark = float(sky_luminance_cd_m2(where.magnitude)) * 2.0**glow
    moon = _moonlight(where, best)
    lifted = float(np.log2(1 + moon / dark))
    return SkyThere(
        float(magnitude_of(dark + moon)),
        best.best_unix_s,
        tuple(_brighter_notes(glow_lifts=glow, moon_lifts=lifted)),
    )


def _at_its_darkest(where: NightPlace, start: float) -> SkyThere:
    times: NDArray[np.float64] = start + np.arange(0.0, SPAN_S, STEP_S)
    seen = bodies(where.place, times)
    # The glow of twilight, spread over all of the sky: near the Sun it is more, away from it less.
    sun_deg = np.asarray(altitude_deg(seen.sun))
    twilight = np.asarray(sunlight_lx(sun_deg)) / np.pi
    moon = moonlit_luminance_cd_m2(
        moon_altitude_deg=altitude_deg(seen.moon),
        sky_altitude_deg=HIGH_UP_DEG,
        apart_deg=WELL_APART_DEG,
        elongation_deg=seen.elongation_deg,
    )
    dark = float(sky_luminance_cd_m2(where.magnitude))
    bright = twilight + moon + dark
    at = int(np.argmin(bright))
    magnitude, lifted = float(magnitude_of(bright[at])), float(np.log2(bright[at] / dark))
    at_unix_s = float(times[at])
    when = clock(at_unix_s, where.zone)
    if magnitude < STARS_FROM_MAG:
        return SkyThere(None, at_unix_s, (_too_bright(float(sun_deg[at]), when),))
    by = "the Moon" if float(np.asarray(moon)[at]) > twilight[at] else "twilight"
    return SkyThere(
        magnitude,
        at_unix_s,
        (f"At its darkest, at {when}, {by} lifts the sky by {stops_label(lifted)}; planned so",),
    )


def _too_bright(sun_deg: float, when: str) -> str:
    if sun_deg > RISES_DEG:
        return f"No stars: the Sun is up at the darkest moment, {when}"
    return f"Almost no stars: the darkest moment, {when}, is twilight"


def _moonlight(where: NightPlace, best: DarkWindow) -> float:
    """What the Moon adds (cd/m²) to the sky there, at that time."""
    seen = bodies(where.place, np.array([best.best_unix_s]))
    aim = towards(best.bearing_deg, best.altitude_deg)
    return float(
        moonlit_luminance_cd_m2(
            moon_altitude_deg=float(altitude_deg(seen.moon[:, 0])),
            sky_altitude_deg=best.altitude_deg,
            apart_deg=float(between_deg(seen.moon[:, 0], aim)),
            elongation_deg=float(seen.elongation_deg[0]),
        )
    )


def _brighter_notes(*, glow_lifts: float, moon_lifts: float) -> Iterator[str]:
    if glow_lifts >= WORTH_STOPS:
        yield f"Light pollution brightens the sky there by {stops_label(glow_lifts)}"
    if moon_lifts >= WORTH_STOPS:
        yield f"The Moon brightens the sky there by {stops_label(moon_lifts)}"
