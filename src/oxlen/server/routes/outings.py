"""Outings and the bin."""

from __future__ import annotations

import datetime
from typing import Annotated
from zoneinfo import available_timezones

from fastapi import APIRouter
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, field_validator
from pydantic.config import JsonDict

from oxlen.formats.phone_profile import Strict
from oxlen.formats.sheet_file import Title
from oxlen.server.context import Context, RowId, Shared
from oxlen.store.outings import (
    Outing,
    add_outing,
    change_outing,
    outing,
    outings,
    set_outing_deleted,
)
from oxlen.store.sheets import Sheet, sheets_of
from oxlen.views.summary import SheetSummary, summary_of

router = APIRouter(prefix="/api", tags=["outings"])


EXAMPLE_OUTING: JsonDict = {
    "title": "Autumn haul-out",
    "place": "Kettle Reach, the slip",
    "light_window": "08:00 to 15:30",
}


Words = Annotated[str, Field(max_length=120)]
Latitude = Annotated[float, Field(ge=-90, le=90)]
Longitude = Annotated[float, Field(ge=-180, le=180)]


def _known_zone(name: str) -> str:
    known = available_timezones()
    if known and name not in known:
        raise ValueError("there is no time zone of that name")
    return name


TimeZone = Annotated[str, Field(max_length=60), AfterValidator(_known_zone)]


class OutingChange(Strict):
    """What changes of an outing; whatever is not named stays."""

    title: Title | None = None
    place: Words | None = None
    light_window: Words | None = None
    latitude_deg: Latitude | None = None
    longitude_deg: Longitude | None = None
    date: datetime.date | None = None
    time_zone: TimeZone | None = None

    @field_validator("title")
    @classmethod
    def _titled(cls, title: str | None) -> str | None:
        if title is None:
            raise ValueError("an outing needs a title")
        return title


class OutingFields(OutingChange):
    """What can be said of an outing; position, date and time zone may stay unknown."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_OUTING]})

    title: Title
    place: Words = ""
    light_window: Words = ""


class OutingView(BaseModel):
    """An outing with its sheets."""

    id: int
    title: str
    place: str
    light_window: str
    latitude_deg: float | None
    longitude_deg: float | None
    date: str | None
    time_zone: str | None
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
        outing_id = add_outing(connection, **fields.model_dump(mode="json"), now=context.now())
    return _load(context, outing_id)


@router.get("/outings/{outing_id}")
def one_outing(outing_id: RowId, context: Shared) -> OutingView:
    """One outing with its sheets."""
    return _load(context, outing_id)


@router.patch("/outings/{outing_id}")
def rename_outing(outing_id: RowId, fields: OutingChange, context: Shared) -> OutingView:
    """Change an outing's title, place or light window; what is not named stays."""
    with context.library.writer() as connection:
        change_outing(connection, outing_id, _changed(fields))
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
    return Bin(outings=[_view(*pair) for pair in gone], sheets=[summary_of(s) for s in sheets])


def _load(context: Context, outing_id: int) -> OutingView:
    with context.library.reader() as connection:
        return _view(outing(connection, outing_id), sheets_of(connection, outing_id))


def _changed(fields: OutingChange) -> dict[str, str | float | None]:
    """The fields that were named; words that are null are emptied."""
    named = fields.model_dump(mode="json", exclude_unset=True)
    empty = {"place": "", "light_window": ""}
    return {name: empty.get(name) if value is None else value for name, value in named.items()}


def _view(entry: Outing, sheets: list[Sheet]) -> OutingView:
    about = {name: value for name, value in vars(entry).items() if name != "created_at"}
    return OutingView(**about, sheets=[summary_of(sheet) for sheet in sheets])
