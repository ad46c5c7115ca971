"""The light of a day at a place, and when an outing's sheets work in it."""

from __future__ import annotations

import datetime
from functools import partial
from typing import Annotated, Literal
from zoneinfo import ZoneInfo

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from oxlen.cards.calendar_file import windows_calendar
from oxlen.core.decisions.sequence.ramp import rate_stops_min
from oxlen.core.errors import BadInput
from oxlen.core.labels import signed
from oxlen.core.outing.order import outing_order
from oxlen.core.sky.daylight import CLOUDS, FACINGS, Cloud, Facing
from oxlen.formats.outing.hours import HoursFile
from oxlen.formats.outing.place import PlaceBody
from oxlen.light_plan.day import hours_of_day
from oxlen.light_plan.night_place import NightPlace
from oxlen.light_plan.when import DayAsked
from oxlen.light_plan.zone import clock, local_time, midnight_unix_s, zone_named
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.outing_windows import windows_job
from oxlen.server.permits import FOR_PHONES
from oxlen.server.place_light import night_place, place_of
from oxlen.server.routes.sheet.ramps import RampMeasured
from oxlen.store.kept_places import kept_place
from oxlen.store.outings import outing
from oxlen.store.sheets import sheets_of
from oxlen.workers.sheets import SheetWindows
from oxlen.workers.worker_pool import LIMIT_S, outcome

router = APIRouter(prefix="/api", tags=["light of a day"], dependencies=[FOR_PHONES])
RAMP_SPAN_S = 1800.0
ANSWERS_WITHIN_S = 3.0
"""Many sheets take longer: how far they are is the answer then."""
SHORTEST_DAY_S = 23 * 3600.0
"""A day on which clocks are put forward."""


class DayOf(BaseModel):
    """Which day, under what sky; today by the place’s clock where none is named."""

    date: datetime.date | None = None
    cloud: Cloud = "clear"


class OrderOf(DayOf):
    """Which day; how long each picture takes and the walk between two, in minutes."""

    takes_min: Annotated[float, Query(ge=1, le=240)] = 15
    walk_min: Annotated[float, Query(ge=0, le=240)] = 5
    from_hour: Annotated[float, Query(ge=0, le=24)] = 7


class DayView(BaseModel):
    """The light of a day, what the facings and skies are called."""

    hours: HoursFile
    facings: dict[Facing, str]
    clouds: dict[Cloud, str]


class SpanView(BaseModel):
    """A span of time by the clock of the place."""

    from_unix_s: float
    to_unix_s: float
    words: str


class SlipAt(BaseModel):
    """What a quarter of an hour would be dialled at."""

    unix_s: float
    words: str


class SheetWhen(BaseModel):
    """When a sheet works on a day, its slips by the hour, and its position in the order."""

    sheet_id: int
    title: str
    words: str
    spans: list[SpanView]
    slips: list[SlipAt]
    begins_unix_s: float | None = None
    begins: str | None = None


class OutingWhen(BaseModel):
    """An outing's sheets on a day, in the order proposed; those that fit nowhere last.

    With many sheets it may be `working` for a while: ask again for how far it is.
    """

    place: str
    date: str
    state: Literal["working", "done"]
    done: int
    all: int
    sheets: list[SheetWhen]


@router.get("/places/{place_id}/day")
def day(place_id: RowId, context: Shared, asked: Annotated[DayOf, Query()]) -> DayView:
    """The light of a day at a place."""
    with context.library.reader() as connection:
        body = PlaceBody.model_validate_json(kept_place(connection, place_id).body)
    zone = zone_named(body.time_zone, body.place)
    found = hours_of_day(
        body.place,
        asked.date or _today(context, zone),
        zone,
        cloud=asked.cloud,
        offset_stops=body.offset_stops,
    )
    return DayView(hours=found, facings={**FACINGS}, clouds={**CLOUDS})


@router.get("/outings/{outing_id}/when")
async def when(outing_id: RowId, context: Shared, asked: Annotated[OrderOf, Query()]) -> OutingWhen:
    """When each sheet of an outing works on its day, and an order to take them in."""
    return await _when(outing_id, context, asked, within_s=ANSWERS_WITHIN_S)


async def _when(outing_id: int, context: Context, asked: OrderOf, *, within_s: float) -> OutingWhen:
    with context.library.reader() as connection:
        entry = outing(connection, outing_id)
        body = place_of(connection, entry)
        sheets = sheets_of(connection, outing_id)
    where = night_place(body)
    on = asked.date or (datetime.date.fromisoformat(entry.date) if entry.date else None)
    on = on or _today(context, where.zone)
    asked_day = DayAsked(where, on, cloud=asked.cloud, offset_stops=body.offset_stops)
    job = await run_in_threadpool(windows_job, context, sheets, asked_day)
    waiting = OutingWhen(
        place=body.name, date=on.isoformat(), state="working", done=0, all=len(sheets), sheets=[]
    )
    if not await job.within(within_s):
        return waiting.model_copy(update={"done": job.progress_of().done})
    found = outcome(job.future)
    reported = {windows.number: _sheet_when(windows, zone=where.zone) for windows in found}
    ordered = _in_order(reported, asked, where=where, on=on)
    done = {"state": "done", "done": len(sheets), "sheets": ordered}
    return waiting.model_copy(update=done)


@router.get("/outings/{outing_id}/light.ics", response_class=Response)
async def light_calendar(
    outing_id: RowId, context: Shared, asked: Annotated[OrderOf, Query()]
) -> Response:
    """The order proposed for an outing as a calendar file: each sheet when it is begun."""
    found = await _when(outing_id, context, asked, within_s=LIMIT_S)
    with context.library.reader() as connection:
        zone = night_place(place_of(connection, outing(connection, outing_id))).zone
    takes_s = 60 * asked.takes_min
    events = [
        (
            local_time(sheet.begins_unix_s, zone),
            local_time(sheet.begins_unix_s + takes_s, zone),
            sheet.title,
            sheet.words,
        )
        for sheet in found.sheets
        if sheet.begins_unix_s is not None
    ]
    content = windows_calendar(found.place, events, now=context.clock())
    headers = {"content-disposition": 'attachment; filename="light.ics"'}
    return Response(content, media_type="text/calendar", headers=headers)


def _in_order(
    by_sheet: dict[int, SheetWhen], asked: OrderOf, *, where: NightPlace, on: datetime.date
) -> list[SheetWhen]:
    order = outing_order(
        [
            (number, [(span.from_unix_s, span.to_unix_s) for span in windows.spans])
            for number, windows in by_sheet.items()
        ],
        takes_s=60 * asked.takes_min,
        walk_s=60 * asked.walk_min,
        from_s=midnight_unix_s(on, where.zone) + 3600 * asked.from_hour,
    )
    return [
        by_sheet[place.id].model_copy(
            update={
                "begins_unix_s": place.begins_unix_s,
                "begins": None
                if place.begins_unix_s is None
                else clock(place.begins_unix_s, where.zone),
            }
        )
        for place in order
    ]


@router.get("/outings/{outing_id}/rate")
def rate_by_the_hour(
    outing_id: RowId,
    context: Shared,
    at: Annotated[str, Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")],
) -> RampMeasured:
    """How fast daylight changes on the outing’s day over half an hour from a time."""
    with context.library.reader() as connection:
        entry = outing(connection, outing_id)
        body = place_of(connection, entry)
    if entry.date is None:
        raise BadInput("Give the outing a date first.", "date")
    zone = zone_named(body.time_zone, body.place)
    found = hours_of_day(body.place, datetime.date.fromisoformat(entry.date), zone)
    hours, minutes = (int(part) for part in at.split(":"))
    begin = found.quarters[0].unix_s + 3600 * hours + 60 * minutes
    near = [
        (quarter.unix_s, quarter.ev100["open"])
        for quarter in found.quarters
        if begin - 450 <= quarter.unix_s <= begin + RAMP_SPAN_S
    ]
    rate = rate_stops_min(near)
    return RampMeasured(
        stops_min=rate, words=f"{signed(rate, 2)} stops a minute from {at}, clear sky"
    )


def _sheet_when(windows: SheetWindows, *, zone: ZoneInfo) -> SheetWhen:
    found = windows.when
    at = partial(clock, zone=zone)
    return SheetWhen(
        sheet_id=windows.number,
        title=windows.title,
        words=found.words,
        spans=[
            SpanView(
                from_unix_s=a,
                to_unix_s=b,
                words="all day" if b - a >= SHORTEST_DAY_S else f"{at(a)} to {at(b)}",
            )
            for a, b in found.spans
        ],
        slips=[SlipAt(unix_s=slip, words=words) for slip, words in found.slips],
    )


def _today(context: Context, zone: ZoneInfo) -> datetime.date:
    return context.clock().astimezone(zone).date()
