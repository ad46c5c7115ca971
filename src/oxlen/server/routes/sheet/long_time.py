"""The long exposure of a sheet: its axis of seconds, the ways to it, and taking one."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from oxlen.core.decisions.exposure.ask import LOOKS, SUPPORT
from oxlen.core.decisions.exposure.motion_ask import ShownMotion
from oxlen.core.errors import BadInput, NotFound
from oxlen.core.labels import two_digits
from oxlen.core.light.meter import Spot
from oxlen.core.motion.measured_flow import metres_a_pixel
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Id, Strict
from oxlen.metering.flowing import Flowing
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.sheet.sheets import SheetView, view
from oxlen.server.sheet_edits import keep_patch
from oxlen.server.waiting import while_asked_for
from oxlen.store.sheets import sheet
from oxlen.store.takes import takes_of
from oxlen.views.long_time import LongTimeView, long_time
from oxlen.views.patch import Patch, changes
from oxlen.workers.worker_tasks import flow_of_pictures

router = APIRouter(prefix="/api", tags=["long exposure"], dependencies=[FOR_PHONES])
NO_LIGHT = "Add a reading or a picture first."


@router.get("/sheets/{sheet_id}/long-time")
def long_time_of(sheet_id: RowId, context: Shared) -> LongTimeView:
    """What shows when, what phone and light allow, and the ways to the time the looks take."""
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
    brief = context.briefed(body).brief
    if not brief.readings:
        raise BadInput(NO_LIGHT, "readings")
    return long_time(brief)[0]


class FlowAsked(Strict):
    """Two takes of the same water, the place in them (shares of the frame), and how far it is.

    By its distance, or by something of a known length that spans a share of the frame’s width.
    `apart_s` where the files do not say it.
    """

    takes: Annotated[list[Id], Field(min_length=2, max_length=2)]
    x: Annotated[float, Field(ge=0, le=1)]
    y: Annotated[float, Field(ge=0, le=1)]
    r: Annotated[float, Field(ge=0.02, le=0.5)] = 0.12
    distance_m: Annotated[float, Field(gt=0, le=1e5)] | None = None
    length_m: Annotated[float, Field(gt=0, le=1e4)] | None = None
    length_share: Annotated[float, Field(gt=0, le=1)] | None = None
    apart_s: Annotated[float, Field(gt=0, le=60)] | None = None
    keep: bool = False


class FlowMeasured(BaseModel):
    """What was measured, in words and figures, and what it changes in the sheet."""

    words: str
    speed_m_s: float
    plus_minus_m_s: float
    angle_deg: float
    ripple_m: float | None
    apart_s: float
    patch: Patch


@router.post("/sheets/{sheet_id}/flow")
async def measure_flow(
    sheet_id: RowId, asked: FlowAsked, *, request: Request, context: Shared
) -> FlowMeasured:
    """Measure speed and ripples of water from two takes; kept in the sheet where that is asked."""
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
        there = {take.id: take.sha256 for take in takes_of(connection, sheet_id)}
    first, second = (there.get(take) for take in asked.takes)
    if first is None or second is None:
        raise BadInput("Only takes of this sheet can be measured.", "takes")
    spot = Spot("water", asked.x, asked.y, r=asked.r)
    folder = context.library.folder
    job = context.pool.begin(
        "bench",
        flow_of_pictures,
        folder,
        (first, second),
        spot,
        apart_s=asked.apart_s,
        is_held=read_sheet(kept.body).asked()[SUPPORT.name] != "tripod",
    )
    found = await while_asked_for(request, job)
    reported = await run_in_threadpool(
        _measured, context, read_sheet(kept.body), found, asked=asked
    )
    if asked.keep:
        await run_in_threadpool(keep_patch, context, kept, reported.patch, label="measured water")
    return reported


def _measured(
    context: Context, body: SheetBody, found: Flowing, *, asked: FlowAsked
) -> FlowMeasured:
    brief = context.briefed(body).brief
    width_m = _width_m(asked, brief.lens.focal_mm, brief.mode.width_px * brief.mode.pixel_pitch_um)
    speed, doubt = found.widths_s * width_m, found.plus_minus_widths_s * width_m
    ripple = None if found.ripple_share is None else found.ripple_share * width_m
    looks = brief[LOOKS] or (ShownMotion(name="water", look="soft", speed_m_s=1.0, distance_m=5.0),)
    distance_m = asked.distance_m or float(looks[0].in_force("distance_m"))
    reported = {"speed_m_s": max(0.001, float(two_digits(speed))), "distance_m": distance_m}
    if ripple is not None:
        reported["width_m"] = float(two_digits(ripple))
    after = brief.asking(LOOKS, (replace(looks[0], **reported), *looks[1:]))  # type: ignore[arg-type]
    long = "" if ripple is None else f", ripples {two_digits(ripple)} m long"
    return FlowMeasured(
        words=f"{two_digits(speed)} m/s ± {two_digits(doubt)}{long}, from two frames "
        f"{two_digits(found.apart_s)} s apart",
        speed_m_s=speed,
        plus_minus_m_s=doubt,
        angle_deg=found.angle_deg,
        ripple_m=ripple,
        apart_s=found.apart_s,
        patch=changes(brief, after),
    )


def _width_m(asked: FlowAsked, focal_mm: float, width_um: float) -> float:
    """How much the frame spans where the water is (m)."""
    if asked.distance_m is not None:
        return float(metres_a_pixel(asked.distance_m, focal_mm, width_um))
    if asked.length_m is not None and asked.length_share is not None:
        return asked.length_m / asked.length_share
    raise BadInput(
        "Enter the distance to the water, or the length of something beside it.", "distance_m"
    )


@router.post("/sheets/{sheet_id}/long-time/{way_id}")
def take_way(sheet_id: RowId, way_id: str, context: Shared) -> SheetView:
    """Take a way: what it asks becomes what the sheet asks; undone like any edit."""
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
    body = read_sheet(kept.body)
    brief = context.briefed(body).brief
    if not brief.readings:
        raise BadInput(NO_LIGHT, "readings")
    way = next((route for route in long_time(brief)[1] if route.id == way_id), None)
    if way is None:
        raise NotFound("That route no longer exists. Reload the page.", way=way_id)
    keep_patch(context, kept, changes(brief, way.brief), label=way.name)
    return view(context, sheet_id)
