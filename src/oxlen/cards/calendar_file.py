"""An outing as a calendar file (iCalendar, RFC 5545)."""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from icalendar import Alarm, Calendar, Event

from oxlen.core.errors import BadInput
from oxlen.store.outings import Outing

CLOCK = re.compile(r"\b([01]?\d|2[0-3])[:.]([0-5]\d)\b")
USUAL_LENGTH = timedelta(hours=1)
BEFOREHAND = timedelta(hours=-1)


def outing_calendar(outing: Outing, titles: Sequence[str], now: datetime) -> bytes:
    """The outing as an event: at the hours of its light where they are given, else all day.

    `now` is when it is written. BadInput for an outing without a date.
    """
    if outing.date is None:
        raise BadInput("Give the outing a date first.", "date")
    event = Event()
    event.add("uid", f"{outing.uid}@oxlen")
    event.add("dtstamp", now)
    event.add("summary", outing.title)
    begins, ends = _hours(outing, date.fromisoformat(outing.date))
    event.add("dtstart", begins)
    event.add("dtend", ends)
    if outing.place:
        event.add("location", outing.place)
    if outing.latitude_deg is not None and outing.longitude_deg is not None:
        event.add("geo", (outing.latitude_deg, outing.longitude_deg))
    event.add("description", _description(outing, titles))
    event.add_component(_reminder(outing.title))
    calendar = Calendar()
    calendar.add("prodid", "-//Oxlen//outing//EN")
    calendar.add("version", "2.0")
    calendar.add_component(event)
    calendar.add_missing_timezones()
    return bytes(calendar.to_ical())


Timed = tuple[datetime, datetime, str, str]
"""From, to, what it is called, and why."""


def windows_calendar(place: str, windows: Sequence[Timed], *, now: datetime) -> bytes:
    """Spans of time at a place as events. `now` is when it is written."""
    calendar = Calendar()
    calendar.add("prodid", "-//Oxlen//nights//EN")
    calendar.add("version", "2.0")
    for begins, ends, title, why in windows:
        event = Event()
        event.add("uid", f"{int(begins.timestamp())}-light@oxlen")
        event.add("dtstamp", now)
        event.add("summary", title)
        event.add("dtstart", begins)
        event.add("dtend", ends)
        event.add("location", place)
        event.add("description", why)
        calendar.add_component(event)
    calendar.add_missing_timezones()
    return bytes(calendar.to_ical())


def _description(outing: Outing, titles: Sequence[str]) -> str:
    light = [f"Light: {outing.light_window}"] if outing.light_window else []
    return "\n".join([*light, *(f"{number}. {title}" for number, title in enumerate(titles, 1))])


def _reminder(title: str) -> Alarm:
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", f"{title}: batteries, tripod, cards")
    alarm.add("trigger", BEFOREHAND)
    return alarm


def _hours(outing: Outing, day: date) -> tuple[date | datetime, date | datetime]:
    """When it begins and ends; days where its light names no hours."""
    found = [time(int(hour), int(minute)) for hour, minute in CLOCK.findall(outing.light_window)]
    if not found:
        return day, day + timedelta(days=1)
    try:
        zone = ZoneInfo(outing.time_zone) if outing.time_zone else None
    except (ZoneInfoNotFoundError, ValueError):
        zone = None
    begins = datetime.combine(day, found[0], zone)
    ends = datetime.combine(day, found[1], zone) if len(found) > 1 else begins + USUAL_LENGTH
    return begins, ends if ends > begins else ends + timedelta(days=1)
