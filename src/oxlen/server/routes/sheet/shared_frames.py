"""Several exposures in one frame: what each needs, and a look at their sum."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.shared_frame import RULE_WORDS, OneExposure, shared_exposures
from oxlen.core.errors import BadInput
from oxlen.core.labels import signed, steps_label
from oxlen.devices.standins.bench_exposures import BenchExposures, shoot_exposures
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Id, Strict
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.waiting import while_asked_for
from oxlen.store.sheets import sheet
from oxlen.store.takes import takes_of
from oxlen.workers.worker_tasks import shared_look

router = APIRouter(prefix="/api", tags=["multiple exposure"], dependencies=[FOR_PHONES])
Weight = Annotated[float, Field(gt=0, le=100)]


class SharedAsked(Strict):
    """The rule, each exposure’s share, and the takes that are there already, in their order.

    A place without a take is looked at with the sheet’s picture in it.
    """

    rule: Literal["add", "mean", "lighten", "darken"] = "add"
    weights: tuple[Weight, ...] = Field(default=(1.0, 1.0), min_length=2, max_length=9)
    takes: tuple[Id | None, ...] = Field(default=(), max_length=9)


class SharedExposure(BaseModel):
    """One exposure: what to dial, and how far it is under a frame of its own."""

    label: str
    iso: float
    shutter_s: float
    share: float
    stops: str
    residual_stops: float


class SharedView(BaseModel):
    """What each exposure needs, and what the rule does."""

    words: str
    exposures: list[SharedExposure]


@router.post("/sheets/{sheet_id}/exposures")
def exposures(sheet_id: RowId, asked: SharedAsked, context: Shared) -> SharedView:
    """What each of multiple exposure in one frame is dialled at."""
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
    found = _shared(context, body, asked)
    return SharedView(
        words=RULE_WORDS[asked.rule],
        exposures=[
            SharedExposure(
                label=steps_label(exposure.iso, exposure.shutter_s),
                iso=exposure.iso,
                shutter_s=exposure.shutter_s,
                share=exposure.share,
                stops="combined" if exposure.stops == 0 else f"{signed(exposure.stops)} stops",
                residual_stops=exposure.residual_stops,
            )
            for exposure in found
        ],
    )


@router.post("/sheets/{sheet_id}/exposures/picture", response_class=Response)
async def sum_of_exposures(
    sheet_id: RowId, asked: SharedAsked, *, request: Request, context: Shared
) -> Response:
    """A small look at the sum, as JPEG: of takes, and the sheet’s picture where none is yet."""
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
        there = {take.id: take.sha256 for take in takes_of(connection, sheet_id)}
    found = await run_in_threadpool(_shared, context, body, asked)
    frames: list[tuple[str, float]] = []
    for place, exposure in enumerate(found):
        take_id = asked.takes[place] if place < len(asked.takes) else None
        sha256 = None if take_id is None else there.get(take_id)
        if sha256 is not None:
            frames.append((sha256, 0.0))
        elif body.picture is not None:
            frames.append((body.picture, exposure.stops))
    if not frames:
        raise BadInput("Add takes or a picture to see the sum.", "takes")
    job = context.pool.begin(
        "bench",
        shared_look,
        context.library.folder,
        frames,
        asked.rule,
    )
    return Response(await while_asked_for(request, job), media_type="image/jpeg")


@router.post("/sheets/{sheet_id}/exposures/bench", status_code=201)
async def shoot(
    sheet_id: RowId, asked: SharedAsked, *, request: Request, context: Shared
) -> list[int]:
    """Shoot the exposures on the bench phone, each by its steps; the takes they are, in order."""
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
        before = {take.id for take in takes_of(connection, sheet_id)}
    if body.scene is None:
        raise BadInput("The bench phone has no scene for this sheet.", "scene")
    found = await run_in_threadpool(_shared, context, body, asked)
    steps = tuple((exposure.iso, exposure.shutter_s) for exposure in found)
    # Each time it is shot anew: other frames with other noise.
    shot = BenchExposures(sheet_id, body, steps, seed=len(before))
    profile, folder = context.find_phone(body.phone), context.library.folder
    job = context.pool.begin("bench", shoot_exposures, folder, shot, profile, now=context.now())
    await while_asked_for(request, job)
    with context.library.reader() as connection:
        return [take.id for take in takes_of(connection, sheet_id) if take.id not in before]


def _shared(context: Context, body: SheetBody, asked: SharedAsked) -> tuple[OneExposure, ...]:
    brief = context.briefed(body).brief
    if not brief.readings:
        raise BadInput("Add a reading first.", "readings")
    return shared_exposures(plan(brief), asked.rule, asked.weights)
