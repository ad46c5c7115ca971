"""Findings kept with takes, and what they teach together."""

from __future__ import annotations

import json
import sqlite3

from oxlen.core.decisions.chance import chance_of
from oxlen.core.decisions.exposure.ask import SUPPORT
from oxlen.core.decisions.plan import Plan
from oxlen.core.review.learned import TakeLesson
from oxlen.store.takes import judged_takes
from oxlen.takes.checking import (
    CheckedFile,
)


def finding_of(
    found: CheckedFile, decided: Plan, phone_id: str, *, taught_stops: float = 0.0
) -> str:
    """What is kept of a take compared with its plan, as JSON text.

    `taught_stops` is what the meter was corrected by already: what it is off counts from there.
    """
    chance = chance_of(decided)
    doubts = {spot_outcome.name: spot_outcome.plus_minus_stops for spot_outcome in decided.outcome}
    look = found.look
    reported = [spot for spot in found.check.spots if spot.is_known and not spot.is_lost]
    return json.dumps(
        {
            "phone": phone_id,
            "support": decided.brief[SUPPORT],
            "blur": None if look.blur is None else look.blur.kind,
            "change": found.check.change.what,
            "light": found.check.light,
            "off": [
                [checked_spot.unexplained_stops, doubts.get(checked_spot.name)]
                for checked_spot in reported
            ],
            "taught_stops": taught_stops,
            "snr": look.snr,
            "chance": None if chance is None else chance.share,
        }
    )


def lessons(connection: sqlite3.Connection, phone_id: str) -> list[TakeLesson]:
    """What takes by a phone taught, as far as they were compared with their plan."""
    found = []
    for take in judged_takes(connection, phone_id):
        if take.shot_on == "auto":  # nobody dialled it, and nothing was predicted of it
            continue
        reported, settings = json.loads(take.finding or "{}"), json.loads(take.settings)
        found.append(
            TakeLesson(
                None if take.state == "new" else take.state == "kept",
                reported["support"],
                settings.get("shutter_s"),
                focal35_mm=settings.get("focal35_mm"),
                blur=reported["blur"],
                change=reported["change"],
                light=reported["light"],
                off=tuple((stops, doubt) for stops, doubt in reported["off"]),
                taught_stops=reported.get("taught_stops", 0.0),
                snr=reported["snr"],
                chance=reported["chance"],
            )
        )
    return found
