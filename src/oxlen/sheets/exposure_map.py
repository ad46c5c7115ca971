"""The exposure map as data: every pair of steps with what it would mean, nothing left to decide."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from pydantic import BaseModel

from oxlen.core.decide.conflict import tightest_bounds
from oxlen.core.decide.limits import Limit
from oxlen.core.decide.plan import Plan
from oxlen.core.labels import shutter_label, stops_label
from oxlen.core.light.exposure import shutter_for_ev100
from oxlen.core.light.placement import headroom_at_iso
from oxlen.core.sensor.noise import darkest_usable_stops, snr_at_output

SCREEN_PIXELS = 1920 * 1440
"""Size a picture is judged at unless the sheet says otherwise: filling a large screen."""


class ShutterStep(BaseModel):
    """A shutter step and how it is said."""

    value_s: float
    label: str


class IsoStep(BaseModel):
    """An ISO step with its ends of the tone rail: clipping, and the tone where SNR is 10."""

    value: float
    label: str
    headroom_stops: float
    floor_stops: float | None


class MapPoint(BaseModel):
    """A place on the map, not necessarily on the steps."""

    shutter_s: float
    iso: float


class ExposureMap(BaseModel):
    """Steps, and per pair (rows ISO, columns shutter) residual in stops and limits broken.

    `broken` is a bit mask over `limit_ids`; `diagonal` lists [row, column] of the pairs within
    half a step of the wanted exposure, shortest shutter first. `line` is the wanted exposure
    across the map, `open` the stretch of it that every limit leaves.
    """

    shutters: list[ShutterStep]
    isos: list[IsoStep]
    residual_stops: list[list[float]]
    residual_words: dict[str, str]
    broken: list[list[int]]
    limit_ids: list[str]
    diagonal: list[list[int]]
    half_step_stops: float
    line: list[MapPoint] | None
    open: list[MapPoint] | None


def exposure_map(plan: Plan) -> ExposureMap:
    """The map of a plan."""
    grid, mode = plan.grid, plan.brief.mode
    limit_ids = list(plan.broken)
    bits = sum(
        (plan.broken[limit_id].astype(int) << bit for bit, limit_id in enumerate(limit_ids)),
        start=np.zeros(grid.shape, dtype=int),
    )
    rows, columns = np.nonzero(grid.near)
    order = np.lexsort((rows, columns))
    residual = np.round(grid.residual_stops, 2) + 0.0
    return ExposureMap(
        shutters=[
            ShutterStep(value_s=float(t), label=shutter_label(float(t))) for t in grid.shutter_s
        ],
        isos=_iso_steps(plan),
        residual_stops=residual.tolist(),
        residual_words=_over_under_words(float(np.abs(residual).max())),
        broken=bits.tolist(),
        limit_ids=limit_ids,
        diagonal=np.column_stack([rows, columns])[order].tolist(),
        half_step_stops=mode.manual.half_step_stops,
        line=_stretch(plan, [limit for limit in plan.limits if limit.owner == "device"]),
        open=_stretch(plan, plan.limits) if plan.window else None,
    )


def _stretch(plan: Plan, limits: Sequence[Limit]) -> list[MapPoint] | None:
    """Ends of the wanted exposure between the shutter and ISO bounds of some limits."""
    bounds = tightest_bounds(limits)
    shutter_times_iso = shutter_for_ev100(plan.aim.ev100, plan.brief.lens.f_number, 1.0)
    shortest = max(bounds.shutter_min.low or 0.0, shutter_times_iso / (bounds.iso_max.high or 1.0))
    longest = min(bounds.shutter_max.high or 0.0, shutter_times_iso / (bounds.iso_min.low or 1.0))
    if shortest > longest:
        return None
    return [
        MapPoint(shutter_s=float(t), iso=float(shutter_times_iso / t)) for t in (shortest, longest)
    ]


def _iso_steps(plan: Plan) -> list[IsoStep]:
    grid, mode = plan.grid, plan.brief.mode
    headroom = mode.headroom_stops(plan.brief.file_format)
    tops = np.atleast_1d(headroom_at_iso(headroom, iso=grid.iso, base_iso=mode.sensor.base_iso))
    gain = float(snr_at_output(1.0, mode.width_px * mode.height_px, SCREEN_PIXELS))
    read_noise = mode.read_noise_at(grid.iso)
    floors = np.atleast_1d(
        darkest_usable_stops(mode.sensor, iso=grid.iso, read_noise_e=read_noise, output_gain=gain)
    )
    return [
        IsoStep(
            value=float(iso),
            label=f"{iso:g}",
            headroom_stops=float(top),
            floor_stops=None if np.isnan(floor) else float(floor),
        )
        for iso, top, floor in zip(grid.iso, tops, floors, strict=True)
    ]


def _over_under_words(largest: float) -> dict[str, str]:
    """Words for every tenth of a stop over or under, so that dragging can say them."""
    tenths = range(-round(largest * 10), round(largest * 10) + 1)
    return {str(t): _words(t / 10) for t in tenths}


def _words(stops: float) -> str:
    if stops == 0:
        return "on the wanted exposure"
    return f"{stops_label(stops)} {'brighter' if stops > 0 else 'darker'} than wanted"
