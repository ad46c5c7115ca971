"""Takes of a sheet: what was shot for it, and shots on the bench phone."""

from __future__ import annotations

import json
from typing import Annotated

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from oxlen.core.errors import BadInput, NotFound
from oxlen.core.labels import steps_label
from oxlen.devices.standins.bench_take import BenchShot, shoot_in_worker
from oxlen.formats.picture_report import SettingsFacts
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Strict
from oxlen.server.context import Context, Mark, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.pictures import STREAM, FileName, plain_name, take_file
from oxlen.server.routes.sheet.sheets import SheetView, view
from oxlen.store.deliveries import is_delivered
from oxlen.store.pictures import tie_picture
from oxlen.store.sheets import edit_sheet, sheet
from oxlen.store.takes import (
    Judgement,
    ShotOn,
    Take,
    TakeState,
    change_take,
    set_take_deleted,
    take,
    takes_of,
)
from oxlen.takes.adding import as_take_once
from oxlen.views.match_to_phone import match_to_phone

router = APIRouter(prefix="/api", tags=["takes"], dependencies=[FOR_PHONES])


class BenchShotRequest(Strict):
    """How to take it: by the sheet's slip or on auto; the seed of everything random."""

    auto: bool = False
    seed: Annotated[int, Field(ge=0, le=2**31)] = 0


class TakeChange(Strict):
    """What becomes of a take; whatever is not named stays."""

    state: TakeState | None = None
    note: Annotated[str, Field(max_length=1000)] | None = None
    rating: Annotated[int, Field(ge=0, le=5)] | None = None
    keywords: Annotated[str, Field(max_length=500)] | None = None
    why: Annotated[str, Field(max_length=500)] | None = None

    @property
    def judgement(self) -> Judgement:
        """As the store takes it."""
        return Judgement(**self.model_dump())


class TakeView(BaseModel):
    """A picture shot for a sheet; `label` is what it was shot with, in words.

    `frame` (from 1) of `frames` is its place in a sequence, None for a single picture.
    """

    id: int
    sheet_id: int
    picture: str
    raw_picture: str | None
    shot_on: ShotOn
    label: str
    settings: SettingsFacts
    state: TakeState
    note: str
    rating: int
    keywords: str
    why: str
    frame: int | None
    frames: int | None
    taken_at: str | None
    added_at: str
    deleted_at: str | None


@router.get("/sheets/{sheet_id}/takes")
def takes(sheet_id: RowId, context: Shared) -> list[TakeView]:
    """Takes of a sheet, in the order they came."""
    with context.library.reader() as connection:
        sheet(connection, sheet_id)
        return [take_view(kept) for kept in takes_of(connection, sheet_id)]


@router.post("/sheets/{sheet_id}/takes", status_code=201, openapi_extra=STREAM)
async def take_of_sheet(
    sheet_id: RowId,
    request: Request,
    context: Shared,
    *,
    name: FileName,
    mark: Mark = None,
    uid: str | None = None,
) -> list[TakeView]:
    """Import a picture that was shot for a sheet, which stays as it is; the body is the file.

    With `uid` the sheet must be known by that
    name too: what waited for one is not given to another that has its number by now.
    """
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
        if uid is not None and kept.uid != uid:
            raise NotFound("The sheet of this take is not here.", sheet=sheet_id)
        if is_delivered(connection, mark):
            return [take_view(kept_take) for kept_take in takes_of(connection, sheet_id)]
    name = plain_name(name)
    await take_file(context, request, name, attach=as_take_once(sheet_id, mark, context.now()))
    return await run_in_threadpool(takes, sheet_id, context)


@router.post("/sheets/{sheet_id}/bench-shot", status_code=201)
def bench_shot(sheet_id: RowId, how: BenchShotRequest, context: Shared) -> list[TakeView]:
    """Photograph the sheet's scene on the bench phone; it comes in as a take of the sheet."""
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
    body = read_sheet(kept.body)
    body = match_to_phone(body, context.find_phone(body.phone)).body
    if body.scene is None:
        raise BadInput("The bench phone has no scene for this sheet.", "scene")
    shot = BenchShot(sheet_id, kept.version, body, auto=how.auto, seed=how.seed)
    profile = context.find_phone(body.phone)
    folder = context.library.folder
    context.pool.do("bench", shoot_in_worker, folder, shot, profile, now=context.now())
    return takes(sheet_id, context)


@router.post("/takes/{take_id}/meter")
def meter_by_take(take_id: RowId, context: Shared) -> SheetView:
    """Have the take's sheet meter by it from now on; what it metered before is one undo away."""
    with context.library.writer() as connection:
        kept_take = take(connection, take_id)
        current = sheet(connection, kept_take.sheet_id)
        metered = {
            "picture": kept_take.sha256,
            "by_hand": None,
            "picture_glass_stops": kept_take.glass_stops,
        }
        body = read_sheet(current.body).model_copy(update=metered)
        edit_sheet(
            connection,
            kept_take.sheet_id,
            body=body.model_dump_json(),
            label="metered with a take",
            from_version=current.version,
            now=context.now(),
        )
        tie_picture(connection, kept_take.sheet_id, kept_take.sha256)
    return view(context, kept_take.sheet_id)


@router.patch("/takes/{take_id}")
def change(take_id: RowId, fields: TakeChange, context: Shared) -> TakeView:
    """Keep or reject a take, or note something."""
    with context.library.writer() as connection:
        change_take(connection, take_id, fields.judgement)
    return _load(context, take_id)


@router.delete("/takes/{take_id}")
def delete(take_id: RowId, context: Shared) -> TakeView:
    """Put a take in the bin; its picture stays."""
    with context.library.writer() as connection:
        set_take_deleted(connection, take_id, context.now())
    return _load(context, take_id)


@router.post("/takes/{take_id}/restore")
def restore(take_id: RowId, context: Shared) -> TakeView:
    """Take a take out of the bin."""
    with context.library.writer() as connection:
        set_take_deleted(connection, take_id, None)
    return _load(context, take_id)


def _load(context: Context, take_id: int) -> TakeView:
    with context.library.reader() as connection:
        return take_view(take(connection, take_id))


def take_view(kept: Take) -> TakeView:
    """A take as it is shown."""
    settings = SettingsFacts.model_validate(json.loads(kept.settings))
    known = settings.iso is not None and settings.shutter_s is not None
    return TakeView(
        id=kept.id,
        sheet_id=kept.sheet_id,
        picture=kept.sha256,
        raw_picture=kept.raw_sha256,
        shot_on=kept.shot_on,
        label=steps_label(settings.iso or 0, settings.shutter_s or 1) if known else "",
        settings=settings,
        state=kept.state,
        note=kept.note,
        rating=kept.rating,
        keywords=kept.keywords,
        why=kept.why,
        frame=None if kept.sequence_place is None else kept.sequence_place + 1,
        frames=kept.sequence_frames,
        taken_at=kept.taken_at,
        added_at=kept.added_at,
        deleted_at=kept.deleted_at,
    )
