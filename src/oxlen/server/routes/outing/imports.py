"""Outings and logbooks imported from files: begun, looked at, cancelled."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel

from oxlen.server.context import Context, RowId, Shared
from oxlen.server.import_jobs import ImportJob, soon
from oxlen.server.permits import FOR_COMPUTER, FOR_PHONES
from oxlen.server.routes.pictures import STREAM, stream_to
from oxlen.store.long_work import tidy
from oxlen.takes.logbook_files import import_logbook
from oxlen.takes.outing_in import import_outing

router = APIRouter(prefix="/api", tags=["imports"])

OUTING_BYTES, LOGBOOK_BYTES = 4_000_000_000, 100_000_000
OUTING_TOO_LARGE = "it is over 4 GB. Import the outing in parts."
LOGBOOK_TOO_LARGE = "it is over 100 MB. Export a part of the logbook and import that."


class LogbookTaken(BaseModel):
    """What came of a logbook file: takes changed, as they were, and pictures not kept here."""

    changed: int
    same: int
    unknown: int


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


class ImportView(BaseModel):
    """An import: how far it is, and the result once it is done."""

    id: int
    state: Literal["working", "done", "cancelled"]
    done: int
    all: int
    logbook: LogbookTaken | None
    outing: OutingTaken | None


@router.post("/logbook/file", openapi_extra=STREAM, dependencies=[FOR_PHONES])
async def import_logbook_file(request: Request, context: Shared) -> ImportView:
    """Put what a logbook or sidecars say to the takes kept here. The body is the file itself.

    A long one goes on after the answer: `/imports/{id}` tells how far it is.
    """
    return await _begun(
        context,
        request,
        import_logbook,
        named={},
        most=(LOGBOOK_BYTES, "The logbook", LOGBOOK_TOO_LARGE),
    )


@router.post("/outing-files", status_code=201, openapi_extra=STREAM, dependencies=[FOR_COMPUTER])
async def import_outing_file(request: Request, context: Shared) -> ImportView:
    """Import an outing file; what is here already is not doubled. The body is the file itself.

    A long one goes on after the answer: `/imports/{id}` tells how far it is.
    """
    return await _begun(
        context,
        request,
        import_outing,
        named={"now": context.now()},
        most=(OUTING_BYTES, "The outing file", OUTING_TOO_LARGE),
    )


@router.get("/imports/{number}", dependencies=[FOR_PHONES])
def one_import(number: RowId, context: Shared) -> ImportView:
    """How far an import is, or the result; its own error where it failed."""
    return import_view(context.import_jobs.job(number))


@router.delete("/imports/{number}", dependencies=[FOR_PHONES])
def cancel_import(number: RowId, context: Shared) -> ImportView:
    """Stop an import; what was imported by then is kept."""
    return import_view(context.import_jobs.cancel(number))


async def _begun(
    context: Context,
    request: Request,
    task: Callable[..., Mapping[str, Any]],
    *,
    named: Mapping[str, Any],
    most: tuple[int, str, str],
) -> ImportView:
    source = context.library.incoming_path()
    most_bytes, name, too_large = most
    try:
        await stream_to(source, request, name, most=most_bytes, too_large=too_large)
        job = context.import_jobs.begin(task, context.library.folder, source, **named)
    except BaseException:
        tidy(source)
        raise
    return import_view(await soon(job))


def import_view(job: ImportJob) -> ImportView:
    """An import, or other long work, as it is shown."""
    state, far, found = job.state, job.progress_of(), job.found
    return ImportView(
        id=job.id,
        state=state,
        done=far.all if state == "done" else far.done,
        all=far.all,
        logbook=LogbookTaken(**found) if "unknown" in found else None,
        outing=OutingTaken(**found) if "outing_id" in found else None,
    )
