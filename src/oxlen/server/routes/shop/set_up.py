"""Shop series: how it is set up once, and when a window's light stays the same."""

from __future__ import annotations

from datetime import datetime

from fastapi import APIRouter

from oxlen.core.errors import BadInput
from oxlen.core.series.window_light import steady_light
from oxlen.core.sky.day import day_light
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.light_plan.zone import clock, day_span_s, midnight_unix_s, zone_named
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.place_light import place_of
from oxlen.shop.kept_series import kept_series
from oxlen.shop.set_up_view import SetUpView, set_up_view
from oxlen.store.outings import outing
from oxlen.store.sheets import sheet
from oxlen.views.match_to_phone import match_to_phone

router = APIRouter(prefix="/api", tags=["shop series"], dependencies=[FOR_PHONES])
NO_PLACE = "Set the outing’s place to see how long the light stays the same."


@router.get("/sheets/{sheet_id}/shop/set-up")
def shop_set_up(sheet_id: RowId, context: Shared) -> SetUpView:
    """Where phone, lamps and background go for the largest thing of the list."""
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
        kept = kept_series(connection, sheet_id)
    body = match_to_phone(body, context.find_phone(body.phone)).body
    phone = context.find_phone(body.phone).to_phone()
    window = _window_words(context, sheet_id) if kept.options.set_up.light == "window" else ""
    return set_up_view(phone, kept.things, kept.options.set_up, window=window)


def _window_words(context: Context, sheet_id: int) -> str:
    """The longest span of steady light of the outing's day, or of today, as a sentence."""
    with context.library.reader() as connection:
        entry = outing(connection, sheet(connection, sheet_id).outing_id)
        try:
            body = place_of(connection, entry)
        except BadInput:
            return NO_PLACE
    zone = zone_named(body.time_zone, body.place)
    now = context.clock()
    day = datetime.fromisoformat(entry.date).date() if entry.date else now.astimezone(zone).date()
    start = midnight_unix_s(day, zone)
    light = day_light(
        body.place, start, offset_stops=body.offset_stops, span_s=day_span_s(day, zone)
    )
    is_today = start <= now.timestamp() < start + day_span_s(day, zone)
    found = steady_light(light, now.timestamp() if is_today else None)
    when = f"{day:%a} {day.day} {day:%b %Y}"
    if found is None:
        return f"On {when} window light is never steady. Use lamps."
    from_to = " to ".join(clock(at, zone) for at in (found.from_unix_s, found.to_unix_s))
    return (
        f"{when}, clear sky: window light stays within 1/3 stop from {from_to}, "
        f"{found.minutes:.0f} min."
    )
