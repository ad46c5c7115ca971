"""Pictures in, streamed to disk; previews out."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request
from fastapi.responses import FileResponse
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.core.errors import NotFound, PictureError
from oxlen.pictures.container import MAX_FILE_BYTES
from oxlen.server.context import Context, Mark, RowId, Sha256, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.sheet.sheets import SheetView, view
from oxlen.server.waiting import while_asked_for
from oxlen.store.outings import outing
from oxlen.store.sheets import sheet
from oxlen.takes.importing import (
    Attach,
    ImportedPicture,
    once,
    onto_new_sheet,
    onto_sheet,
    take_in,
)
from oxlen.workers.worker_tasks import make_preview, read_file

router = APIRouter(prefix="/api", tags=["pictures"], dependencies=[FOR_PHONES])

FileName = Annotated[str, Query(min_length=1, max_length=255, description="name of the file")]
TOO_LARGE = "the file is over 200 MB, the most Oxlen takes."
STREAM: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}


class ImportedView(BaseModel):
    """A picture imported, the sheet that shows it, and its notes."""

    picture: str
    notes: list[str]
    sheet: SheetView


@router.post("/outings/{outing_id}/pictures", status_code=201, openapi_extra=STREAM)
async def take_into_outing(
    outing_id: RowId,
    request: Request,
    context: Shared,
    *,
    name: FileName,
    phone: str | None = None,
    mark: Mark = None,
    uid: str | None = None,
) -> ImportedView:
    """Import a picture as a new sheet of an outing; the body is the file itself.

    With `uid` the outing must have that name too.
    """
    with context.library.reader() as connection:
        if uid not in (None, outing(connection, outing_id).uid):
            raise NotFound("The outing of this picture is not here.", outing=outing_id)
    if phone is not None:
        context.find_phone(phone)
    name = plain_name(name)
    attach = onto_new_sheet(outing_id, name, phone, now=context.now())
    return await _take(context, request, name, attach=once(attach, mark, now=context.now()))


@router.post("/sheets/{sheet_id}/picture", status_code=201, openapi_extra=STREAM)
async def take_onto_sheet(
    sheet_id: RowId,
    request: Request,
    context: Shared,
    *,
    name: FileName,
    mark: Mark = None,
    uid: str | None = None,
) -> ImportedView:
    """Import a picture as the one a sheet meters; the body is the file itself.

    With `uid` the sheet must have that name too.
    """
    with context.library.reader() as connection:
        if uid not in (None, sheet(connection, sheet_id).uid):
            raise NotFound("The sheet of this picture is not here.", sheet=sheet_id)
    attach = once(onto_sheet(sheet_id, context.now()), mark, now=context.now())
    return await _take(context, request, plain_name(name), attach=attach)


@router.get("/pictures/{sha256}/preview", response_class=FileResponse)
def preview(sha256: Sha256, context: Shared) -> FileResponse:
    """A small upright JPEG of a picture, made anew when it is missing."""
    path = context.library.preview_path(sha256)
    folder = context.library.folder
    if not path.is_file() and not context.pool.do("bench", make_preview, folder, sha256):
        raise NotFound("This picture's pixels cannot be shown.", picture=sha256)
    headers = {"cache-control": "private, max-age=31536000, immutable"}
    return FileResponse(path, media_type="image/jpeg", headers=headers)


def plain_name(name: str) -> str:
    """A file's name without folders and unprintable characters."""
    last = name.replace("\\", "/").rsplit("/", 1)[-1]
    return "".join(c for c in last if c.isprintable()).strip() or "picture"


async def _take(context: Context, request: Request, name: str, *, attach: Attach) -> ImportedView:
    imported = await take_file(context, request, name, attach=attach)
    assert imported.sheet_id is not None  # it was attached to one
    sheet_view = await run_in_threadpool(view, context, imported.sheet_id)
    return ImportedView(picture=imported.sha256, notes=list(imported.notes), sheet=sheet_view)


async def take_file(
    context: Context, request: Request, name: str, *, attach: Attach
) -> ImportedPicture:
    """Read the file that a request brings in a worker, keep it, and attach it."""
    with context.library.incoming() as incoming:
        await stream_to(incoming, request, name)
        reading = context.pool.begin("intake", read_file, context.library.folder, incoming, name)
        found = await while_asked_for(request, reading)
        return await run_in_threadpool(
            take_in,
            context.library,
            incoming,
            name,
            now=context.now(),
            attach=attach,
            read=lambda *_: found,
        )


async def stream_to(
    path: Path,
    request: Request,
    name: str,
    *,
    most: int = MAX_FILE_BYTES,
    too_large: str = TOO_LARGE,
) -> None:
    """Write the request's body to a file as it arrives; PictureError once it is over the most."""
    length = 0
    with path.open("wb") as file:
        async for block in request.stream():
            length += len(block)
            if length > most:
                raise PictureError(name, too_large)
            file.write(block)
