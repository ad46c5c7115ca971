"""Dry runs of a sheet, and its readings as a table."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.formats.outing.night_variants import variant_ids
from oxlen.formats.scene_file import scene_ids, scene_truth
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.preview.cache import Quality
from oxlen.preview.dry_run import (
    Chooser,
    FrameFigures,
    FrameRequest,
    PredictedFrame,
    Rendition,
    figures_header,
)
from oxlen.preview.encoding import FileKind
from oxlen.preview.files_compared import FilesCompared, ViewRequest
from oxlen.server.context import RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.waiting import while_asked_for
from oxlen.store.sheets import sheet
from oxlen.views.answer import answer
from oxlen.views.match_to_phone import match_to_phone
from oxlen.views.readings_table import readings_csv
from oxlen.workers.worker_tasks import compared_files, predicted_frame

router = APIRouter(prefix="/api", tags=["dry runs"], dependencies=[FOR_PHONES])

Step = Annotated[float | None, Query(ge=1e-7, le=1e7, allow_inf_nan=False)]
FIGURES_HEADER = "x-oxlen-figures"
ENDINGS: dict[FileKind, str] = {"jpeg": "jpg", "png": "png", "tiff": "tif"}
IMAGE: dict[int | str, dict[str, Any]] = {
    200: {
        "content": {"image/jpeg": {}, "image/png": {}, "image/tiff": {}},
        "headers": {
            FIGURES_HEADER: {
                "description": "figures of the frame as JSON, see FrameFigures",
                "schema": {"type": "string"},
            }
        },
    }
}


class SceneView(BaseModel):
    """A scene whose light is known."""

    id: str
    name: str
    situation: str
    hfov_deg: float


class FrameStep(BaseModel):
    """Steps of a frame: the plan's when null, and whose they are."""

    iso: Step = None
    shutter_s: Step = None
    chooser: Chooser = "slip"
    rendition: Rendition = "processed"
    quality: Quality = "full"
    marks: bool = False
    kind: FileKind = "jpeg"


@router.get("/scenes")
def scenes() -> list[SceneView]:
    """The scenes the bench phone can photograph."""
    truths = [scene_truth(scene_id) for scene_id in [*scene_ids(), *variant_ids()]]
    return [
        SceneView(id=t.id, name=t.name, situation=t.situation, hfov_deg=t.hfov_deg) for t in truths
    ]


@router.get("/sheets/{sheet_id}/dry-run", response_class=Response, responses=IMAGE)
async def dry_run_of_sheet(
    sheet_id: RowId, request: Request, context: Shared, *, step: Annotated[FrameStep, Query()]
) -> Response:
    """The frame a pair of steps will give, as a picture; its figures come in a header."""
    body = await run_in_threadpool(_body, context, sheet_id)
    frame = await _frame(context, request, body, step=step)
    headers = {"cache-control": "no-store", FIGURES_HEADER: figures_header(frame.figures)}
    if step.kind != "jpeg":
        name = "".join(c for c in body.title if c.isascii() and (c.isalnum() or c in " -_"))
        file_name = f"{name.strip() or 'frame'}.{ENDINGS[step.kind]}"
        headers["content-disposition"] = f'attachment; filename="{file_name}"'
    return Response(frame.data, media_type=frame.media_type, headers=headers)


@router.get("/sheets/{sheet_id}/dry-run/figures")
async def dry_run_figures(
    sheet_id: RowId, request: Request, context: Shared, *, step: Annotated[FrameStep, Query()]
) -> FrameFigures:
    """What a dry run says of its frame, without the picture."""
    body = await run_in_threadpool(_body, context, sheet_id)
    return (await _frame(context, request, body, step=step)).figures


class ViewQuery(BaseModel):
    """The middle of the view as shares of the frame, and the stops it is lifted by."""

    x: Annotated[float, Query(ge=0, le=1)] = 0.5
    y: Annotated[float, Query(ge=0, le=1)] = 0.5
    lift_stops: Annotated[float, Query(ge=0, le=6)] = 0.0


@router.get("/sheets/{sheet_id}/files-compared")
async def compare_files(
    sheet_id: RowId, request: Request, context: Shared, *, at: Annotated[ViewQuery, Query()]
) -> FilesCompared:
    """The same view of the slip's frame in every file its lens can write."""
    body = await run_in_threadpool(_body, context, sheet_id)
    profile = await run_in_threadpool(context.find_phone, body.phone)
    view, folder = ViewRequest(**at.model_dump()), context.library.folder
    job = context.pool.begin("bench", compared_files, folder, body, profile, request=view)
    return await while_asked_for(request, job)


@router.get("/sheets/{sheet_id}/readings.csv", response_class=Response)
def readings_table(sheet_id: RowId, context: Shared) -> Response:
    """The readings of a sheet as comma-separated values."""
    found = answer(_body(context, sheet_id), context.find_phone, context.pictures)
    rows = [reading.model_dump() for reading in found.readings]
    headers = {"content-disposition": f'attachment; filename="readings-{sheet_id}.csv"'}
    return Response(readings_csv(rows), media_type="text/csv", headers=headers)


async def _frame(
    context: Shared, request: Request, body: SheetBody, *, step: FrameStep
) -> PredictedFrame:
    profile = await run_in_threadpool(context.find_phone, body.phone)
    wanted = FrameRequest(**step.model_dump())
    folder = context.library.folder
    frame = context.pool.begin("bench", predicted_frame, folder, body, profile, request=wanted)
    return await while_asked_for(request, frame)


def _body(context: Shared, sheet_id: int) -> SheetBody:
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
    return match_to_phone(body, context.find_phone(body.phone)).body
