"""Many sheets at once: briefed in the server, worked on by two workers, a few sheets at a time."""

from __future__ import annotations

import json
from collections.abc import Callable, Hashable, Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import TypeVar

from oxlen.core.errors import OxlenError, UnreadableSheet
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.phones.briefed_sheet import BriefedSheet, briefed_sheet
from oxlen.server.context import Context
from oxlen.store.long_work import ProgressReporter
from oxlen.store.sheets import Sheet
from oxlen.views.match_to_phone import match_to_phone
from oxlen.workers.worker_pool import WorkerKind, WorkerPool

FEW_SHEETS = 40
"""More sheets are for two workers."""
AT_ONCE = 10
"""So many are handed to a worker at once; between them others have their turn."""

Asked = TypeVar("Asked")
Done = TypeVar("Done")


@dataclass(frozen=True)
class KeptSheet:
    """A kept sheet that can be read, with its brief, or why there is none."""

    kept: Sheet
    body: SheetBody
    briefed: BriefedSheet | None
    why_not: str = ""


def state_of(context: Context, sheets: Sequence[Sheet]) -> Hashable:
    """What tells the answers to sheets from those after a change of a sheet, a phone or the kit."""
    phones = {str(json.loads(sheet.body).get("phone")) for sheet in sheets}
    used = tuple(_phone(context, phone) for phone in sorted(phones))
    states = tuple((sheet.id, sheet.version, sheet.changed_at) for sheet in sheets)
    return states, repr(context.kit_at_hand()), used


def briefed_sheets(context: Context, sheets: Sequence[Sheet]) -> Iterator[KeptSheet]:
    """Sheets with their briefs; those that cannot be read are left out, for the others' sake."""
    kit, phone = context.kit_at_hand(), cache(context.find_phone)
    for kept in sheets:
        try:
            body = read_sheet(kept.body)
        except UnreadableSheet:
            continue
        try:
            profile = phone(body.phone)
            now = match_to_phone(body, profile).body
            yield KeptSheet(kept, now, briefed_sheet(now, profile, context.pictures, kit=kit))
        except OxlenError as error:
            yield KeptSheet(kept, body, None, why_not=str(error))


def in_parts(
    pool: WorkerPool,
    task: Callable[[Sequence[Asked]], list[Done]],
    given: Iterator[Asked],
    *,
    whole: int,
    beside: Path,
) -> list[Done]:
    """Do a task for all that is given, in order; progress is written beside a file."""
    kinds: list[WorkerKind] = ["bench"] if whole <= FEW_SHEETS else ["import", "bench"]
    teller = ProgressReporter(beside)
    found: list[Future[list[Done]]] = []
    free = list(kinds)

    def work(part: Sequence[Asked]) -> list[Done]:
        kind = free.pop()
        try:
            done = pool.do(kind, task, part)
        finally:
            free.append(kind)
        teller.tell(min(whole, sum(part.done() for part in found) * AT_ONCE), whole)
        return done

    with ThreadPoolExecutor(len(kinds)) as threads:
        try:
            while part := _next(given):
                found.append(threads.submit(work, part))
            return [done for part in found for done in part.result()]
        finally:
            threads.shutdown(wait=False, cancel_futures=True)  # of no use once one has failed


def _next(given: Iterator[Asked]) -> list[Asked]:
    return [item for _, item in zip(range(AT_ONCE), given, strict=False)]


def _phone(context: Context, phone_id: str) -> str:
    try:
        return context.find_phone(phone_id).model_dump_json()
    except OxlenError:
        return ""
