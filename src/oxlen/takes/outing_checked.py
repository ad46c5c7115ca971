"""An outing file looked over part by part: what cannot be used is left out and named."""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator
from datetime import UTC, datetime
from typing import Any

from pydantic import TypeAdapter, ValidationError

from oxlen.core.decisions import series_parts
from oxlen.core.errors import UnreadableSheet
from oxlen.formats.outing.file import (
    CarriedPlan,
    CarriedSeries,
    CarriedSheet,
    CarriedTake,
    OutingFacts,
    OutingFile,
)
from oxlen.formats.outing.parts import OutingDate, TimeZone
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.formats.picture_report import SettingsFacts
from oxlen.formats.plan.plan import PlanFile
from oxlen.formats.sheet.upgrades import read_sheet

OLDEST = datetime(1970, 1, 1, tzinfo=UTC).isoformat(timespec="seconds")
"""When a sheet was changed that does not say so: any state here is newer."""
NO_SETTINGS = dict.fromkeys(SettingsFacts.model_fields)


def sound_parts(file: OutingFile) -> tuple[OutingFile, list[str]]:
    """An outing file with what can be used of it, and sentences about what is left out."""
    notes: list[str] = []
    return (
        file.model_copy(
            update={
                "outing": _outing(file.outing, notes),
                "sheets": list(_sheets(file.sheets, notes)),
                "phones": list(_phones(file.phones, notes)),
                "series": list(_series(file.series, notes)),
            }
        ),
        notes,
    )


def _series(series: Iterable[CarriedSeries], notes: list[str]) -> Iterator[CarriedSeries]:
    parts = {part.id for part in series_parts()}
    for carried in series:
        try:
            read_sheet(json.dumps(carried.pattern))
        except (UnreadableSheet, ValueError):
            notes.append(f"Series “{carried.title}” cannot be read; it was left out.")
            continue
        locked = [part for part in carried.locked if part in parts]
        if locked:
            yield carried.model_copy(update={"locked": locked})


def _outing(facts: OutingFacts, notes: list[str]) -> OutingFacts:
    change: dict[str, Any] = {}
    for field, kind, name in (("date", OutingDate, "date"), ("time_zone", TimeZone, "time zone")):
        stated = getattr(facts, field)
        if stated is not None and not _fits(kind, stated):
            change[field] = None
            notes.append(f"The outing's {name} “{stated}” does not exist; it was left out.")
    return facts.model_copy(update=change)


def _sheets(sheets: Iterable[CarriedSheet], notes: list[str]) -> Iterator[CarriedSheet]:
    for place, carried in enumerate(sheets):
        try:
            body = read_sheet(json.dumps(carried.body))
        except (UnreadableSheet, ValueError):
            named = carried.body.get("title")
            title = f"“{named[:120]}”" if isinstance(named, str) and named else f"{place + 1}"
            notes.append(f"Sheet {title} cannot be read; it was left out.")
            continue
        plans = [_plan(plan) for plan in carried.plans]
        if None in plans:
            notes.append(f"“{body.title}”: a slip it was shot by cannot be read; it was left out.")
        takes = [_take(take, plans) for take in carried.takes]
        if any(new.settings != old.settings for new, old in zip(takes, carried.takes, strict=True)):
            words = "settings of takes cannot be read; they were left out."
            notes.append(f"“{body.title}”: {words}")
        yield carried.model_copy(
            update={
                "changed_at": _moment(carried.changed_at) or OLDEST,
                "plans": [plan or CarriedPlan(plan={}) for plan in plans],
                "takes": takes,
            }
        )


def _plan(carried: CarriedPlan) -> CarriedPlan | None:
    return carried if _fits(PlanFile, carried.plan) else None


def _take(carried: CarriedTake, plans: list[CarriedPlan | None]) -> CarriedTake:
    """A take with settings that can be read, and its slip only where that is sound."""
    change: dict[str, Any] = {}
    if not _fits(SettingsFacts, carried.settings):
        change["settings"] = NO_SETTINGS
    if carried.plan is not None and (carried.plan >= len(plans) or plans[carried.plan] is None):
        change |= {"plan": None, "frame": None}
    if carried.taken_at is not None and _moment(carried.taken_at) is None:
        change["taken_at"] = None
    return carried.model_copy(update=change)


def _phones(phones: Iterable[dict[str, Any]], notes: list[str]) -> Iterator[dict[str, Any]]:
    for place, carried in enumerate(phones):
        try:
            profile = PhoneProfile.model_validate(carried)
        except ValidationError:
            notes.append(f"Phone {place + 1} of the file cannot be read; it was left out.")
            continue
        if profile.id in shipped_profiles():
            notes.append(f"{profile.name} has the id of an example phone; it was left out.")
            continue
        yield carried


def _fits(kind: Any, value: Any) -> bool:
    try:
        TypeAdapter(kind).validate_python(value)
    except ValidationError:
        return False
    return True


def _moment(text: str) -> str | None:
    """A moment as kept, in UTC where it says its offset; None where it is none."""
    try:
        found = datetime.fromisoformat(text)
        return text if found.tzinfo is None else found.astimezone(UTC).isoformat(timespec="seconds")
    except (ValueError, OverflowError):
        return None
