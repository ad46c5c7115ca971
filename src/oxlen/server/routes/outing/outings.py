"""Outings and the bin."""

from __future__ import annotations

import sqlite3
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict, Field, field_validator
from pydantic.config import JsonDict

from oxlen.formats.outing.parts import Latitude, Longitude, OutingDate, TimeZone
from oxlen.formats.outing.place import PlaceBody
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.formats.strict import MOST_ID, Id, Strict, Title
from oxlen.phones.learned_profile import with_learned
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.store.kept_places import kept_place
from oxlen.store.kit.learned import learned_of
from oxlen.store.kit.phones import kept_profile
from oxlen.store.outings import (
    EVERY_ONE,
    Outing,
    add_outing,
    change_outing,
    outing,
    outings,
    set_outing_deleted,
)
from oxlen.store.series import series_of_outing
from oxlen.store.sheets import count_sheets, sheets_of
from oxlen.views.summary import SheetSummary, summary_of

router = APIRouter(prefix="/api", tags=["outings"], dependencies=[FOR_PHONES])


EXAMPLE_OUTING: JsonDict = {
    "title": "Autumn haul-out",
    "place": "Kettle Reach, the hard",
    "light_window": "08:00 to 15:30",
}


SHEETS_IN_LIST = 12
"""Sheets of an outing sent along in a list of outings."""

Words = Annotated[str, Field(max_length=120)]


class OutingChange(Strict):
    """What changes of an outing; whatever is not named stays."""

    title: Title | None = None
    place: Words | None = None
    light_window: Words | None = None
    latitude_deg: Latitude | None = None
    longitude_deg: Longitude | None = None
    date: OutingDate | None = None
    time_zone: TimeZone | None = None
    place_id: Id | None = None

    @field_validator("title")
    @classmethod
    def _titled(cls, title: str | None) -> str | None:
        if title is None:
            raise ValueError("an outing needs a title")
        return title


class OutingFields(OutingChange):
    """What can be known of an outing; position, date and time zone may stay unknown."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_OUTING]})

    title: Title
    place: Words = ""
    light_window: Words = ""


class OutingView(BaseModel):
    """An outing with its sheets; in a list the first of them, or those a search found.

    `uid` names it in every Oxlen it is carried to.
    """

    id: int
    uid: str
    title: str
    place: str
    light_window: str
    latitude_deg: float | None
    longitude_deg: float | None
    date: str | None
    time_zone: str | None
    place_id: int | None
    deleted_at: str | None
    sheet_count: int
    sheets: list[SheetSummary]


class Page(BaseModel):
    """Which outings are wanted: those older than one, at most so many, and what is searched for."""

    before: Annotated[int | None, Query(ge=1, le=MOST_ID)] = None
    most: Annotated[int, Query(ge=1, le=100)] = 20
    words: Annotated[str, Query(max_length=120)] = ""


class Bin(BaseModel):
    """What has been deleted and can be taken back: outings, and sheets of outings in use."""

    outings: list[OutingView]
    sheets: list[SheetSummary]


@router.get("/outings")
def list_outings(context: Shared, page: Annotated[Page, Query()]) -> list[OutingView]:
    """Outings in use, newest first, a page at a time; with words, those that have them."""
    words = page.words.strip()
    with context.library.reader() as connection:
        found = outings(connection, before=page.before, most=page.most, words=words)
        return [
            _first_sheets(connection, outing_entry, "" if outing_entry.says(words) else words)
            for outing_entry in found
        ]


@router.post("/outings", status_code=201)
def new_outing(fields: OutingFields, context: Shared) -> OutingView:
    """Start an outing."""
    with context.library.writer() as connection:
        named = fields.model_dump(mode="json", exclude={"place_id"})
        outing_id = add_outing(connection, **named, now=context.now())
        if fields.place_id is not None:
            hung = _by_its_place(connection, {"place_id": fields.place_id})
            change_outing(connection, outing_id, hung)
    return _load(context, outing_id)


@router.get("/outings/{outing_id}")
def one_outing(outing_id: RowId, context: Shared) -> OutingView:
    """One outing with its sheets."""
    return _load(context, outing_id)


@router.patch("/outings/{outing_id}")
def rename_outing(outing_id: RowId, fields: OutingChange, context: Shared) -> OutingView:
    """Change an outing's title, place or light window; what is not named stays."""
    with context.library.writer() as connection:
        change_outing(connection, outing_id, _by_its_place(connection, _changed(fields)))
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
        gone = [_view(connection, entry) for entry in outings(connection, deleted=True)]
        sheets = [
            sheet
            for entry in outings(connection)
            for sheet in sheets_of(connection, entry.id, deleted=True)
        ]
    return Bin(outings=gone, sheets=[summary_of(s) for s in sheets])


def _load(context: Context, outing_id: int) -> OutingView:
    with context.library.reader() as connection:
        return _view(connection, outing(connection, outing_id))


def _first_sheets(connection: sqlite3.Connection, entry: Outing, words: str) -> OutingView:
    """An outing in a list: its first sheets, or the first that have the words."""
    return _view(connection, entry, most=SHEETS_IN_LIST, words=words)


def _changed(fields: OutingChange) -> dict[str, str | float | int | None]:
    """The fields that were named; words that are null are emptied."""
    named = fields.model_dump(mode="json", exclude_unset=True)
    empty = {"place": "", "light_window": ""}
    return {name: empty.get(name) if value is None else value for name, value in named.items()}


def _by_its_place(
    connection: sqlite3.Connection, changed: dict[str, str | float | int | None]
) -> dict[str, str | float | int | None]:
    """An outing that is set to a place takes over its name, position and clock."""
    place_id = changed.get("place_id")
    if place_id is None:
        return changed
    found = PlaceBody.model_validate_json(kept_place(connection, int(place_id)).body)
    return {
        "place": found.name,
        "latitude_deg": found.latitude_deg,
        "longitude_deg": found.longitude_deg,
        "time_zone": found.time_zone,
        **changed,
    }


def _view(
    connection: sqlite3.Connection, entry: Outing, *, most: int = EVERY_ONE, words: str = ""
) -> OutingView:
    about = {name: value for name, value in vars(entry).items() if name != "created_at"}
    sheets = sheets_of(connection, entry.id, most=most, words=words)
    count = count_sheets(connection, entry.id)
    find_phone = partial(_phone, connection)
    titles = {
        sheet_id: known.title
        for known in series_of_outing(connection, entry.id)
        for sheet_id in known.sheet_ids
    }
    listed = [
        summary_of(sheet, find_phone).model_copy(update={"series": titles.get(sheet.id)})
        for sheet in sheets
    ]
    return OutingView(**about, sheet_count=count, sheets=listed)


def _phone(connection: sqlite3.Connection, phone_id: str) -> PhoneProfile:
    """A shipped phone or one of the kit, with what takes taught of it; NotFound otherwise."""
    known = shipped_profiles().get(phone_id) or kept_profile(connection, phone_id)
    return with_learned(known, learned_of(connection, phone_id))
