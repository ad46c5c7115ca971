"""Places: kept, found, and what their own pictures teach of their light."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from oxlen.core.errors import BadInput
from oxlen.core.sky.brightness import CLASS_MAG, CLASS_WORDS
from oxlen.core.sky.place import Place
from oxlen.formats.coordinates import position_of
from oxlen.formats.outing.place import LearnedLight, PlaceBody
from oxlen.formats.strict import Strict
from oxlen.light_plan.learning import light_lesson
from oxlen.light_plan.zone import local_time, zone_at, zone_named
from oxlen.pictures.gps_tags import position_in
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.place_light import taken_unix_s
from oxlen.store.kept_places import (
    KeptPlace,
    add_place,
    change_place,
    drop_place,
    kept_place,
    kept_places,
    outings_at,
)
from oxlen.store.outings import outing
from oxlen.store.pictures import kept_picture
from oxlen.store.sheets import sheets_of
from oxlen.store.takes import takes_of

router = APIRouter(prefix="/api", tags=["places"], dependencies=[FOR_PHONES])


class DarkSkyClass(BaseModel):
    """A class of dark sky, 1 the darkest: what it is like, and its brightness."""

    number: int
    words: str
    low_magnitude: float
    high_magnitude: float


class PlaceView(BaseModel):
    """A place, its clock, its sky as it counts, and how many outings belong to it."""

    id: int
    body: PlaceBody
    time_zone: str
    now: str
    magnitude: float
    plus_minus_magnitude: float
    outings: int


class Pasted(Strict):
    """A position as somebody pasted it."""

    text: Annotated[str, Field(min_length=1, max_length=200)]


class Position(BaseModel):
    """A position in degrees, and the time zone there."""

    latitude_deg: float
    longitude_deg: float
    time_zone: str


@router.get("/dark-sky-classes")
def dark_sky_classes() -> list[DarkSkyClass]:
    """The classes a sky can be described by."""
    return [
        DarkSkyClass(
            number=number, words=CLASS_WORDS[number], low_magnitude=low, high_magnitude=high
        )
        for number, (low, high) in CLASS_MAG.items()
    ]


@router.get("/places")
def places(context: Shared) -> list[PlaceView]:
    """All places, by name."""
    with context.library.reader() as connection:
        found = kept_places(connection)
    return [_view(context, place) for place in found]


@router.post("/places", status_code=201)
def new_place(body: PlaceBody, context: Shared) -> PlaceView:
    """Keep a place; its time zone is found where it is not given."""
    with context.library.writer() as connection:
        place_id = add_place(connection, _with_zone(body).model_dump_json(), now=context.now())
    return one_place(place_id, context)


@router.get("/places/{place_id}")
def one_place(place_id: RowId, context: Shared) -> PlaceView:
    """One place."""
    with context.library.reader() as connection:
        return _view(context, kept_place(connection, place_id))


@router.put("/places/{place_id}")
def changed_place(place_id: RowId, body: PlaceBody, context: Shared) -> PlaceView:
    """Keep a place anew."""
    with context.library.writer() as connection:
        written = _with_zone(body).model_dump_json()
        change_place(connection, place_id, written, now=context.now())
    return one_place(place_id, context)


@router.delete("/places/{place_id}", status_code=204)
def remove_place(place_id: RowId, context: Shared) -> None:
    """Delete a place; its outings keep name, position and clock."""
    with context.library.writer() as connection:
        drop_place(connection, place_id)


@router.post("/places/pasted")
def pasted(asked: Pasted) -> Position:
    """The position a pasted text names, and its time zone. 422 where it names none."""
    return _position(position_of(asked.text))


@router.get("/pictures/{sha256}/position")
def position_of_picture(
    sha256: Annotated[str, Field(pattern="^[0-9a-f]{64}$")], context: Shared
) -> Position:
    """Where a kept picture says it was taken. 422 where it does not say."""
    with context.library.reader() as connection:
        kept_picture(connection, sha256)
    found = position_in(context.library.picture_path(sha256), "The picture")
    if found is None:
        raise BadInput("This picture has no location.", "picture")
    return _position(found)


@router.post("/places/{place_id}/learn")
def learn_light(place_id: RowId, context: Shared) -> PlaceView:
    """Compare predicted light with the takes of the place's outings, and use the result."""
    with context.library.reader() as connection:
        body = PlaceBody.model_validate_json(kept_place(connection, place_id).body)
        ids = outings_at(connection, place_id)
        sheets = [
            sheet
            for number in ids
            for sheet in sheets_of(connection, outing(connection, number).id)
        ]
        files = [take.sha256 for sheet in sheets for take in takes_of(connection, sheet.id)]
    zone = zone_named(body.time_zone, body.place)
    read = []
    for sha256 in files:
        report = context.pictures.report(sha256)
        at = taken_unix_s(report.taken_at, zone)
        if at is not None and report.frame is not None and report.frame.mean_ev100 is not None:
            read.append((at, report.frame.mean_ev100))
    found = light_lesson(body.place, read)
    if found is None:
        raise BadInput(
            "At least 3 daytime takes are needed. Use this place for outings first.",
            "takes",
        )
    lesson = LearnedLight(
        offset_stops=found.offset_stops,
        plus_minus_stops=found.plus_minus_stops,
        readings=found.pictures,
    )
    return changed_place(place_id, body.model_copy(update={"learned": lesson}), context)


def _position(place: Place) -> Position:
    return Position(
        latitude_deg=place.latitude_deg,
        longitude_deg=place.longitude_deg,
        time_zone=zone_at(place),
    )


def _with_zone(body: PlaceBody) -> PlaceBody:
    zone = zone_named(body.time_zone, body.place)
    return body.model_copy(update={"time_zone": zone.key})


def _view(context: Context, kept: KeptPlace) -> PlaceView:
    body = PlaceBody.model_validate_json(kept.body)
    zone = zone_named(body.time_zone, body.place)
    magnitude, plus_minus = body.sky
    with context.library.reader() as connection:
        hung = len(outings_at(connection, kept.id))
    return PlaceView(
        id=kept.id,
        body=body,
        time_zone=zone.key,
        now=local_time(context.clock().timestamp(), zone).isoformat(),
        magnitude=magnitude,
        plus_minus_magnitude=plus_minus,
        outings=hung,
    )
