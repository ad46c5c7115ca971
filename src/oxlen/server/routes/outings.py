"""Outings and the bin."""

from __future__ import annotations

import json
from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field
from pydantic.config import JsonDict

from oxlen.formats.phone_profile import Strict
from oxlen.server.context import Context, RowId, Shared
from oxlen.sheets.body import Title
from oxlen.store.outings import (
    Outing,
    add_outing,
    change_outing,
    outing,
    outings,
    set_outing_deleted,
)
from oxlen.store.sheets import Sheet, sheets_of

router = APIRouter(prefix="/api", tags=["outings"])


EXAMPLE_OUTING: JsonDict = {
    "title": "Autumn haul-out",
    "place": "Kettle Reach, the slip",
    "light_window": "08:00 to 15:30",
}


class OutingFields(Strict):
    """What can be said of an outing."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_OUTING]})

    title: Title
    place: Annotated[str, Field(max_length=120)] = ""
    light_window: Annotated[str, Field(max_length=120)] = ""


class OutingChange(Strict):
    """What changes of an outing; whatever is not named stays."""

    title: Title | None = None
    place: Annotated[str, Field(max_length=120)] | None = None
    light_window: Annotated[str, Field(max_length=120)] | None = None


class SheetSummary(BaseModel):
    """A sheet as it stands in a list."""

    id: int
    title: str
    state: Literal["planned", "shot", "kept"]
    picture: str | None
    changed_at: str
    deleted_at: str | None


class OutingView(BaseModel):
    """An outing with its sheets."""

    id: int
    title: str
    place: str
    light_window: str
    deleted_at: str | None
    sheets: list[SheetSummary]


class Bin(BaseModel):
    """What has been deleted and can be taken back: outings, and sheets of outings in use."""

    outings: list[OutingView]
    sheets: list[SheetSummary]


@router.get("/outings")
def list_outings(context: Shared) -> list[OutingView]:
    """All outings in use, newest first."""
    with context.library.reader() as connection:
        found = [(entry, sheets_of(connection, entry.id)) for entry in outings(connection)]
    return [_view(entry, sheets) for entry, sheets in found]


@router.post("/outings", status_code=201)
def new_outing(fields: OutingFields, context: Shared) -> OutingView:
    """Start an outing."""
    with context.library.writer() as connection:
        outing_id = add_outing(connection, **fields.model_dump(), now=context.now())
    return _load(context, outing_id)


@router.get("/outings/{outing_id}")
def one_outing(outing_id: RowId, context: Shared) -> OutingView:
    """One outing with its sheets."""
    return _load(context, outing_id)


@router.patch("/outings/{outing_id}")
def rename_outing(outing_id: RowId, fields: OutingChange, context: Shared) -> OutingView:
    """Change an outing's title, place or light window; what is not named stays."""
    with context.library.writer() as connection:
        change_outing(connection, outing_id, **fields.model_dump())
    return _load(context, outing_id)


@router.delete("/outings/{outing_id}")
def delete_outing(outing_id: RowId, context: Shared) -> OutingView:
    """Put an outing in the bin."""
    with context.library.writer() as connection:
        set_outing_deleted(connection, outing_id, context.now())
    return _load(context, outing_id)


@router.post("/outings/{outing_id}/restore")
def restore_outing(outing_id: RowId, context: Shared) -> OutingView:
    """Take an outing out of the bin."""
    with context.library.writer() as connection:
        set_outing_deleted(connection, outing_id, None)
    return _load(context, outing_id)


@router.get("/bin")
def bin_contents(context: Shared) -> Bin:
    """What can be taken back."""
    with context.library.reader() as connection:
        gone = [
            (entry, sheets_of(connection, entry.id)) for entry in outings(connection, deleted=True)
        ]
        sheets = [
            sheet
            for entry in outings(connection)
            for sheet in sheets_of(connection, entry.id, deleted=True)
        ]
    return Bin(outings=[_view(*pair) for pair in gone], sheets=[_summary(s) for s in sheets])


def _load(context: Context, outing_id: int) -> OutingView:
    with context.library.reader() as connection:
        return _view(outing(connection, outing_id), sheets_of(connection, outing_id))


def _view(entry: Outing, sheets: list[Sheet]) -> OutingView:
    return OutingView(
        id=entry.id,
        title=entry.title,
        place=entry.place,
        light_window=entry.light_window,
        deleted_at=entry.deleted_at,
        sheets=[_summary(sheet) for sheet in sheets],
    )


def _summary(sheet: Sheet) -> SheetSummary:
    body = json.loads(sheet.body)
    return SheetSummary(
        id=sheet.id,
        title=body["title"],
        state=body["state"],
        picture=body["picture"],
        changed_at=sheet.changed_at,
        deleted_at=sheet.deleted_at,
    )
