"""Cameras that pages have looked through: what they can do here, and their preview's curve."""

from __future__ import annotations

import json
from dataclasses import asdict
from math import log2
from typing import Annotated

import numpy as np
from fastapi import APIRouter, Path
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from oxlen.core.live.camera import Ability, abilities
from oxlen.core.live.focus_points import FocusPoint, focus_words, with_focus_point
from oxlen.core.live.preview_curve import CurveStep, PreviewCurve, measured_curve
from oxlen.formats.live import CurveStepFile, FocusPointFile, LiveCameraFile
from oxlen.formats.strict import Name, Slug, Strict
from oxlen.metering.live_frame import codes_of_frame
from oxlen.server.context import Context, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.store.kit.live_cameras import (
    KeptCamera,
    delete_camera,
    keep_curve,
    keep_focus,
    live_camera,
    live_cameras,
    see_camera,
)

router = APIRouter(prefix="/api/cameras", tags=["live camera"], dependencies=[FOR_PHONES])
Key = Annotated[str, Path(pattern=r"^[a-z0-9][a-z0-9-]{0,40}$")]
CELLS = (9, 12)
"""Own choice: rows and columns of a frame whose means the curve rests on."""


class SeenCamera(Strict):
    """A camera as its page found it, the phone of the kit it is, and a name for the browser."""

    name: Name
    phone: Slug
    can: LiveCameraFile


class CameraView(BaseModel):
    """A phone's camera in one browser."""

    key: str
    name: str
    phone: str
    abilities: list[Ability]
    curve_plus_minus_stops: float | None
    curve_at: str | None
    focus_words: str
    seen_at: str


class CurveAsk(Strict):
    """Frames of a still scene at stepped exposures."""

    steps: Annotated[list[CurveStepFile], Field(min_length=1, max_length=24)]


@router.get("")
def cameras(context: Shared) -> list[CameraView]:
    """Cameras seen so far, the last first."""
    with context.library.reader() as connection:
        return [_view(kept) for kept in live_cameras(connection)]


@router.put("/{key}")
def see(key: Key, seen: SeenCamera, context: Shared) -> CameraView:
    """Keep what a phone's camera can do in this browser."""
    with context.library.writer() as connection:
        see_camera(
            connection,
            key,
            name=seen.name,
            phone_id=seen.phone,
            can=seen.can.model_dump_json(),
            now=context.now(),
        )
        return _view(live_camera(connection, key))


@router.delete("/{key}", status_code=204)
def delete(key: Key, context: Shared) -> None:
    """Delete a camera and its measured curve."""
    with context.library.writer() as connection:
        delete_camera(connection, key)


@router.post("/{key}/curve")
async def measure_curve(key: Key, asked: CurveAsk, context: Shared) -> CameraView:
    """Measure the preview's tone curve from frames at stepped exposures, and keep it."""
    curve = await run_in_threadpool(_measured, asked)
    return await run_in_threadpool(_kept, key, curve, context)


@router.post("/{key}/focus-points")
def keep_focus_point(key: Key, point: FocusPointFile, context: Shared) -> CameraView:
    """Keep what the camera was set to where something at a known distance was sharpest."""
    with context.library.writer() as connection:
        before = focus_points(live_camera(connection, key))
        points = with_focus_point(before, point.to_core())
        keep_focus(connection, key, json.dumps([asdict(kept) for kept in points]))
        return _view(live_camera(connection, key))


def focus_points(kept: KeptCamera) -> tuple[FocusPoint, ...]:
    """Where a camera is sharp, the farthest first."""
    return tuple(FocusPointFile.model_validate(point).to_core() for point in json.loads(kept.focus))


def _measured(asked: CurveAsk) -> PreviewCurve:
    first = asked.steps[0]
    least = first.shutter_s * first.iso
    return measured_curve(
        [
            CurveStep(log2(step.shutter_s * step.iso / least), _cells(step.frame))
            for step in asked.steps
        ]
    )


def _cells(frame: bytes) -> tuple[float, ...]:
    """Mean luma codes of a frame's cells."""
    codes = codes_of_frame(frame).mean(axis=-1)
    rows = np.array_split(codes, CELLS[0], axis=0)
    return tuple(float(cell.mean()) for row in rows for cell in np.array_split(row, CELLS[1], 1))


def _kept(key: str, curve: PreviewCurve, context: Context) -> CameraView:
    plus_minus = max(curve.plus_minus_stops(stops) for stops in (-3.0, -1.5, 0.0, 1.5))
    with context.library.writer() as connection:
        keep_curve(
            connection,
            key,
            curve=json.dumps(asdict(curve)),
            plus_minus_stops=round(plus_minus, 3),
            now=context.now(),
        )
        return _view(live_camera(connection, key))


def _view(kept: KeptCamera) -> CameraView:
    can = LiveCameraFile.model_validate_json(kept.can).to_core()
    return CameraView(
        key=kept.key,
        name=kept.name,
        phone=kept.phone_id,
        abilities=list(abilities(can)),
        curve_plus_minus_stops=kept.curve_plus_minus_stops,
        curve_at=kept.curve_at,
        focus_words=focus_words(focus_points(kept)),
        seen_at=kept.seen_at,
    )
