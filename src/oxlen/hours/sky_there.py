"""How bright the sky is where the picture points: towns and the Moon counted."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from oxlen.core.labels import stops_label
from oxlen.core.sky.brightness import (
    magnitude_of,
    moonlit_luminance_cd_m2,
    sky_luminance_cd_m2,
)
from oxlen.core.sky.dark_windows import DarkWindow
from oxlen.core.sky.ephemeris import bodies
from oxlen.core.sky.horizon import glow_stops
from oxlen.core.sky.place import altitude_deg, between_deg, towards
from oxlen.hours.night_place import NightPlace

WORTH_STOPS = 0.3


@dataclass(frozen=True)
class SkyThere:
    """Brightness (mag/arcsec²) of the sky where the picture points, and what lifts it."""

    magnitude: float
    told: tuple[str, ...]


def sky_there(where: NightPlace, core: Sequence[DarkWindow]) -> SkyThere:
    """The sky about what is wanted when it stands highest; the place's own without a window."""
    if not core:
        return SkyThere(where.magnitude, ())
    best = max(core, key=lambda one: one.altitude_deg)
    glow = float(glow_stops(where.towns, best.bearing_deg, best.altitude_deg))
    dark = float(sky_luminance_cd_m2(where.magnitude)) * 2.0**glow
    moon = _moonlight(where, best)
    lifted = float(np.log2(1 + moon / dark))
    return SkyThere(
        float(magnitude_of(dark + moon)), tuple(_told(glow_lifts=glow, moon_lifts=lifted))
    )


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


def _told(*, glow_lifts: float, moon_lifts: float) -> Iterator[str]:
    if glow_lifts >= WORTH_STOPS:
        yield f"Town glow lifts the sky there by {stops_label(glow_lifts)}"
    if moon_lifts >= WORTH_STOPS:
        yield f"The Moon lifts the sky there by {stops_label(moon_lifts)}"
