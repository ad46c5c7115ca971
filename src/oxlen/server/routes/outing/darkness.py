"""When it is dark where one photographs: pages that follow the light turn dark by it."""

from __future__ import annotations

from datetime import UTC, date
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from oxlen.core.errors import BadInput
from oxlen.core.sky.twilight import dark_spans
from oxlen.formats.outing.place import PlaceBody
from oxlen.server.context import Context, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.place_light import place_of
from oxlen.store.outings import outings

router = APIRouter(prefix="/api", tags=["darkness"], dependencies=[FOR_PHONES])
SPAN_S = 7 * 86_400.0
"""Own choice: a phone may be away from the computer for a week."""
LOOKED_AT = 50
"""Own choice: outings in which a place is looked for, the newest first."""

DarkSpan = Annotated[tuple[float, float], Field(description="from and to, seconds since 1970 UTC")]


class Darkness(BaseModel):
    """Spans of a week in which it is dark at a place; no place where no outing has one."""

    place: str | None
    spans: list[DarkSpan]


@router.get("/darkness")
def darkness(context: Shared) -> Darkness:
    """When it is dark at the place of today's outing, else of the newest that has a place."""
    place = _place(context, context.clock().date())
    if place is None:
        return Darkness(place=None, spans=[])
    start_unix_s = context.clock().astimezone(UTC).timestamp()
    return Darkness(place=place.name, spans=list(dark_spans(place.place, start_unix_s, SPAN_S)))


def _place(context: Context, today: date) -> PlaceBody | None:
    with context.library.reader() as connection:
        newest = outings(connection, most=LOOKED_AT)
        for entry in sorted(newest, key=lambda outing: outing.date != today.isoformat()):
            try:
                return place_of(connection, entry)
            except BadInput:  # it has none
                continue
    return None
