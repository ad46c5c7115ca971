"""A drawing with a lamp: planned, seen beforehand, rehearsed, and corrected after a take."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from oxlen.core.decisions.exposure.ask import DRAWING
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.drawing.passes import Cue
from oxlen.core.drawing.plan import EDGE_SHARE, DrawingPlan, drawing_plan
from oxlen.core.labels import signed, steps_label, time_label, two_digits
from oxlen.core.motion.strokes import SHAPES, strokes_of
from oxlen.core.review.drawing_take import corrected_drawing
from oxlen.core.simulate.lamp_line import TINTS
from oxlen.formats.plan.asked import model_of
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Strict
from oxlen.server.context import RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.sheet_edits import keep_patch
from oxlen.server.waiting import while_asked_for
from oxlen.store.sheets import sheet
from oxlen.store.takes import take
from oxlen.views.patch import Patch, changes
from oxlen.workers.worker_tasks import drawing_look, drawing_seen

router = APIRouter(prefix="/api", tags=["drawing with a lamp"], dependencies=[FOR_PHONES])
DrawingFile = model_of(Drawing)


class DrawingAsked(Strict):
    """A drawing, and how long one rehearsal of it took; `keep` puts it into the sheet."""

    drawing: DrawingFile  # type: ignore[valid-type]
    rehearsed_s: Annotated[float, Field(gt=0.2, le=3600)] | None = None
    keep: bool = False


class DrawnPassView(BaseModel):
    """What one frame of a drawing takes: the lamp’s colour, its time, and its cues."""

    colour: str
    time: str
    cues: list[Cue]


class DrawingView(BaseModel):
    """A drawing planned through, in words and figures; strokes in shares of their height."""

    drawing: DrawingFile  # type: ignore[valid-type]
    strokes: list[list[tuple[float, float]]]
    width: float
    path: str
    time: str
    takes_s: float
    exposure: str
    level_stops: float | None
    level: str
    black_stops: float
    black_s: float | None
    trail_stops: float | None
    trail: str
    white_stops: float
    curve: list[tuple[float, float]]
    room: str
    fits: bool
    passes: list[DrawnPassView]
    advice: list[str]
    shapes: list[str]
    colours: list[str]


class DrawingSeen(BaseModel):
    """What a take of a drawing shows, and what to change for the next."""

    words: list[str]
    ground: str
    line: str
    patch: Patch


@router.post("/sheets/{sheet_id}/drawing")
def planned_drawing(sheet_id: RowId, asked: DrawingAsked, context: Shared) -> DrawingView:
    """Plan a drawing of a sheet; a rehearsal tells the hand’s speed. 422 where nothing is drawn."""
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
    before = context.briefed(read_sheet(kept.body)).brief
    brief = _asking(before, asked)
    found = drawing_plan(brief)
    if asked.keep:
        keep_patch(context, kept, changes(before, brief), label=f"draw {found.drawing.what}")
    return _view(found)


@router.post("/sheets/{sheet_id}/drawing/picture", response_class=Response)
async def drawing_picture(
    sheet_id: RowId, asked: DrawingAsked, *, request: Request, context: Shared
) -> Response:
    """The frame that a drawing will give, as a small JPEG."""
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
    before = (await run_in_threadpool(context.briefed, body)).brief
    found = await run_in_threadpool(drawing_plan, _asking(before, asked))
    job = context.pool.begin(
        "bench",
        drawing_look,
        context.library.folder,
        found,
        body.picture,
        file_px=before.mode.width_px,
    )
    return Response(await while_asked_for(request, job), media_type="image/jpeg")


@router.get("/takes/{take_id}/drawing")
async def drawing_of_take(take_id: RowId, request: Request, context: Shared) -> DrawingSeen:
    """What a take of a drawing shows, and what to change first."""
    with context.library.reader() as connection:
        kept_take = take(connection, take_id)
        body = read_sheet(sheet(connection, kept_take.sheet_id).body)
    brief = (await run_in_threadpool(context.briefed, body)).brief
    planned = await run_in_threadpool(drawing_plan, brief)
    job = context.pool.begin(
        "bench", drawing_seen, context.library.folder, kept_take.sha256, box=_box(planned)
    )
    seen = await while_asked_for(request, job)
    reported = corrected_drawing(seen, planned.drawing)
    return DrawingSeen(
        words=list(reported.words),
        ground=f"{signed(seen.ground_stops)} stops from mid",
        line="none" if seen.line_stops is None else f"{signed(seen.line_stops)} stops from mid",
        patch=changes(brief, brief.asking(DRAWING, reported.drawing)),
    )


def _asking(brief: Brief, asked: DrawingAsked) -> Brief:
    drawing: Drawing = asked.drawing.as_asked  # type: ignore[attr-defined]
    if asked.rehearsed_s is not None and drawing.what.strip():
        path_m = strokes_of(drawing.what).length * drawing.height_m
        drawing = replace(drawing, hand_m_s=round(path_m / asked.rehearsed_s, 3))
    return brief.asking(DRAWING, drawing)


def _box(planned: DrawingPlan) -> tuple[float, float, float, float]:
    """Where the drawing was to be, in shares of the frame, with room about it."""
    wide = planned.room.drawn_wide_m / planned.room.wide_m / 2 + EDGE_SHARE
    high = planned.drawing.height_m / planned.room.high_m / 2 + EDGE_SHARE
    return 0.5 - wide, 0.5 - high, 0.5 + wide, 0.5 + high


def _view(found: DrawingPlan) -> DrawingView:
    drawing, slip = found.drawing, found.shutter_s
    level, trail = found.level_stops, found.trail_stops
    return DrawingView(
        drawing=DrawingFile(**vars(drawing)),
        strokes=[[(float(x), float(y)) for x, y in line] for line in found.strokes.lit],
        width=found.strokes.width,
        path=f"{two_digits(found.lit_m)} m with the lamp on, {two_digits(found.dark_m)} m without",
        time=f"{time_label(found.draws_s)} at {drawing.hand_m_s:g} m/s",
        takes_s=found.draws_s,
        exposure="no shutter keeps it black" if slip is None else steps_label(found.iso or 0, slip),
        level_stops=level,
        level="not measured yet" if level is None else f"{signed(level)} stops from mid",
        black_stops=drawing.ambient_black_stops,
        black_s=found.black_s,
        trail_stops=trail,
        trail="" if trail is None else f"{signed(trail)} stops from mid",
        white_stops=found.white_stops,
        curve=list(found.curve),
        room=found.room.words,
        fits=found.room.fits,
        passes=[
            DrawnPassView(
                colour=lamp_pass.colour,
                time=time_label(lamp_pass.draws_s),
                cues=list(lamp_pass.cues),
            )
            for lamp_pass in found.passes
        ],
        advice=list(found.advice),
        shapes=list(SHAPES),
        colours=list(TINTS),
    )
