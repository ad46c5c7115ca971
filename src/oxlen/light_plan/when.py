"""When the sheets of an outing work on a day, and in which order they are taken."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np
from numpy.typing import NDArray

from oxlen.core.decisions.exposure.light_source import LightSource, light_source
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.night.foreground import DUSK_SUN_DEG
from oxlen.core.outing.light_windows import slip_by_the_hour, spans_of
from oxlen.core.sky.dark_windows import dark_windows
from oxlen.core.sky.day import STEP_S, DayLight, day_light
from oxlen.core.sky.daylight import Cloud
from oxlen.core.sky.twilight import SPAN_S
from oxlen.light_plan.night_place import NightPlace
from oxlen.light_plan.zone import clock, day_span_s, midnight_unix_s, noon_unix_s

DARK_EVENING_DEG = -6.0
"""Lamps of a street or a boat carry a picture once the Sun is so far down."""
DUSK_FROM_DEG, DUSK_TO_DEG = DUSK_SUN_DEG + 2, DUSK_SUN_DEG - 2


@dataclass(frozen=True)
class When:
    """The spans of a day in which a sheet works, why, and the slip of each quarter of an hour."""

    spans: tuple[tuple[float, float], ...]
    words: str
    slips: tuple[tuple[float, str], ...] = ()


@dataclass(frozen=True)
class SheetLightAsked:
    """A sheet by its title and brief, and when its light was read, if that is known."""

    title: str
    brief: Brief
    read_unix_s: float | None


@dataclass(frozen=True)
class DayAsked:
    """A day at a place under a kind of sky; `offset_stops` as the place's readings taught."""

    where: NightPlace
    day: date
    cloud: Cloud = "clear"
    offset_stops: float = 0.0


def sheet_windows(brief: Brief, asked: DayAsked, *, read_unix_s: float | None) -> When:
    """When a sheet's brief works on a day. `read_unix_s` is when its light was read, if known."""
    source = light_source(brief)
    if source is LightSource.LAMP:
        return When((_whole(asked),), "Lit by lamps: any time")
    if source is LightSource.DUSK:
        return _at_dusk(asked)
    if source in (LightSource.STARS, LightSource.DRAWING):
        start = noon_unix_s(asked.day, asked.where.zone)
        wanted = replace(asked.where.wanted, right_ascension_deg=None)
        found = dark_windows(asked.where.place, start, start + SPAN_S, wanted=wanted)
        spans = tuple((window.from_unix_s, window.to_unix_s) for window in found)
        return When(spans, _dark_words(spans))
    if not brief.readings:
        return When((), "Light not measured yet")
    light = _light(asked)
    if source is LightSource.NIGHT:
        dark = _spans(light.unix_s, light.sun_altitude_deg <= DARK_EVENING_DEG)
        sentence = "Night light, after twilight"
        return When(dark, sentence if dark else "It does not get dark on this day")
    return _by_day(brief, light, asked, read_unix_s=read_unix_s)


def _at_dusk(asked: DayAsked) -> When:
    """The evening's last light, in which foreground outlines itself against the sky."""
    start = noon_unix_s(asked.day, asked.where.zone)
    light = day_light(asked.where.place, start)
    evening = light.unix_s < start + SPAN_S / 2
    height = light.sun_altitude_deg
    spans = _spans(light.unix_s, evening & (height <= DUSK_FROM_DEG) & (height >= DUSK_TO_DEG))
    sentence = f"At dusk, the Sun {-DUSK_FROM_DEG:g}° to {-DUSK_TO_DEG:g}° down"
    return When(spans, sentence if spans else "No dusk on this day")


def _by_day(brief: Brief, light: DayLight, asked: DayAsked, *, read_unix_s: float | None) -> When:
    """The slip solved for each quarter of an hour between the twilights."""
    predicted = light.ev100["open"]
    up = light.sun_altitude_deg > DARK_EVENING_DEG
    if not up.any():
        return When((), "No daylight on this day")
    if read_unix_s is None:
        reference, counted = (
            float(predicted.max()),
            "no reading, brightest hour assumed",
        )
    else:
        reference = _predicted_at(read_unix_s, asked)
        counted = f"light measured at {clock(read_unix_s, asked.where.zone)}"
    shifts = [
        (float(at), float(ev) - reference)
        for at, ev in zip(light.unix_s[up], predicted[up], strict=True)
    ]
    quarters = slip_by_the_hour(brief, shifts)
    slips = tuple((quarter.unix_s, quarter.words) for quarter in quarters)
    spans = spans_of(quarters, step_s=STEP_S)
    if not spans:
        # What blocks it most of the day is what would have to be changed.
        (usual, _), *_ = Counter(quarter.words for quarter in quarters).most_common(1)
        return When((), f"No time of this day works: {usual}", slips=slips)
    return When(spans, f"By daylight; {counted}", slips=slips)


def _predicted_at(unix_s: float, asked: DayAsked) -> float:
    """EV100 predicted for open ground at the moment a reading was made, on whatever day."""
    # From midnight on, so that all that was read on a day shares its light.
    found = day_light(asked.where.place, unix_s - unix_s % SPAN_S, cloud=asked.cloud)
    return float(np.interp(unix_s, found.unix_s, found.ev100["open"])) + asked.offset_stops


def _light(asked: DayAsked) -> DayLight:
    start, end = _whole(asked)
    return day_light(
        asked.where.place,
        start,
        cloud=asked.cloud,
        offset_stops=asked.offset_stops,
        span_s=end - start,
    )


def _whole(asked: DayAsked) -> tuple[float, float]:
    start = midnight_unix_s(asked.day, asked.where.zone)
    return start, start + day_span_s(asked.day, asked.where.zone)


def _spans(times: NDArray[np.float64], held: NDArray[np.bool_]) -> tuple[tuple[float, float], ...]:
    edges = np.flatnonzero(np.diff(np.concatenate([[False], held, [False]]).astype(int)))
    firsts, lasts = edges[::2], edges[1::2] - 1
    return tuple((float(times[a]), float(times[b])) for a, b in zip(firsts, lasts, strict=True))


def _dark_words(spans: Sequence[tuple[float, float]]) -> str:
    if not spans:
        return "Not dark with the Moon down this night"
    return "Dark, with the Moon down"
