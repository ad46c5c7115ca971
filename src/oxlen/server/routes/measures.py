"""What a sheet's picture tells of light and focus: a patch's colour, where it is sharp."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.core.errors import BadInput
from oxlen.core.light.meter import Spot
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.metering.white import OwnDial
from oxlen.server.context import RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.waiting import while_asked_for
from oxlen.store.sheets import sheet
from oxlen.workers.worker_tasks import kept_sharpness, kept_white

router = APIRouter(prefix="/api", tags=["measures"], dependencies=[FOR_PHONES])


class SpotQuery(BaseModel):
    """A disc: x, y as shares of width and height, r of the shorter side."""

    x: Annotated[float, Query(ge=0, le=1)]
    y: Annotated[float, Query(ge=0, le=1)]
    r: Annotated[float, Query(ge=0.002, le=0.5)] = 0.03


class PatchQuery(SpotQuery):
    """A patch, and the kelvin its picture was taken at where the file does not say it."""

    dial_k: Annotated[float | None, Query(ge=1000, le=25_000)] = None


class WhiteMeasured(BaseModel):
    """The light on a patch; null where the file does not say at which kelvin it was taken."""

    cct_k: float | None
    duv: float | None
    plus_minus_mired: float
    measured_in: str
    taken_at_k: float | None
    cast_mired: float | None
    warning: str | None


class SharpnessMeasured(BaseModel):
    """Where a picture is sharp, row by row, null where it is too plain; the spot against the rest.

    `covers` is how much of the picture's width and height the rows and columns take; `ratio` the
    spot's sharpness over that of the rest's sharpest places.
    """

    rows: int
    columns: int
    covers: tuple[float, float]
    values: list[float | None]
    spot: float | None
    rest: float | None
    ratio: float | None
    words: str


@router.get("/sheets/{sheet_id}/white")
async def white_of_patch(
    sheet_id: RowId, request: Request, context: Shared, *, patch: Annotated[PatchQuery, Query()]
) -> WhiteMeasured:
    """Measure the colour of the light on a white or grey patch of the sheet's picture."""
    sha256, dial = await run_in_threadpool(_picture_and_dial, context, sheet_id)
    spot = Spot("patch", patch.x, patch.y, r=patch.r)
    folder, at_k = context.library.folder, patch.dial_k
    job = context.pool.begin("bench", kept_white, folder, sha256, spot, dial_k=at_k, own_dial=dial)
    return WhiteMeasured(**await while_asked_for(request, job))


@router.get("/sheets/{sheet_id}/sharpness")
async def sharpness_of_picture(
    sheet_id: RowId, request: Request, context: Shared, *, at: Annotated[SpotQuery, Query()]
) -> SharpnessMeasured:
    """Where the sheet's picture is sharp, and how a spot of it compares."""
    sha256, _ = await run_in_threadpool(_picture_and_dial, context, sheet_id)
    spot = Spot("spot", at.x, at.y, r=at.r)
    job = context.pool.begin("bench", kept_sharpness, context.library.folder, sha256, spot)
    return SharpnessMeasured(**await while_asked_for(request, job))


def _picture_and_dial(context: Shared, sheet_id: int) -> tuple[str, OwnDial | None]:
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
    if body.picture is None:
        raise BadInput("This sheet has no picture to measure.", "picture")
    phone = context.find_phone(body.phone)
    if phone.white is None:
        return body.picture, None
    return body.picture, OwnDial(phone.make, phone.model, phone.white.offset_mired)
