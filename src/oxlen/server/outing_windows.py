"""When the sheets of an outing work: solved by workers, once as long as nothing changes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from concurrent.futures import Future
from functools import partial
from pathlib import Path
from zoneinfo import ZoneInfo

from oxlen.light_plan.when import DayAsked, SheetLightAsked
from oxlen.server.context import Context
from oxlen.server.many_sheets import briefed_sheets, in_parts, state_of
from oxlen.server.place_light import taken_unix_s
from oxlen.server.shared_work import SharedJob, in_background
from oxlen.store.sheets import Sheet
from oxlen.workers.sheets import SheetWindows, windows_of_sheets


def windows_job(
    context: Context, sheets: Sequence[Sheet], asked: DayAsked
) -> SharedJob[list[SheetWindows]]:
    """Each sheet solved for every quarter of an hour, by workers, once as long as all stays."""

    def begin(beside: Path) -> Future[list[SheetWindows]]:
        return in_background(lambda: _solved(context, sheets, asked, beside=beside))

    key = (state_of(context, sheets), repr(asked))
    return context.windows.job(key, begin, context.library.incoming_path)


def _solved(
    context: Context, sheets: Sequence[Sheet], asked: DayAsked, *, beside: Path
) -> list[SheetWindows]:
    return in_parts(
        context.pool,
        partial(windows_of_sheets, asked=asked),
        _lights(context, sheets, asked.where.zone),
        whole=len(sheets),
        beside=beside,
    )


def _lights(
    context: Context, sheets: Sequence[Sheet], zone: ZoneInfo
) -> Iterator[tuple[int, SheetLightAsked]]:
    """What each sheet asks for and when its light was read; those that cannot be decided not."""
    for sheet in briefed_sheets(context, sheets):
        if sheet.briefed is None:  # its own page says why
            continue
        picture = sheet.briefed.light.picture
        read = None if picture is None else taken_unix_s(picture.report.taken_at, zone)
        yield sheet.kept.id, SheetLightAsked(sheet.body.title, sheet.briefed.brief, read)
