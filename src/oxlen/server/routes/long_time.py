"""The long time of a sheet: its axis of seconds, the ways to it, and taking one."""

from __future__ import annotations

from fastapi import APIRouter

from oxlen.core.errors import BadInput, NotFound
from oxlen.formats.sheet_file import SheetBody
from oxlen.formats.sheet_upgrades import read_sheet
from oxlen.server.context import RowId, Shared
from oxlen.server.routes.sheets import SheetView, view
from oxlen.store.sheets import edit_sheet, sheet
from oxlen.views.long_time import LongTimeView, long_time
from oxlen.views.patch import changes

router = APIRouter(prefix="/api", tags=["long time"])
NO_LIGHT = "Without light there is no time to speak of: give the sheet a reading or a picture."


@router.get("/sheets/{sheet_id}/long-time")
def long_time_of(sheet_id: RowId, context: Shared) -> LongTimeView:
    """What shows when, what phone and light allow, and the ways to the time the looks take."""
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
    brief, _ = context.asked(body)
    if not brief.readings:
        raise BadInput(NO_LIGHT, "readings")
    return long_time(brief)[0]


@router.post("/sheets/{sheet_id}/long-time/{way_id}")
def take_way(sheet_id: RowId, way_id: str, context: Shared) -> SheetView:
    """Take a way: what it asks becomes what the sheet asks; undone like any edit."""
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
    body = read_sheet(kept.body)
    brief, _ = context.asked(body)
    if not brief.readings:
        raise BadInput(NO_LIGHT, "readings")
    way = next((one for one in long_time(brief)[1] if one.id == way_id), None)
    if way is None:
        raise NotFound("That way is no longer there; look at the ways again.", way=way_id)
    patch = changes(brief, way.brief)
    changed = SheetBody.model_validate({**body.model_dump(mode="json"), **patch})
    with context.library.writer() as connection:
        edit_sheet(
            connection,
            sheet_id,
            body=changed.model_dump_json(),
            label=way.name,
            from_version=kept.version,
            now=context.now(),
        )
    return view(context, sheet_id)
