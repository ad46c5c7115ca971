"""The logbook over HTTP: pages of takes, several judged at once, files out and in."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import ExitStack
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Query
from fastapi.responses import Response, StreamingResponse
from pydantic import BaseModel, Field

from oxlen.core.errors import BadInput
from oxlen.core.labels import steps_label
from oxlen.formats.kinds_of_picture import KINDS
from oxlen.formats.strict import MOST_ID, Id, Strict
from oxlen.server.context import Context, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.take.takes import TakeChange
from oxlen.store.logbook import (
    LogEntry,
    Order,
    Search,
    count_log_entries,
    every_log_entry,
    lenses_of_takes,
    log_entries,
)
from oxlen.store.takes import TakeState, change_take, set_take_deleted
from oxlen.takes.logbook_files import csv_lines, json_parts, sidecars_zip

router = APIRouter(prefix="/api", tags=["logbook"], dependencies=[FOR_PHONES])

COUNTED = 10_000
Day = Annotated[str | None, Query(pattern=r"^\d{4}(-\d\d(-\d\d)?)?$")]
Steps = Annotated[float | None, Query(gt=0, le=1e7)]
OneId = Annotated[int | None, Query(ge=1, le=MOST_ID)]


class Looked(Strict):
    """What is looked for in the logbook; days as YYYY, YYYY-MM or YYYY-MM-DD."""

    words: Annotated[str, Query(max_length=200)] = ""
    order: Order = "newest"
    outing: OneId = None
    sheet: OneId = None
    lens: Annotated[str | None, Query(max_length=80)] = None
    situation: Annotated[str | None, Query(max_length=40)] = None
    state: TakeState | None = None
    rating: Annotated[int | None, Query(ge=1, le=5)] = None
    iso_min: Steps = None
    iso_max: Steps = None
    shutter_min_s: Steps = None
    shutter_max_s: Steps = None
    since: Day = None
    until: Day = None

    def search(self, after: tuple[Any, int] | None = None, most: int = 60) -> Search:
        """As the store takes it."""
        filters = self.model_dump(exclude={"words", "order", "after", "after_id", "most"})
        given = {name: value for name, value in filters.items() if value is not None}
        return Search(self.words, given, self.order, after=after, most=most)


class LogbookPage(Looked):
    """The same, a page at a time: `after` and `after_id` are those of the last entry seen."""

    after: Annotated[str | None, Query(max_length=80)] = None
    after_id: OneId = None
    most: Annotated[int, Query(ge=1, le=500)] = 60


class LogEntryView(BaseModel):
    """A take in the logbook; `label` is what it was shot with, `place` where the order has it."""

    id: int
    sheet_id: int
    picture: str
    raw_picture: str | None
    state: TakeState
    note: str
    rating: int
    keywords: str
    why: str
    lens: str
    situation: str
    label: str
    shot_at: str
    outing_title: str
    sheet_title: str
    file_name: str
    place: str


class LogbookView(BaseModel):
    """A page of the logbook."""

    entries: list[LogEntryView]


class LogbookCount(BaseModel):
    """How many takes a search finds; `count` goes no further than `counted_to`."""

    count: int
    counted_to: int


class LogbookChoices(BaseModel):
    """What can be chosen among: lenses of takes, kinds of pictures with their words."""

    lenses: list[str]
    situations: dict[str, str]


class ManyTakes(Strict):
    """Several takes judged alike, or put in the bin."""

    ids: Annotated[list[Id], Field(min_length=1, max_length=2000)]
    change: TakeChange = TakeChange()
    bin: bool = False


@router.get("/logbook")
def logbook(context: Shared, looked: Annotated[LogbookPage, Query()]) -> LogbookView:
    """A page of takes of all outings."""
    after = None
    if looked.after is not None and looked.after_id is not None:
        after = (_place_in(looked.order, looked.after), looked.after_id)
    search = looked.search(after, looked.most)
    with context.library.reader() as connection:
        found = log_entries(connection, search)
    return LogbookView(entries=[_view(entry, looked.order) for entry in found])


@router.get("/logbook/count")
def logbook_count(context: Shared, looked: Annotated[Looked, Query()]) -> LogbookCount:
    """How many takes a search finds: asked for apart, as many are slower counted than listed."""
    with context.library.reader() as connection:
        count = count_log_entries(connection, looked.search(), most=COUNTED)
    return LogbookCount(count=count, counted_to=COUNTED)


@router.get("/logbook/choices")
def choices(context: Shared) -> LogbookChoices:
    """What a logbook can be narrowed down by."""
    with context.library.reader() as connection:
        return LogbookChoices(lenses=lenses_of_takes(connection), situations=KINDS)


@router.patch("/takes")
def change_many(many: ManyTakes, context: Shared) -> dict[str, int]:
    """Judge several takes alike, all or none; 404 when one of them is not there."""
    with context.library.writer() as connection:
        for take_id in many.ids:
            change_take(connection, take_id, many.change.judgement)
            if many.bin:
                set_take_deleted(connection, take_id, context.now())
    return {"changed": len(many.ids)}


@router.get("/logbook/file.{ending}", response_class=Response)
def logbook_file(
    ending: Literal["csv", "json", "xmp.zip"], context: Shared, looked: Annotated[Looked, Query()]
) -> Response:
    """The takes of a search as a file: a table, JSON, or XMP sidecars in an archive."""
    name = {"content-disposition": f'attachment; filename="oxlen-logbook.{ending}"'}
    if ending == "xmp.zip":
        with context.library.reader() as connection:
            made = sidecars_zip(every_log_entry(connection, looked.search()))
        return Response(made, media_type="application/zip", headers=name)
    kind = "text/csv" if ending == "csv" else "application/json"
    parts = _streamed(context, looked.search(), ending)
    return StreamingResponse(parts, media_type=f"{kind}; charset=utf-8", headers=name)


def _streamed(context: Context, search: Search, ending: str) -> Iterator[str]:
    """A file part by part; the library stays open for reading until the last."""
    with ExitStack() as stack:
        connection: sqlite3.Connection = stack.enter_context(context.library.reader())
        entries = every_log_entry(connection, search)
        yield from csv_lines(entries) if ending == "csv" else json_parts(entries)


def _place_in(order: Order, after: str) -> Any:
    """The value of an order's column, from a page's own `place`."""
    if order in ("newest", "oldest"):
        return after
    try:
        return float(after)
    except ValueError:
        raise BadInput("That page of the logbook does not exist.", "after") from None


def _view(entry: LogEntry, order: Order) -> LogEntryView:
    known = entry.iso is not None and entry.shutter_s is not None
    place = {"iso": entry.iso, "shutter": entry.shutter_s, "rating": entry.rating}.get(
        order, entry.shot_at
    )
    about = {
        name: getattr(entry, name) for name in LogEntryView.model_fields if hasattr(entry, name)
    }
    return LogEntryView(
        **about,
        picture=entry.sha256,
        raw_picture=entry.raw_sha256,
        label=steps_label(entry.iso or 0, entry.shutter_s or 1) if known else "",
        place=repr(place) if isinstance(place, float) else str(place),
    )
