"""When the sheets of an outing work: solved by a worker, once as long as nothing changes."""

from __future__ import annotations

import json
from collections.abc import Sequence
from concurrent.futures import Future
from pathlib import Path
from zoneinfo import ZoneInfo

from oxlen.core.errors import OxlenError
from oxlen.formats.sheet_upgrades import read_sheet
from oxlen.hours.when import DayAsked, SheetLightAsked, When
from oxlen.server.context import Context
from oxlen.server.place_light import taken_unix_s
from oxlen.server.shared_work import SharedJob, in_background
from oxlen.store.sheets import Sheet
from oxlen.workers.at_hand import Part, windows_of_sheets
from oxlen.workers.crew import Hand, outcome

FEW_SHEETS, AT_ONCE = 40, 30
"""More sheets are for a worker of their own; so many are handed to it at once."""


def windows_job(
    context: Context, sheets: Sequence[Sheet], asked: DayAsked
) -> SharedJob[dict[int, tuple[str, When]]]:
    """Each sheet solved for every quarter of an hour, by a worker, once as long as all stays."""
    phones = {str(json.loads(one.body).get("phone")) for one in sheets}
    kit = [context.filters_at_hand(), context.clip_ons_at_hand()]
    used = [_phone(context, phone) for phone in sorted(phones)]
    states = tuple((one.id, one.version, one.changed_at) for one in sheets)

    def begin(beside: Path) -> Future[dict[int, tuple[str, When]]]:
        return in_background(lambda: _solved(context, sheets, asked, beside=beside))

    key = (states, repr(asked), repr(kit), *used)
    return context.windows.job(key, begin, context.library.incoming_path)


def _solved(
    context: Context, sheets: Sequence[Sheet], asked: DayAsked, *, beside: Path
) -> dict[int, tuple[str, When]]:
    """All sheets, some at a time: a worker solves them while the next are read."""
    hand: Hand = "bench" if len(sheets) <= FEW_SHEETS else "import"
    jobs = []
    for first in range(0, len(sheets), AT_ONCE):
        lights = _lights(context, sheets[first : first + AT_ONCE], asked.where.zone)
        of = Part(first, len(sheets))
        jobs.append(
            context.crew.begin(hand, windows_of_sheets, beside, lights, asked=asked, part=of)
        )
    return {number: one for job in jobs for number, one in outcome(job).items()}


def _phone(context: Context, phone_id: str) -> str:
    """What tells a phone from itself after a change."""
    try:
        return context.find_phone(phone_id).model_dump_json()
    except OxlenError:
        return ""


def _lights(
    context: Context, sheets: Sequence[Sheet], zone: ZoneInfo
) -> dict[int, SheetLightAsked]:
    """What each sheet asks for and when its light was read; those that cannot be decided not."""
    found = {}
    for kept in sheets:
        try:
            body = read_sheet(kept.body)
            brief, _ = context.asked(body)
        except OxlenError:  # its own page says why
            continue
        read = None
        if body.picture is not None:
            read = taken_unix_s(context.pictures.report(body.picture).taken_at, zone)
        found[kept.id] = SheetLightAsked(body.title, brief, read)
    return found
