"""Nights at a place: which are dark, what a phone does with one, what a frame of it tells."""

from __future__ import annotations

import datetime
import json
from dataclasses import replace
from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from numpy.typing import NDArray
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.cards.calendar_file import windows_calendar
from oxlen.core.decisions.exposure.ask import SKY
from oxlen.core.decisions.exposure.scene_ask import ForegroundTreatment
from oxlen.core.labels import counted, day_label
from oxlen.core.night.ask import NightAsk, NightRule
from oxlen.core.review.night_frame import next_time
from oxlen.core.sky.brightness import magnitude_of_ev100
from oxlen.core.sky.dark_windows import DarkWindow, MoonWish, Wanted, dark_windows
from oxlen.core.sky.foreground import GRASS_SHARE
from oxlen.core.sky.galaxy import CENTRE_DEC_DEG, CENTRE_RA_DEG
from oxlen.core.sky.trailing import star_trail_px
from oxlen.formats.outing.hours import DarkWindowFile, NightFile, NightFrameFile
from oxlen.formats.outing.place import PlaceBody
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Id, Strict
from oxlen.light_plan.night import best_nights, night_plan, window_file
from oxlen.light_plan.night_place import NightPlace
from oxlen.light_plan.night_sheet import foreground_sheet, night_sheet
from oxlen.light_plan.zone import hours_of_clock, local_time, noon_unix_s
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.place_light import night_place
from oxlen.server.routes.sheet.sheets import SheetView, keep_new
from oxlen.server.waiting import while_asked_for
from oxlen.store.kept_places import kept_place
from oxlen.store.sheets import sheet
from oxlen.store.takes import Take, take
from oxlen.workers.worker_tasks import night_frame_seen

router = APIRouter(prefix="/api", tags=["nights"], dependencies=[FOR_PHONES])
MOST_BEST = 12


class NightOf(BaseModel):
    """What is wanted of a night: how far down the Sun is, the Moon, a place among the stars.

    Without `centre` it is darkness alone. `from_hour` and `to_hour` are when somebody is willing to
    be out, by the clock of the place; over midnight where the first is the later.
    """

    moon: MoonWish = "down"
    centre: bool = True
    ra_deg: Annotated[float, Query(ge=0, le=360)] = CENTRE_RA_DEG
    dec_deg: Annotated[float, Query(ge=-90, le=90)] = CENTRE_DEC_DEG
    above_deg: Annotated[float, Query(ge=0, le=89)] = 10.0
    from_hour: Annotated[float | None, Query(ge=0, le=24)] = None
    to_hour: Annotated[float | None, Query(ge=0, le=24)] = None


class SpanOf(NightOf):
    """What is wanted, from a date on, over a night, a month or a year."""

    date: datetime.date | None = None
    span: Literal["night", "month", "year"] = "month"


class ShotOf(NightOf):
    """A night, the phone, and how the stars are to look."""

    date: datetime.date | None = None
    phone: Annotated[str | None, Query(max_length=60)] = None
    lens: Annotated[str | None, Query(max_length=60)] = None
    rule: NightRule = "npf"
    trail_px: Annotated[float, Query(ge=0.2, le=1000)] = 4.0
    snr: Annotated[float, Query(ge=0.5, le=200)] = 20.0
    arc_deg: Annotated[float, Query(ge=0.5, le=180)] = 15.0
    land_stops: Annotated[float, Query(ge=-4, le=6)] = 0.0
    land_reflects: Annotated[float, Query(ge=0.01, le=1)] = GRASS_SHARE


class Nights(BaseModel):
    """The best nights of a span, the best first, and how many there are in all."""

    best: list[DarkWindowFile]
    count: int
    words: str


class NightSheet(Strict):
    """A way of a night to be made a sheet of, in an outing, and how its foreground is treated."""

    outing_id: Id
    way: Literal["one", "stack", "trails"] = "stack"
    land: ForegroundTreatment = "silhouette"


@router.get("/places/{place_id}/nights")
def nights(place_id: RowId, context: Shared, asked: Annotated[SpanOf, Query()]) -> Nights:
    """The best nights of a span, each with why."""
    where, found = _found(context, place_id, asked)
    best = best_nights(where, found, MOST_BEST)
    span = {"night": "this night", "month": "the month", "year": "the year"}[asked.span]
    words = f"{counted(len(found), 'dark window')} in {span}"
    if not found:
        words = f"No such window in {span}{_next(context, place_id, asked)}"
    return Nights(
        best=[window_file(window, where.zone, aimed=asked.centre) for window in best],
        count=len(found),
        words=words,
    )


@router.get("/places/{place_id}/nights.ics", response_class=Response)
def nights_calendar(
    place_id: RowId, context: Shared, asked: Annotated[SpanOf, Query()]
) -> Response:
    """The best nights as a calendar file."""
    where, found = _found(context, place_id, asked)
    name = _body(context, place_id).name
    events = [
        (
            local_time(window.from_unix_s, where.zone),
            local_time(window.to_unix_s, where.zone),
            f"Dark over {name}",
            window_file(window, where.zone, aimed=asked.centre).why,
        )
        for window in best_nights(where, found, MOST_BEST)
    ]
    content = windows_calendar(name, events, now=context.clock())
    headers = {"content-disposition": 'attachment; filename="nights.ics"'}
    return Response(content, media_type="text/calendar", headers=headers)


@router.get("/places/{place_id}/night")
def night(place_id: RowId, context: Shared, asked: Annotated[ShotOf, Query()]) -> NightFile:
    """One night: when it is dark, how the Milky Way leans, and what a phone does with it."""
    body = _body(context, place_id)
    return _planned(context, body, asked)


@router.post("/places/{place_id}/night", status_code=201)
def night_as_sheet(
    place_id: RowId, made: NightSheet, *, context: Shared, asked: Annotated[ShotOf, Query()]
) -> SheetView:
    """Make a sheet of a way of a night; a foreground shot by itself gets another before it."""
    body = _body(context, place_id)
    planned = _planned(context, body, asked)
    phone_id = asked.phone or context.usual_phone_id()
    lens = context.find_phone(phone_id).to_phone().lens(asked.lens)
    where = (phone_id, lens.id)
    written = night_sheet(
        planned,
        made.way,
        title=f"Stars over {body.name}",
        where=where,
        rule=asked.rule,
        trail_px=asked.trail_px,
        land=made.land,
    )
    land = foreground_sheet(
        planned, made.land, title=f"Foreground under the stars, {body.name}", where=where
    )
    bodies = [SheetBody.model_validate(body) for body in (land, written) if body is not None]
    return keep_new(made.outing_id, bodies, context)[-1]


@router.get("/takes/{take_id}/sky")
async def sky_of_take(
    take_id: RowId,
    request: Request,
    context: Shared,
    *,
    assumed_magnitude: Annotated[float | None, Query(ge=10, le=24)] = None,
    planned_trail_px: Annotated[float | None, Query(ge=0, le=10_000)] = None,
) -> NightFrameFile:
    """What a take of the night sky tells: its brightness, trails, focus, and what to change.

    Compared with the take’s own sheet unless another trail is given.
    """
    with context.library.reader() as connection:
        kept_take = take(connection, take_id)
        body = read_sheet(sheet(connection, kept_take.sheet_id).body)
    sky, trail = await run_in_threadpool(_planned_sky, context, body, kept_take)
    assumed_magnitude = sky if assumed_magnitude is None else assumed_magnitude
    planned_trail_px = trail if planned_trail_px is None else planned_trail_px
    job = context.pool.begin("bench", night_frame_seen, context.library.folder, kept_take.sha256)
    seen = await while_asked_for(request, job)
    notes = next_time(seen, assumed_magnitude=assumed_magnitude, planned_trail_px=planned_trail_px)
    return NightFrameFile(
        file=f"take {take_id}",
        **{name: getattr(seen, name) for name in SKY_FIELDS},
        star_width_px=seen.width_px,
        told=list(notes),
    )


SKY_FIELDS = ("stars", "sky_ev100", "magnitude", "dark_sky_class", "trail_px", "corner_trail_px")


def _planned_sky(
    context: Context, body: SheetBody, kept: Take
) -> tuple[float | None, float | None]:
    """The sky (mag/arcsec²) a sheet of stars was planned for, and the trail of a take’s shutter,
    in pixels of the take, which may be a smaller copy of the phone’s file."""
    brief = context.briefed(body).brief
    asked, reported = brief[SKY], json.loads(kept.settings)
    if asked is None:
        return None, None
    dark = min((found.ev100 for found in brief.readings), default=None)
    shutter_s = reported.get("shutter_s")
    trail = None
    if shutter_s:
        size = context.pictures.report(kept.sha256).file
        whole_px = max(brief.mode.width_px, brief.mode.height_px)
        smaller = min(1.0, max(size.width or whole_px, size.height or 0) / whole_px)
        pitch = brief.mode.pixel_pitch_um / smaller
        trail = float(
            star_trail_px(
                brief.lens.focal_mm, pitch, shutter_s, declination_deg=asked.declination_deg
            )
        )
    magnitude = None if dark is None else float(magnitude_of_ev100(dark))
    in_range = magnitude is not None and 10 <= magnitude <= 24
    return magnitude if in_range else None, trail


def _body(context: Context, place_id: int) -> PlaceBody:
    with context.library.reader() as connection:
        return PlaceBody.model_validate_json(kept_place(connection, place_id).body)


def _found(
    context: Context, place_id: int, asked: SpanOf
) -> tuple[NightPlace, tuple[DarkWindow, ...]]:
    body = _body(context, place_id)
    where = night_place(body, _wanted(asked, body))
    day = asked.date or context.clock().astimezone(where.zone).date()
    days = {"night": 1, "month": 31, "year": 366}[asked.span]
    first = noon_unix_s(day, where.zone)
    last = noon_unix_s(day + datetime.timedelta(days=days), where.zone)
    return where, dark_windows(where.place, first, last, wanted=where.wanted)


def _next(context: Context, place_id: int, asked: SpanOf) -> str:
    """When the next window comes after a span without one, in words."""
    if asked.span == "year":
        return ""
    where, found = _found(context, place_id, asked.model_copy(update={"span": "year"}))
    if not found:
        return ", nor in the year"
    day = local_time(found[0].from_unix_s, where.zone)
    return f"; the next is on {day_label(day)}"


def _planned(context: Context, body: PlaceBody, asked: ShotOf) -> NightFile:
    where = replace(night_place(body, _wanted(asked, body)), lamps=context.lamps_at_hand())
    phone = context.find_phone(asked.phone or context.usual_phone_id()).to_phone()
    dec = asked.dec_deg if asked.centre else 0.0
    ask = NightAsk(
        where.magnitude,
        max(-89.0, min(89.0, dec)),
        rule=asked.rule,
        trail_px=asked.trail_px,
        snr=asked.snr,
        arc_deg=asked.arc_deg,
        land_stops=asked.land_stops,
        land_reflects=asked.land_reflects,
    )
    day = asked.date or context.clock().astimezone(where.zone).date()
    return night_plan(where, day, phone=phone, lens_id=asked.lens, asked=ask)


def _wanted(asked: NightOf, body: PlaceBody) -> Wanted:
    first, last = asked.from_hour, asked.to_hour
    zone = night_place(body).zone

    def allowed(times: NDArray[np.float64]) -> NDArray[np.bool_]:
        hour = hours_of_clock(times, zone)
        low, high = first or 0.0, 24.0 if last is None else last
        inside = (hour >= low) & (hour <= high) if low <= high else (hour >= low) | (hour <= high)
        return np.asarray(inside)

    return Wanted(
        moon=asked.moon,
        right_ascension_deg=asked.ra_deg if asked.centre else None,
        declination_deg=asked.dec_deg,
        least_altitude_deg=asked.above_deg,
        allowed=None if first is None and last is None else allowed,
    )
