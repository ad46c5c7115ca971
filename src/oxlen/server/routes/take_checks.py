"""A take held against the plan of its sheet, and the correction."""

from __future__ import annotations

import json
from typing import Any

from fastapi import APIRouter, Request
from starlette.concurrency import run_in_threadpool

from oxlen.core.decisions.brief import ROLE_NAMES, Brief
from oxlen.core.decisions.plan import plan as decide
from oxlen.core.errors import BadInput
from oxlen.core.light.meter import Spot
from oxlen.core.review.take_check import TakeSettings
from oxlen.formats.plan_file import PlanFile
from oxlen.formats.plan_writing import plan_file
from oxlen.formats.sheet_file import SheetBody
from oxlen.formats.sheet_upgrades import read_sheet
from oxlen.formats.take_check_file import TakeCheckFile
from oxlen.metering.light import measured
from oxlen.metering.sheet_brief import brief_of_sheet
from oxlen.phones.of_picture import answered_for
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.waiting import while_asked_for
from oxlen.store.sheets import sheet
from oxlen.store.takes import Take, plan_of, take
from oxlen.takes.check_writing import check_to_file, planned_take
from oxlen.takes.checking import PlannedTake
from oxlen.views.patch import LIGHT_SHIFT, Patch
from oxlen.workers.at_hand import checked_take

router = APIRouter(prefix="/api", tags=["takes"])


class TakeChecked(TakeCheckFile):
    """What was found, and the fields of the sheet that the correction changes; none: nothing."""

    patch: Patch


@router.get("/takes/{take_id}/check")
async def check(take_id: RowId, request: Request, context: Shared) -> TakeChecked:
    """Hold a take against its plan: what is off, why, and the one thing to change."""
    one, body, brief, against = await run_in_threadpool(_held_against, context, take_id)
    reference = body.picture if body.picture != one.sha256 else None
    folder = context.library.folder
    job = context.crew.begin(
        "bench", checked_take, folder, one.sha256, reference=reference, plan=against
    )
    found = await while_asked_for(request, job)
    light_stops = found.check.change.light_stops
    after = await run_in_threadpool(_after, brief, light_stops)
    patch: Patch = {}
    if light_stops:
        patch = {LIGHT_SHIFT: round(body.light_shift_stops + light_stops, 1)}
    told = check_to_file(found, after)
    return TakeChecked(**told.model_dump(), patch=patch)


def _held_against(context: Context, take_id: int) -> tuple[Take, SheetBody, Brief, PlannedTake]:
    with context.library.reader() as connection:
        one = take(connection, take_id)
        body = read_sheet(sheet(connection, one.sheet_id).body)
        kept = None if one.plan_id is None else plan_of(connection, one.plan_id)
    asked = answered_for(body, context.find_phone(body.phone), context.pictures)
    light = measured(asked.body, asked.profile, context.pictures)
    brief = brief_of_sheet(
        asked.body,
        asked.profile.to_phone(),
        light,
        filters_at_hand=context.filters_at_hand(),
        clip_ons_at_hand=context.clip_ons_at_hand(),
    )
    if not brief.readings:
        raise BadInput("This sheet has no slip yet to hold a take against.", "readings")
    plan = PlanFile.model_validate_json(kept) if kept else plan_file(decide(brief))
    spots = tuple(
        Spot(spot.name or ROLE_NAMES[spot.role], spot.x, spot.y, r=spot.r) for spot in body.spots
    )
    settings: dict[str, Any] = json.loads(one.settings)
    against = planned_take(
        plan, spots, shutter_s=settings.get("shutter_s"), by_picture=body.picture is not None
    )
    if against is None:
        raise BadInput("The plan of this take had no slip to hold it against.", "plan")
    return one, body, brief, against


def _after(brief: Brief, light_stops: float) -> TakeSettings:
    slip = decide(brief.lit(light_stops)).slip
    return TakeSettings(None, None) if slip is None else TakeSettings(slip.iso, slip.shutter_s)
