"""Sets of frames stacked: begun, filled, worked on, and the result."""

from __future__ import annotations

import json
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import FileResponse, Response
from starlette.concurrency import run_in_threadpool

from oxlen.core.decisions.exposure.shown_in_frames import drops_what_passes
from oxlen.core.errors import BadInput, NotFound
from oxlen.devices.standins.bench_set import BenchSet, shoot_set
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import MOST_ID
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.pictures import STREAM, FileName, plain_name, stream_to
from oxlen.server.routes.take.stack_views import (
    BenchFrames,
    NewStack,
    StackAsked,
    StackView,
    TakesOfSet,
    land_takes,
    stack_view,
)
from oxlen.server.waiting import while_asked_for
from oxlen.stacking.ask import LEAST_FRAMES, MOST_FRAMES
from oxlen.stacking.in_library import (
    add_frame_files,
    delete_with_files,
    first_frame_jpeg,
    preview_path,
)
from oxlen.store.sheets import sheet
from oxlen.store.stacks import (
    KeptStack,
    add_stack,
    ask_of_stack,
    frames_of_stack,
    stack,
    stacks,
    start_as_median,
)
from oxlen.store.takes import takes_of

router = APIRouter(prefix="/api", tags=["stacks"], dependencies=[FOR_PHONES])
FIRST_SIDE_PX = 1400


@router.get("/stacks")
def all_stacks(
    context: Shared, sheet_id: Annotated[int | None, Query(ge=1, le=MOST_ID)] = None
) -> list[StackView]:
    """Sets of frames, the newest first; those of a sheet where it is named."""
    with context.library.reader() as connection:
        found = stacks(connection, sheet_id)
    return [stack_view(context, kept_stack) for kept_stack in found]


@router.post("/stacks", status_code=201)
def begin(asked: NewStack, context: Shared) -> StackView:
    """Begin a set; frames are added to it afterwards."""
    with context.library.writer() as connection:
        body = None
        if asked.sheet_id is not None:
            body = read_sheet(sheet(connection, asked.sheet_id).body)
        stack_id = add_stack(connection, asked.sheet_id, asked.name, now=context.now())
        if body is not None and drops_what_passes(body.asked()):
            start_as_median(connection, stack_id)
    return one_stack(stack_id, context)


@router.get("/stacks/{stack_id}")
def one_stack(stack_id: RowId, context: Shared) -> StackView:
    """One set and how far it is."""
    with context.library.reader() as connection:
        return stack_view(context, stack(connection, stack_id))


@router.put("/stacks/{stack_id}")
def change(stack_id: RowId, asked: StackAsked, context: Shared) -> StackView:
    """Say how a set is stacked. 422 while it is being worked on."""
    with context.library.writer() as connection:
        _at_rest(context, stack(connection, stack_id))
        ask_of_stack(
            connection,
            stack_id,
            combine=asked.combine,
            align=asked.align,
            ending=asked.ending,
            mixed=asked.mixed,
            horizon=json.dumps(asked.horizon),
            dark=asked.dark,
            close_gaps=asked.close_gaps,
            land=json.dumps(asked.land),
            land_lift_stops=asked.land_lift_stops,
        )
    return one_stack(stack_id, context)


@router.post("/stacks/{stack_id}/frames", status_code=201, openapi_extra=STREAM)
async def add(stack_id: RowId, request: Request, context: Shared, *, name: FileName) -> StackView:
    """Add a frame; the body is the file itself. One that is in the set already is not doubled."""
    with context.library.reader() as connection:
        _may_grow(context, stack(connection, stack_id))
    with context.library.incoming() as incoming:
        await stream_to(incoming, request, plain_name(name))
        folder, files = context.library.folder, [(incoming, plain_name(name))]
        job = context.pool.begin("intake", add_frame_files, folder, stack_id, files, move=True)
        await while_asked_for(request, job)
    return await run_in_threadpool(one_stack, stack_id, context)


@router.post("/stacks/{stack_id}/takes", status_code=201)
def add_takes(stack_id: RowId, asked: TakesOfSet, context: Shared) -> StackView:
    """Add takes of the set's sheet, or of its foreground, as frames; takes they stay besides."""
    with context.library.reader() as connection:
        kept_stack = stack(connection, stack_id)
        _may_grow(context, kept_stack, len(asked.takes))
        own = [] if kept_stack.sheet_id is None else takes_of(connection, kept_stack.sheet_id)
        there = {take.id: take for take in [*own, *land_takes(connection, kept_stack.sheet_id)]}
    missing = [take_id for take_id in asked.takes if take_id not in there]
    if missing:
        raise BadInput("Only takes of the set\u2019s own sheet can be its frames.", "takes")
    files = []
    for take_id in asked.takes:
        take = there[take_id]
        sha256 = take.raw_sha256 if asked.raw and take.raw_sha256 else take.sha256
        source = context.library.picture_path(sha256)
        files.append((source, f"take {take_id:05d}"))
    folder = context.library.folder
    context.pool.do("intake", add_frame_files, folder, stack_id, files, move=False)
    return one_stack(stack_id, context)


@router.post("/stacks/{stack_id}/bench", status_code=201)
async def shoot_frames(
    stack_id: RowId, asked: BenchFrames, *, request: Request, context: Shared
) -> StackView:
    """Shoot frames of the sheet's scene on the bench phone, by its slip, one after another."""
    with context.library.reader() as connection:
        kept_stack = stack(connection, stack_id)
        _may_grow(context, kept_stack, asked.frames)
        body = (
            None
            if kept_stack.sheet_id is None
            else read_sheet(sheet(connection, kept_stack.sheet_id).body)
        )
    if body is None or body.scene is None:
        raise BadInput("The bench phone has no scene for this stack.", "sheet_id")
    shot = BenchSet(stack_id, body, asked.frames, gap_s=asked.gap_s, seed=asked.seed)
    profile = context.find_phone(body.phone)
    folder, now = context.library.folder, context.now()
    job = context.pool.begin("stack", shoot_set, folder, shot, profile, now=now)
    await while_asked_for(request, job)
    return await run_in_threadpool(one_stack, stack_id, context)


@router.post("/stacks/{stack_id}/start")
def start(stack_id: RowId, context: Shared) -> StackView:
    """Start stacking, or go on where it was stopped. 422 for too few frames."""
    with context.library.reader() as connection:
        kept_stack = stack(connection, stack_id)
    _at_rest(context, kept_stack)
    if kept_stack.frames < LEAST_FRAMES:
        raise BadInput("Add at least 2 frames.", "frames")
    context.stack_jobs.begin(stack_id, now=context.now())
    return one_stack(stack_id, context)


@router.post("/stacks/{stack_id}/stop")
def stop(stack_id: RowId, context: Shared) -> StackView:
    """Stop at the next frame; what is gathered is kept to go on from."""
    with context.library.reader() as connection:
        kept_stack = stack(connection, stack_id)
    if kept_stack.state == "working":
        context.stack_jobs.stop(stack_id)
    return one_stack(stack_id, context)


@router.delete("/stacks/{stack_id}", status_code=204)
def remove(stack_id: RowId, context: Shared) -> None:
    """Delete a stack and its frames; the result stays."""
    with context.library.reader() as connection:
        stack(connection, stack_id)
    delete_with_files(context.library, stack_id)


@router.get("/stacks/{stack_id}/preview", response_class=FileResponse)
def growing(stack_id: RowId, context: Shared) -> FileResponse:
    """A small look at what has come together so far."""
    path = preview_path(context.library, stack_id)
    if not path.is_file():
        raise NotFound("No result yet.", stack=stack_id)
    return FileResponse(path, media_type="image/jpeg", headers={"cache-control": "no-store"})


@router.get("/stacks/{stack_id}/first", response_class=Response)
async def first(
    stack_id: RowId,
    request: Request,
    context: Shared,
    *,
    name: Annotated[str, Query(max_length=255)] = "",
) -> Response:
    """A frame by itself, small: the first, or the one that is named."""
    with context.library.reader() as connection:
        frames = frames_of_stack(connection, stack_id)
    kept_frame = next((frame for frame in frames if name in ("", frame.name)), None)
    if kept_frame is None:
        raise NotFound("This stack does not have that frame.", stack=stack_id)
    path = context.library.frame_path(stack_id, kept_frame.sha256)
    folder = context.library.folder
    job = context.pool.begin(
        "bench", first_frame_jpeg, folder, path, kept_frame.name, side_px=FIRST_SIDE_PX
    )
    headers = {"cache-control": "private, max-age=86400"}
    return Response(await while_asked_for(request, job), media_type="image/jpeg", headers=headers)


@router.get("/stacks/{stack_id}/file", response_class=FileResponse)
def result_file(stack_id: RowId, context: Shared) -> FileResponse:
    """The result as the file it was written as."""
    with context.library.reader() as connection:
        kept_stack = stack(connection, stack_id)
    if kept_stack.result_sha256 is None:
        raise NotFound("This stack is not finished yet.", stack=stack_id)
    path = context.library.picture_path(kept_stack.result_sha256)
    return FileResponse(path, filename=f"{kept_stack.name}.{kept_stack.ending}")


def _at_rest(context: Context, kept: KeptStack) -> None:
    if context.stack_jobs.settled(kept).state == "working":
        raise BadInput("This stack is running. Stop it first.", "state")


def _may_grow(context: Context, kept: KeptStack, by: int = 1) -> None:
    _at_rest(context, kept)
    if kept.frames + by > MOST_FRAMES:
        raise BadInput(f"A stack has at most {MOST_FRAMES} frames.", "frames")
