"""A take compared with the plan of its sheet, and the correction."""

from __future__ import annotations

import json
from dataclasses import dataclass, replace

from fastapi import APIRouter, Request
from starlette.concurrency import run_in_threadpool

from oxlen.core.decisions.exposure.ask import LAMPS
from oxlen.core.decisions.focus.ask import FOCUS, Focus
from oxlen.core.decisions.framework.brief import ROLE_NAMES, SPOT_ROLE_NAMES
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.plan import plan as decide
from oxlen.core.errors import BadInput
from oxlen.core.light.meter import Spot
from oxlen.core.review.correction import Shown, corrected
from oxlen.formats.plan.plan import PlanFile
from oxlen.formats.plan.writing import plan_file
from oxlen.formats.sheet.file import SheetBody, tapped_spot
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.take.check import TakeCheckFile
from oxlen.metering.total_time import states_total_time
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.waiting import while_asked_for
from oxlen.store.kit.learned import learned_of
from oxlen.store.sheets import sheet
from oxlen.store.takes import keep_finding, plan_of, take
from oxlen.takes.check_writing import check_to_file, next_slip, planned_take
from oxlen.takes.checking import (
    CheckedFile,
)
from oxlen.takes.lessons import finding_of
from oxlen.takes.planned import PlannedTake
from oxlen.views.patch import Patch, changes
from oxlen.workers.worker_tasks import checked_take

router = APIRouter(prefix="/api", tags=["takes"], dependencies=[FOR_PHONES])


class TakeChecked(TakeCheckFile):
    """What was found, and the fields of the sheet that the correction changes; none: nothing."""

    patch: Patch


@dataclass(frozen=True)
class _Compared:
    """A take, the picture its sheet was planned by, the plan as it is now, and what to hold."""

    sha256: str
    reference: str | None
    decided: Plan
    against: PlannedTake
    motion_px: float
    phone_id: str


@router.get("/takes/{take_id}/check")
async def check(take_id: RowId, request: Request, context: Shared) -> TakeChecked:
    """Hold a take against its plan: what is off, why, and the one thing to change."""
    held = await run_in_threadpool(_compared_with, context, take_id)
    job = context.pool.begin(
        "bench",
        checked_take,
        context.library.folder,
        held.sha256,
        reference=held.reference,
        plan=held.against,
    )
    found = await while_asked_for(request, job)
    await run_in_threadpool(_keep_finding, context, take_id, held, found=found)
    return await run_in_threadpool(_checked, held, found)


def _keep_finding(context: Context, take_id: int, held: _Compared, *, found: CheckedFile) -> None:
    """Keep what was found once: later plans of the sheet predicted nothing of this take."""
    with context.library.reader() as connection:
        if take(connection, take_id).finding is not None:
            return
        used = {learned.name: learned.value for learned in learned_of(connection, held.phone_id)}
    taught = used.get("meter_offset_stops", 0.0)
    sentence = finding_of(found, held.decided, held.phone_id, taught_stops=taught)
    with context.library.writer() as connection:
        keep_finding(connection, take_id, sentence)


def _checked(held: _Compared, found: CheckedFile) -> TakeChecked:
    before, change = held.decided, found.check.change
    blur = found.look.blur
    blur_px = 0.0 if blur is None else blur.px * found.file_scale
    shown = Shown(change, blur_px, motion_px=held.motion_px, white_k=change.white_k)
    brief = corrected(before.brief, shown)
    after = before if brief == before.brief else decide(brief)
    patch: Patch = {} if after is before else changes(before.brief, brief)
    reported = check_to_file(found, next_slip(before, after))
    return TakeChecked(**reported.model_dump(), patch=patch)


def _compared_with(context: Context, take_id: int) -> _Compared:
    with context.library.reader() as connection:
        kept_take = take(connection, take_id)
        body = read_sheet(sheet(connection, kept_take.sheet_id).body)
        kept = None if kept_take.plan_id is None else plan_of(connection, kept_take.plan_id)
    one_sheet = context.briefed(body)
    brief, profile = one_sheet.brief, one_sheet.profile
    if not brief.readings:
        raise BadInput("This sheet has no slip to compare with.", "readings")
    decided = decide(brief)
    plan = PlanFile.model_validate_json(kept) if kept else plan_file(decided)
    shutter_s = json.loads(kept_take.settings).get("shutter_s")
    against = _against(plan, decided, body, shutter_s=shutter_s)
    is_total = states_total_time(context.pictures.report(kept_take.sha256), profile)
    longer = 1.0 if shutter_s is None or plan.slip is None else shutter_s / plan.slip.shutter_s
    return _Compared(
        kept_take.sha256,
        body.picture if body.picture != kept_take.sha256 else None,
        decided,
        against=replace(against, is_total=is_total),
        motion_px=0.0 if plan.figures is None else plan.figures.motion_px * longer,
        phone_id=profile.id,
    )


def _against(
    plan: PlanFile, decided: Plan, body: SheetBody, *, shutter_s: float | None
) -> PlannedTake:
    """What a take is compared with, from the plan it was shot by and the sheet as it is decided."""
    brief = decided.brief
    spots = tuple(
        Spot(spot.name or SPOT_ROLE_NAMES[spot.role], spot.x, spot.y, r=spot.r)
        for spot in body.spots
    )
    against = planned_take(
        plan,
        spots,
        shutter_s=shutter_s,
        by_picture=body.picture is not None,
        frame_px=max(brief.mode.width_px, brief.mode.height_px),
    )
    if against is None:
        raise BadInput("The plan of this take had no slip to compare with.", "plan")
    lamps = brief[LAMPS]
    doubts = {
        reading.name or ROLE_NAMES[reading.role]: reading.plus_minus_stops
        for reading in brief.readings
    }
    planned = tuple(
        replace(planned_spot, plus_minus_stops=doubts.get(planned_spot.name) or 0.0)
        for planned_spot in against.planned
    )
    return replace(
        against,
        planned=planned,
        snr=decided.snr_pixel,
        sharp_at=_sharp_at(body, spots, brief[FOCUS].on),
        focuses_elsewhere=_focuses_elsewhere(spots, brief[FOCUS]),
        pulse_hz=against.pulse_hz if lamps is None else (lamps.pulse_hz,),
    )


def _focuses_elsewhere(spots: tuple[Spot, ...], focus: Focus) -> bool:
    """Whether focus is set by hand on something that no spot is named after."""
    is_named = any(spot.name and spot.name in focus.on for spot in spots)
    return bool(focus.on) and focus.distance_m is not None and not is_named


def _sharp_at(body: SheetBody, spots: tuple[Spot, ...], focus_on: str) -> Spot | None:
    """Where blur is looked for: the spot that is focused on by name, else the one to tap."""
    named = next((spot for spot in spots if spot.name and spot.name in focus_on), None)
    tapped = tapped_spot(body)
    if named is not None or tapped is None:
        return named
    return Spot("focus", tapped.x, tapped.y, r=tapped.r)
