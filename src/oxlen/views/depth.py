"""The depth strip as data: distances in dioptres, what is sharp, and the slider beneath."""

from __future__ import annotations

import math

import numpy as np
from pydantic import BaseModel

from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.focus.depths import (
    depth_at,
    reach_of,
    scale_in_use,
    slider_for,
    stack_distances_m,
)
from oxlen.core.decisions.focus.small_things import SmallThingWay, small_thing_ways
from oxlen.core.decisions.focus.target import focus_target
from oxlen.core.decisions.focus.words import hyperfocal_words
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.labels import counted, distance_label

STRIP_STEPS = 72
LEAST_SPAN_D = 2.0
TICKS_M = (
    math.inf,
    10.0,
    5.0,
    3.0,
    2.0,
    1.5,
    1.0,
    0.7,
    0.5,
    0.4,
    0.3,
    0.25,
    0.2,
    0.15,
    0.12,
    0.1,
    0.08,
    0.07,
    0.06,
    0.05,
    0.04,
    0.035,
    0.03,
)


class StripMark(BaseModel):
    """A distance on the strip, by its dioptres."""

    label: str
    dioptres: float


class StripPlace(BaseModel):
    """A place one may focus at: its distance, what would be sharp there, the slider's value."""

    dioptres: float
    distance_m: float
    label: str
    near_d: float
    far_d: float
    slider: float | None


class SmallThing(BaseModel):
    """One way to bring a small subject in: nearer, longer, with a clip-on, or by cropping."""

    way: str
    distance: str
    across_px: int
    of_frame: float
    depth_mm: float
    best: bool


class DepthStrip(BaseModel):
    """Everything the strip draws; near and far in dioptres, null while unknown."""

    lens_id: str
    lens_name: str
    by_hand: bool
    nearest_d: float
    farthest_d: float
    ticks: list[StripMark]
    places: list[StripPlace]
    focus_d: float | None
    focus_label: str
    band_near_d: float | None
    band_far_d: float | None
    background_d: float | None
    wanted_near_d: float | None
    wanted_far_d: float | None
    hyperfocal_words: str
    stack: list[StripMark]
    slider_ticks: list[StripMark]
    slider_words: str
    recheck: str
    small: list[SmallThing]


def depth_strip(brief: Brief, recheck: str = "") -> DepthStrip:
    """The strip of a brief, on the lens in use and through its clip-on.

    `recheck` says why the slider should be measured again.
    """
    reach, target, asked = reach_of(brief), focus_target(brief), brief[FOCUS]
    depth = None if target.distance_m is None else depth_at(brief, target.distance_m)
    nearest_d, farthest_d = 1 / reach.near_m, _dioptres(reach.far_m)
    shown = max(nearest_d, farthest_d + LEAST_SPAN_D)
    return DepthStrip(
        lens_id=brief.lens.id,
        lens_name=brief.lens.name,
        by_hand=brief.lens.focus is None or brief.lens.focus.by_hand,
        nearest_d=shown,
        farthest_d=farthest_d,
        ticks=_ticks(farthest_d, shown),
        places=_places(brief, farthest_d, nearest_d),
        focus_d=None if target.distance_m is None else _dioptres(target.distance_m),
        focus_label="" if target.distance_m is None else distance_label(target.distance_m),
        band_near_d=None if depth is None else _dioptres(depth.near_m),
        band_far_d=None if depth is None else _dioptres(depth.far_m),
        background_d=None if asked.background_m is None else 1 / asked.background_m,
        wanted_near_d=None if asked.near_m is None else 1 / asked.near_m,
        wanted_far_d=None if asked.far_m is None else 1 / asked.far_m,
        hyperfocal_words="" if asked.clip_on else hyperfocal_words(brief),
        stack=_stack(brief),
        slider_ticks=_slider_ticks(brief),
        slider_words=_slider_words(brief),
        recheck=recheck,
        small=[_small(way) for way in small_thing_ways(brief)],
    )


def _dioptres(distance_m: float) -> float:
    return 0.0 if math.isinf(distance_m) else 1 / distance_m


def _ticks(low_d: float, high_d: float) -> list[StripMark]:
    found = [
        StripMark(label=distance_label(tick_m), dioptres=_dioptres(tick_m)) for tick_m in TICKS_M
    ]
    return [mark for mark in found if low_d - 1e-9 <= mark.dioptres <= high_d + 1e-9]


def _places(brief: Brief, low_d: float, high_d: float) -> list[StripPlace]:
    found = []
    for dioptres in np.linspace(low_d, high_d, STRIP_STEPS):
        distance_m = 1e6 if dioptres < 1e-6 else float(1 / dioptres)
        depth = depth_at(brief, distance_m)
        if depth is None:
            continue
        found.append(
            StripPlace(
                dioptres=float(dioptres),
                distance_m=distance_m,
                label=distance_label(distance_m),
                near_d=_dioptres(depth.near_m),
                far_d=_dioptres(depth.far_m),
                slider=slider_for(brief, math.inf if dioptres < 1e-6 else distance_m),
            )
        )
    return found


def _stack(brief: Brief) -> list[StripMark]:
    asked = brief[FOCUS]
    if asked.near_m is None or asked.far_m is None:
        return []
    stops = stack_distances_m(brief, asked.near_m, asked.far_m)
    return [StripMark(label=distance_label(stop), dioptres=_dioptres(stop)) for stop in stops]


def _slider_ticks(brief: Brief) -> list[StripMark]:
    drive, scale = brief.lens.focus, scale_in_use(brief)
    if drive is None or scale is None:
        return []
    reach = drive.slider_high - drive.slider_low
    values = [drive.slider_low + reach * tenth / 10 for tenth in range(11)]
    values = [value for value in values if scale.points[0].value <= value <= scale.points[-1].value]
    infinity = scale.infinity
    values += [infinity.value] if infinity is not None else []
    found = scale.dioptres_at(values)
    return [
        StripMark(label=f"{value:g}", dioptres=float(dioptres))
        for value, dioptres in zip(values, found, strict=True)
    ]


def _slider_words(brief: Brief) -> str:
    """How well the slider is known, or that it is not."""
    drive, clip_on = brief.lens.focus, brief[FOCUS].clip_on
    if drive is not None and not drive.by_hand:
        return f"{brief.lens.name} has autofocus only: tap and lock."
    scale = scale_in_use(brief)
    if scale is None:
        on = "" if clip_on is None else f" with “{clip_on.name}” on"
        return f"This slider has no measured scale{on} yet. Run a focus ladder."
    dates = sorted(point.date for point in scale.points if point.date)
    since = f", measured {dates[0]}" if dates else ""
    return f"{counted(len(scale.points), 'point')}{since}."


def _small(way: SmallThingWay) -> SmallThing:
    return SmallThing(
        way=way.way,
        distance=distance_label(way.distance_m),
        across_px=round(way.across_px),
        of_frame=way.of_frame,
        depth_mm=way.depth_mm,
        best=way.best,
    )
