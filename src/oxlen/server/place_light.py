"""What routes share of places: the place of an outing, and times by its clock."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from datetime import datetime
from zoneinfo import ZoneInfo

from oxlen.core.errors import BadInput
from oxlen.core.sky.dark_windows import Wanted
from oxlen.formats.outing.place import PlaceBody
from oxlen.light_plan.night_place import NightPlace
from oxlen.light_plan.zone import zone_named
from oxlen.store.kept_places import kept_place
from oxlen.store.outings import Outing


def night_place(body: PlaceBody, wanted: Wanted | None = None) -> NightPlace:
    """A kept place as nights are planned at it, its horizon counted."""
    magnitude, plus_minus = body.sky
    return NightPlace(
        body.place,
        zone_named(body.time_zone, body.place),
        magnitude,
        plus_minus=plus_minus,
        wanted=replace(wanted or Wanted(), horizon=body.hidden),
        towns=body.towns,
    )


def place_of(connection: sqlite3.Connection, entry: Outing) -> PlaceBody:
    """The place of an outing, else its own position; BadInput where it has neither."""
    if entry.place_id is not None:
        return PlaceBody.model_validate_json(kept_place(connection, entry.place_id).body)
    if entry.latitude_deg is None or entry.longitude_deg is None:
        raise BadInput("Set the outing's place to see its light.", "place_id")
    return PlaceBody(
        name=entry.place or entry.title,
        latitude_deg=entry.latitude_deg,
        longitude_deg=entry.longitude_deg,
        time_zone=entry.time_zone,
    )


def taken_unix_s(stamp: str | None, zone: ZoneInfo) -> float | None:
    """When a file says it was taken; without an offset by the clock of a zone."""
    try:
        found = datetime.fromisoformat(stamp or "")
    except ValueError:
        return None
    return (found if found.tzinfo else found.replace(tzinfo=zone)).timestamp()
