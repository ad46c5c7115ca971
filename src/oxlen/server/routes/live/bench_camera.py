"""The bench phone as a live camera, for trying out without a phone."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.devices.standins.bench_live import bench_preview
from oxlen.formats.strict import Iso, Seconds
from oxlen.server.context import RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.live.reading import body_of

router = APIRouter(prefix="/api/live", tags=["live camera"], dependencies=[FOR_PHONES])


class BenchDials(BaseModel):
    """What the simulated camera is set to; on auto where ISO or shutter is left open."""

    iso: Iso | None = None
    shutter_s: Seconds | None = None
    white_k: Annotated[float | None, Query(ge=1000, le=40000)] = None
    focus_m: Annotated[float | None, Query(ge=0.01, le=1e4)] = None
    seed: Annotated[int, Query(ge=0, le=2**31)] = 0
    whole: bool = False


@router.get("/bench/{sheet_id}", response_class=Response)
async def bench_frame(
    sheet_id: RowId, context: Shared, dials: Annotated[BenchDials, Query()]
) -> Response:
    """A frame of the simulated camera on the sheet's scene; `whole` is a photo, with its EXIF.

    The settings in force are in the headers `x-iso` and `x-shutter-s`.
    """
    body = await run_in_threadpool(body_of, sheet_id, context)
    profile = context.find_phone(body.phone)
    made = await run_in_threadpool(
        context.pool.do,
        "bench",
        bench_preview,
        profile,
        body,
        dials=dials.model_dump(),
        now=context.now(),
    )
    headers = {"x-iso": f"{made.iso:g}", "x-shutter-s": f"{made.shutter_s:g}"}
    return Response(made.jpeg, media_type="image/jpeg", headers=headers)
