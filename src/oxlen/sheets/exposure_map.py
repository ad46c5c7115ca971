"""The exposure map as data: every pair of steps with what it would mean, nothing left to decide."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from oxlen.core.decide.plan import Plan
from oxlen.core.labels import shutter_label, stops_label
from oxlen.core.light.placement import headroom_at_iso
from oxlen.core.sensor.noise import darkest_usable_stops


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


class ExposureMap(BaseModel):
    """Steps, and per pair (rows ISO, columns shutter) residual in stops and limits broken.

    `broken` is a bit mask over `limit_ids`; `diagonal` lists [row, column] of the pairs within
    half a step of the wanted exposure, shortest shutter first.
    """

    shutters: list[ShutterStep]
    isos: list[IsoStep]
    residual_stops: list[list[float]]
    residual_words: dict[str, str]
    broken: list[list[int]]
    limit_ids: list[str]
    diagonal: list[list[int]]
    half_step_stops: float


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
    )


def _iso_steps(plan: Plan) -> list[IsoStep]:
    grid, mode = plan.grid, plan.brief.mode
    headroom = mode.headroom_stops(plan.brief.file_format)
    tops = np.atleast_1d(headroom_at_iso(headroom, iso=grid.iso, base_iso=mode.sensor.base_iso))
    floors = np.atleast_1d(
        darkest_usable_stops(mode.sensor, iso=grid.iso, read_noise_e=mode.read_noise_at(grid.iso))
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
