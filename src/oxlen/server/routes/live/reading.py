"""The live preview: frames read as they come, and what was dialled."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.core.live.camera import DialledLine, brighter_stops, dialled
from oxlen.core.live.preview_curve import PreviewCurve
from oxlen.formats.live import CurveFile, LiveAsk, LiveCameraFile, LiveSettingsFile
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Strict
from oxlen.metering.live_frame import LiveFrame, codes_of_frame
from oxlen.metering.live_light import lens_f_number
from oxlen.pictures.exposure_tags import Exposure
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.store.kit.live_cameras import live_cameras
from oxlen.store.sheets import sheet
from oxlen.views.live import LiveView, brighter_words, live_view

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


@router.post("/dialled")
def compare_dialled(asked: DialledAsk) -> DialledView:
    """What a camera was set to against the slip, and what is left to dial by hand."""
    wanted, got = asked.wanted.to_core(), asked.got.to_core()
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
    curve = _curve(asked.camera, context)
    frame = LiveFrame(codes_of_frame(asked.frame), exposure, curve)
    return live_view(
        body,
        profile,
        frame,
        number=asked.number,
        spots=asked.spots,
        known=asked.known,
        curve=curve,
    )


def body_of(sheet_id: int, context: Context) -> SheetBody:
    """The body of a kept sheet; NotFound."""
    with context.library.reader() as connection:
        return read_sheet(sheet(connection, sheet_id).body)


def _curve(key: str | None, context: Context) -> PreviewCurve | None:
    if key is None:
        return None
    with context.library.reader() as connection:
        kept = next((found for found in live_cameras(connection) if found.key == key), None)
    if kept is None or kept.curve is None:
        return None
    return CurveFile.model_validate_json(kept.curve).to_core()
