"""The Milky Way in the frame of a lens, from the first to the last dark minute."""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oxlen.core.kit.phone import Lens
from oxlen.core.sky.dark_windows import DarkWindow
from oxlen.core.sky.ephemeris import fixed
from oxlen.core.sky.galaxy import band, band_view
from oxlen.core.sky.horizon import hidden_below_deg
from oxlen.core.sky.in_frame import aimed_at, in_frame
from oxlen.core.sky.place import Vectors, altitude_deg, bearing_deg, towards
from oxlen.formats.outing.hours import SkyFrameFile, SkyMomentFile
from oxlen.light_plan.compass import compass
from oxlen.light_plan.day import iso_time
from oxlen.light_plan.night_place import NightPlace

Held = Literal["upright", "wide"]
HELD: tuple[Held, ...] = ("upright", "wide")
MOMENTS = 12
REACH_DEG = 90.0
"""How far from its centre the Milky Way is drawn. Own choice: it fades before."""
BEYOND = 0.6
"""Places further outside the frame than this, as a share of it, are left out."""
SKYLINE_DEG = np.arange(-85.0, 85.1, 2.5)


def sky_frames(where: NightPlace, window: DarkWindow, lens: Lens) -> list[SkyFrameFile]:
    """The frame of a lens held upright and held wide, aimed at the best moment of a window."""
    times = np.linspace(window.from_unix_s, window.to_unix_s, MOMENTS)
    best = int(np.searchsorted(times, window.best_unix_s))
    times = np.insert(times, best, window.best_unix_s)
    seen = fixed(where.place, times, band(REACH_DEG))
    return [_frame(where, seen, times, lens=lens, held=held, best=best) for held in HELD]


def _frame(
    where: NightPlace,
    seen: Vectors,
    times: NDArray[np.float64],
    *,
    lens: Lens,
    held: Held,
    best: int,
) -> SkyFrameFile:
    field = view_deg(lens, held)
    bearing, altitude = _brightest_up(seen[:, :, best])
    aim = aimed_at(bearing, altitude, down_deg=field[1])
    skyline = in_frame(_skyline(where, bearing), field_deg=field, aim=aim)
    return SkyFrameFile(
        held=held,
        across_deg=field[0],
        down_deg=field[1],
        bearing_deg=bearing,
        altitude_deg=float(altitude_deg(aim)),
        skyline=[(float(x), float(y)) for x, y in skyline.T if _is_near(x)],
        moments=[
            _moment(seen[:, :, at], iso_time(float(time), where.zone), field_deg=field, aim=aim)
            for at, time in enumerate(times)
        ],
        best=best,
    )


def view_deg(lens: Lens, held: Held) -> tuple[float, float]:
    """The view of a lens (°), across and down."""
    long_mm, short_mm = lens.mode(None).sensor_mm
    long, short = (
        float(2 * np.degrees(np.arctan(side / 2 / lens.focal_mm))) for side in (long_mm, short_mm)
    )
    return (short, long) if held == "upright" else (long, short)


def _brightest_up(seen: Vectors) -> tuple[float, float]:
    """Bearing and altitude (°) of the Milky Way's centre, else of the part that is up."""
    middle = seen[:, seen.shape[1] // 2]
    up = seen[:, seen[2] > 0]
    if middle[2] <= 0 and up.size:
        middle = up.mean(axis=1)
    return float(bearing_deg(middle)), float(altitude_deg(middle))


def _skyline(where: NightPlace, bearing: float) -> Vectors:
    bearings = (bearing + SKYLINE_DEG) % 360
    heights = hidden_below_deg(where.wanted.horizon, bearings)
    return towards(bearings, np.asarray(heights, dtype=float) + 0 * bearings)


def _moment(
    seen: Vectors, at: str, *, field_deg: tuple[float, float], aim: Vectors
) -> SkyMomentFile:
    places = in_frame(seen, field_deg=field_deg, aim=aim)
    count = seen.shape[1]
    strengths = 1 - np.abs(np.arange(count) - count // 2) / (count // 2)
    core = places[:, count // 2]
    view = band_view(seen)
    is_up = view.centre_altitude_deg > 0
    return SkyMomentFile(
        at=at,
        words=(
            f"core {view.centre_altitude_deg:.0f}° up in the {compass(view.centre_bearing_deg)}"
            if is_up
            else "core below the horizon"
        ),
        ribbon=[
            (float(x), float(y), float(strength))
            for (x, y), strength in zip(places.T, strengths, strict=True)
            if _is_near(x) and _is_near(y)
        ],
        core=(float(core[0]), float(core[1])) if is_up and _is_near(core[0]) else None,
    )


def _is_near(place: float) -> bool:
    """Whether a place is in the frame or little beside it; False where it is not a number."""
    return bool(-BEYOND <= place <= 1 + BEYOND)
