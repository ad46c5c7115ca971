"""The live preview: frames read as they come, and what was dialled."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.core.live.camera import DialledLine, LiveSettings, brighter_stops, dialled
from oxlen.core.live.focus_points import FocusPoint, dioptres_focused
from oxlen.core.live.preview_curve import PreviewCurve
from oxlen.formats.live import CurveFile, KnownLightFile, LiveAsk, LiveCameraFile, LiveSettingsFile
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Slug, Strict
from oxlen.metering.live_frame import LiveFrame, codes_of_frame
from oxlen.metering.live_light import lens_f_number
from oxlen.pictures.exposure_tags import Exposure
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.live.cameras import focus_points
from oxlen.server.routes.pictures import STREAM, FileName, plain_name, stream_to
from oxlen.server.waiting import while_asked_for
from oxlen.store.kit.live_cameras import KeptCamera, live_cameras
from oxlen.store.sheets import sheet
from oxlen.views.live.view import LiveView, brighter_words, live_view
from oxlen.workers.worker_tasks import mean_light

router = APIRouter(prefix="/api/live", tags=["live camera"], dependencies=[FOR_PHONES])
MOST_PAGES = 64
"""Own choice: pages whose latest frame is remembered."""
OLDER: dict[int | str, dict[str, Any]] = {
    204: {"description": "a later frame has come: this one was not read"}
}


class DialledAsk(Strict):
    """What was wanted, what the camera then said it had set, and what it can do."""

    wanted: LiveSettingsFile
    got: LiveSettingsFile
    camera: LiveCameraFile
    key: Slug | None = None


class DialledView(BaseModel):
    """What was set, line by line, and how much brighter a frame is as set."""

    lines: list[DialledLine]
    brighter_stops: float | None
    words: str


@router.post("/sheets/{sheet_id}", response_model=LiveView, responses=OLDER)
async def read_frame(
    sheet_id: RowId, asked: LiveAsk, request: Request, *, context: Shared
) -> LiveView | Response:
    """Read a frame of the live camera for a sheet; nothing of it is kept.

    Of a page's frames only the latest is read.
    """
    latest = request.app.state.latest_live
    latest[asked.page] = max(asked.number, latest.pop(asked.page, 0))
    while len(latest) > MOST_PAGES:
        latest.pop(next(iter(latest)))

    def read() -> LiveView | None:
        if latest.get(asked.page, asked.number) > asked.number:
            return None
        return _read(sheet_id, asked, context)

    return await run_in_threadpool(read) or Response(status_code=204)


@router.post("/sheets/{sheet_id}/known", openapi_extra=STREAM)
async def known_light(
    sheet_id: RowId, request: Request, context: Shared, *, name: FileName
) -> KnownLightFile:
    """The mean light of a view from a picture of the camera app; the picture is not kept."""
    body = await run_in_threadpool(body_of, sheet_id, context)
    profile, plain = context.find_phone(body.phone), plain_name(name)
    with context.library.incoming() as incoming:
        await stream_to(incoming, request, plain)
        job = context.pool.begin("intake", mean_light, incoming, plain, profile)
        ev100, plus_minus = await while_asked_for(request, job)
    return KnownLightFile(ev100=ev100, plus_minus_stops=plus_minus, age_s=0.0)


@router.post("/dialled")
def compare_dialled(asked: DialledAsk, context: Shared) -> DialledView:
    """What a camera was set to against the slip, and what is left to dial by hand."""
    points = focus_points_of(asked.key, context)
    wanted, got = asked.wanted.to_core(), _focused(asked.got.to_core(), points)
    lines = dialled(wanted, got, asked.camera.to_core())
    stops = brighter_stops(wanted, got)
    return DialledView(
        lines=list(lines),
        brighter_stops=stops,
        words=brighter_words(stops),
    )


def _read(sheet_id: int, asked: LiveAsk, context: Context) -> LiveView:
    body = body_of(sheet_id, context)
    profile = context.find_phone(body.phone)
    settings = asked.settings
    exposure = Exposure(
        make=profile.make,
        model=profile.model,
        iso=settings.iso,
        shutter_s=settings.shutter_s,
        white_k=settings.white_k,
    )
    if settings.iso is not None and settings.shutter_s is not None:
        exposure = replace(exposure, f_number=lens_f_number(body, profile))
    kept = _camera(asked.camera, context)
    curve = None if kept is None else _curve(kept)
    frame = LiveFrame(codes_of_frame(asked.frame), exposure, curve)
    return live_view(
        body,
        profile,
        frame,
        asked=asked,
        curve=curve,
        focus=() if kept is None else focus_points(kept),
    )


def body_of(sheet_id: int, context: Context) -> SheetBody:
    """The body of a kept sheet; NotFound."""
    with context.library.reader() as connection:
        return read_sheet(sheet(connection, sheet_id).body)


def _camera(key: str | None, context: Context) -> KeptCamera | None:
    if key is None:
        return None
    with context.library.reader() as connection:
        return next((found for found in live_cameras(connection) if found.key == key), None)


def _curve(kept: KeptCamera) -> PreviewCurve | None:
    return None if kept.curve is None else CurveFile.model_validate_json(kept.curve).to_core()


def focus_points_of(key: str | None, context: Context) -> tuple[FocusPoint, ...]:
    """Where a camera is sharp; nothing of one that is not known."""
    kept = _camera(key, context)
    return () if kept is None else focus_points(kept)


def _focused(got: LiveSettings, points: tuple[FocusPoint, ...]) -> LiveSettings:
    """Settings with the camera's own focus number as the distance it is focused at."""
    if got.focus_dioptres is None:
        return got
    return replace(got, focus_dioptres=dioptres_focused(points, got.focus_dioptres))
