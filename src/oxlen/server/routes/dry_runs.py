"""Dry runs of a sheet, its readings as a table, and shots on the bench phone."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import BaseModel, Field

from oxlen.core.errors import BadInput
from oxlen.formats.phone_profile import Positive, Strict
from oxlen.formats.scene_file import scene_ids, scene_truth
from oxlen.server.context import RowId, Shared
from oxlen.server.routes.sheets import SheetView, view
from oxlen.sheets.answer import answer
from oxlen.sheets.bench_shot import BenchShot, shoot_on_bench
from oxlen.sheets.body import SheetBody
from oxlen.sheets.dry_run import (
    FileKind,
    Look,
    Quality,
    Wanted,
    Who,
    dry_run,
    figures_header,
    readings_csv,
)
from oxlen.store.sheets import sheet

router = APIRouter(prefix="/api", tags=["dry runs"])

Step = Annotated[Positive | None, Query()]
IMAGE: dict[int | str, dict[str, Any]] = {
    200: {
        "content": {"image/jpeg": {}, "image/png": {}, "image/tiff": {}},
        "headers": {
            "x-oxlen-figures": {
                "description": "figures of the frame as JSON, see DryFigures",
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


class BenchShotRequest(Strict):
    """How to take it: by the sheet's slip or on auto; the seed of its random."""

    auto: bool = False
    seed: Annotated[int, Field(ge=0, le=2**31)] = 0


@router.get("/scenes")
def scenes() -> list[SceneView]:
    """The scenes the bench phone can photograph."""
    truths = [scene_truth(scene_id) for scene_id in scene_ids()]
    return [
        SceneView(id=t.id, name=t.name, situation=t.situation, hfov_deg=t.hfov_deg) for t in truths
    ]


@router.get("/sheets/{sheet_id}/dry-run", response_class=Response, responses=IMAGE)
def dry_run_of_sheet(
    sheet_id: RowId,
    context: Shared,
    iso: Step = None,
    shutter_s: Step = None,
    who: Who = "slip",
    look: Look = "processed",
    quality: Quality = "full",
    marks: bool = False,
    kind: FileKind = "jpeg",
) -> Response:
    """The frame a pair of steps will give, as a picture; its figures come in a header."""
    body = _body(context, sheet_id)
    wanted = Wanted(iso, shutter_s, who, look, quality, marks, kind)
    frame = dry_run(body, context.find_phone, context.dry_room, wanted)
    headers = {
        "cache-control": "no-store",
        "x-oxlen-figures": figures_header(frame.figures),
    }
    if kind != "jpeg":
        ending = {"png": "png", "tiff": "tif"}[kind]
        name = "".join(c for c in body.title if c.isascii() and (c.isalnum() or c in " -_"))
        headers["content-disposition"] = (
            f'attachment; filename="{name.strip() or "frame"}.{ending}"'
        )
    return Response(frame.data, media_type=frame.media_type, headers=headers)


@router.get("/sheets/{sheet_id}/readings.csv", response_class=Response)
def readings_table(sheet_id: RowId, context: Shared) -> Response:
    """The readings of a sheet as comma-separated values."""
    found = answer(_body(context, sheet_id), context.find_phone, context.room)
    rows = [reading.model_dump() for reading in found.readings]
    headers = {"content-disposition": f'attachment; filename="readings-{sheet_id}.csv"'}
    return Response(readings_csv(rows), media_type="text/csv", headers=headers)


@router.post("/sheets/{sheet_id}/bench-shot", status_code=201)
def bench_shot(sheet_id: RowId, how: BenchShotRequest, context: Shared) -> SheetView:
    """Photograph the sheet's scene on the bench phone; the take comes in as a sheet of its own."""
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
    body = SheetBody.model_validate_json(kept.body)
    if body.scene is None:
        raise BadInput("This sheet has no scene the bench phone could photograph.", "scene")
    shot = BenchShot(body, kept.outing_id, how.auto, how.seed)
    return view(
        context,
        shoot_on_bench(context.library, context.find_phone, context.room, shot, context.now()),
    )


def _body(context: Shared, sheet_id: int) -> SheetBody:
    with context.library.reader() as connection:
        return SheetBody.model_validate_json(sheet(connection, sheet_id).body)
