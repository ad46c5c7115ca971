"""Pictures that were shot, on their way to a sheet or into the inbox: each once, RAW paired."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from typing import Any

from oxlen.core.review.same_shot import FileOfShot, is_same_shot
from oxlen.store.inbox import add_to_inbox, inbox, pair_in_inbox
from oxlen.store.pictures import kept_picture, tie_picture
from oxlen.store.sheets import sheet
from oxlen.store.takes import NewTake, pair_files, takes_of
from oxlen.takes.importing import Attach, as_take, once
from oxlen.views.proposed import seconds_of


def file_of_shot(report: Mapping[str, Any]) -> FileOfShot:
    """A picture's report as a file of a shot."""
    settings = report["settings"]
    return FileOfShot(
        report["file"]["name"],
        report["file"]["kind"] == "raw",
        settings["iso"],
        shutter_s=settings["shutter_s"],
        taken_s=seconds_of(report["taken_at"]),
    )


def as_take_once(sheet_id: int, mark: str | None, now: str) -> Attach:
    """Attach as a take of a sheet, unless it is one already.

    The RAW of a take, or what the phone made of one, is put beside it. A sheet without a picture
    meters by its first take.
    """

    def attach(connection: sqlite3.Connection, sha256: str, report: dict[str, Any]) -> int:
        sheet(connection, sheet_id)  # NotFound for one that is gone
        put_to_sheet(connection, sheet_id, sha256, report=report, now=now)
        return sheet_id

    return once(attach, mark, now=now)


def put_to_sheet(
    connection: sqlite3.Connection, sheet_id: int, sha256: str, *, report: dict[str, Any], now: str
) -> None:
    """Make a kept picture a take of a sheet, or one half of a take that is there."""
    mine = file_of_shot(report)
    for take in takes_of(connection, sheet_id):
        if sha256 in (take.sha256, take.raw_sha256):
            return
        other = file_of_shot(json.loads(kept_picture(connection, take.sha256).report))
        if take.raw_sha256 is None and is_same_shot(mine, other):
            processed, raw = (take.sha256, sha256) if mine.is_raw else (sha256, take.sha256)
            pair_files(connection, take.id, processed_sha256=processed, raw_sha256=raw)
            tie_picture(connection, sheet_id, sha256)
            return
    as_take(NewTake(sheet_id, shot_on="unknown"), now=now)(connection, sha256, report)
    tie_picture(connection, sheet_id, sha256)


def into_inbox(mark: str | None, now: str) -> Attach:
    """Attach to no sheet yet: it waits in the inbox, each content once, RAW beside its picture."""

    def attach(connection: sqlite3.Connection, sha256: str, report: dict[str, Any]) -> None:
        mine = file_of_shot(report)
        entry_id = add_to_inbox(connection, sha256, mark=mark, now=now)
        if entry_id is None:
            return
        for waiting in inbox(connection):
            other = file_of_shot(json.loads(waiting.report))
            if waiting.id != entry_id and waiting.raw_sha256 is None and is_same_shot(mine, other):
                processed, raw = (
                    (waiting.sha256, sha256) if mine.is_raw else (sha256, waiting.sha256)
                )
                pair_in_inbox(connection, waiting.id, sha256=processed, raw_sha256=raw)
                return

    return attach
