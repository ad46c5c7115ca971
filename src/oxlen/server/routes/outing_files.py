"""An outing as one file, out to another Oxlen and in from it."""

from __future__ import annotations

import re
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.responses import FileResponse
from pydantic import BaseModel
from starlette.background import BackgroundTask
from starlette.concurrency import run_in_threadpool

from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_COMPUTER, FOR_PHONES
from oxlen.server.routes.pictures import STREAM, stream_to
from oxlen.store.library import Library
from oxlen.takes.importing import ReadFile
from oxlen.takes.outing_in import TakenIn, take_in_outing
from oxlen.takes.outing_out import write_outing
from oxlen.workers.at_hand import read_file

router = APIRouter(prefix="/api", tags=["outings"])

MOST_BYTES = 4_000_000_000
TOO_LARGE = "the file is over 4 GB, the most Oxlen takes as one outing."


class OutingTaken(BaseModel):
    """What came of an outing file; `notes` are sentences about what was left as it is."""

    outing_id: int
    new_outing: bool
    new_sheets: int
    changed_sheets: int
    same_sheets: int
    new_pictures: int
    new_takes: int
    notes: list[str]


@router.get("/outings/{outing_id}/file", response_class=FileResponse, dependencies=[FOR_PHONES])
def outing_file(outing_id: RowId, context: Shared) -> FileResponse:
    """An outing with its sheets, pictures and takes as one file for another Oxlen."""
    made = context.library.incoming_path()
    contents = write_outing(context.library, outing_id, made)
    plain = re.sub(r"[^a-z0-9]+", "-", contents.outing.title.casefold()).strip("-")
    return FileResponse(
        made,
        media_type="application/zip",
        filename=f"{plain or 'outing'}.oxlen-outing.zip",
        background=BackgroundTask(made.unlink, missing_ok=True),
    )


@router.post("/outing-files", status_code=201, openapi_extra=STREAM, dependencies=[FOR_COMPUTER])
async def take_in_file(request: Request, context: Shared) -> OutingTaken:
    """Take in an outing file; what is here already is not doubled. The body is the file itself."""
    incoming = context.library.incoming_path()
    try:
        await stream_to(incoming, request, "outing file", most=MOST_BYTES, too_large=TOO_LARGE)
        done = await run_in_threadpool(_taken_in, context, incoming)
    finally:
        incoming.unlink(missing_ok=True)
    return OutingTaken(**vars(done))


def _taken_in(context: Context, source: Path) -> TakenIn:
    def read(library: Library, incoming: Path, name: str) -> ReadFile:
        return context.crew.do("intake", read_file, library.folder, incoming, name)

    return take_in_outing(context.library, source, now=context.now(), read=read)
