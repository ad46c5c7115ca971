"""An outing as one file, out to another Oxlen and in from it."""

from __future__ import annotations

import re

from fastapi import APIRouter
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from oxlen.server.context import RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.takes.outing_out import write_outing

router = APIRouter(prefix="/api", tags=["outings"])


@router.get("/outings/{outing_id}/file", response_class=FileResponse, dependencies=[FOR_PHONES])
def outing_file(outing_id: RowId, context: Shared, *, with_identity: bool = False) -> FileResponse:
    """An outing with its sheets, pictures and takes as one file for another Oxlen.

    Pictures go without place, names and serial numbers unless `with_identity` says otherwise.
    """
    made = context.library.incoming_path()
    try:
        contents = write_outing(context.library, outing_id, made, with_identity=with_identity)
    except BaseException:
        made.unlink(missing_ok=True)
        raise
    plain = re.sub(r"[^a-z0-9]+", "-", contents.outing.title.casefold()).strip("-")
    return FileResponse(
        made,
        media_type="application/zip",
        filename=f"{plain or 'outing'}.oxlen-outing.zip",
        background=BackgroundTask(made.unlink, missing_ok=True),
    )
